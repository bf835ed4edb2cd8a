#include "files/send.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/hpgl.h"
#include "files/safe_write.h"

#include <array>
#include <cerrno>
#include <charconv>
#include <chrono>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <linux/sockios.h>
#include <memory>
#include <netdb.h>
#include <optional>
#include <poll.h>
#include <sys/ioctl.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <termios.h>
#include <thread>
#include <unistd.h>
#include <utility>

namespace hasami {

namespace {

constexpr int patience = 10'000; // ms, to connect
constexpr int rest = 100;        // ms between two looks at whether it is to stop
constexpr std::size_t atOnce = 4096;

/// An open descriptor.
class Handle {
public:
    explicit Handle(int descriptor = -1) : descriptor_(descriptor) {}
    Handle(Handle&& other) noexcept : descriptor_(std::exchange(other.descriptor_, -1)) {}
    Handle& operator=(Handle&& other) noexcept {
        std::swap(descriptor_, other.descriptor_);
        return *this;
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    ~Handle() {
        if (descriptor_ >= 0)
            close(descriptor_);
    }
    int get() const { return descriptor_; }

private:
    int descriptor_;
};

std::string systemReason(int error) {
    return std::strerror(error); // NOLINT(concurrency-mt-unsafe): the C library's own texts
}

std::optional<int> wholeNumber(std::string_view text, int most) {
    int value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size() || value < 1 || value > most)
        return {};
    return value;
}

/// Whether it can be written to within a time.
bool waitForRoom(int descriptor, int milliseconds) {
    pollfd asked{descriptor, POLLOUT, 0};
    return poll(&asked, 1, milliseconds) > 0;
}

bool isConnected(int socket) {
    int error = 0;
    socklen_t size = sizeof error;
    return getsockopt(socket, SOL_SOCKET, SO_ERROR, &error, &size) == 0 && error == 0;
}

struct FreeAddresses {
    void operator()(addrinfo* first) const { freeaddrinfo(first); }
};

Handle connectTo(const SendTarget& target, const std::stop_token& stop) {
    addrinfo hints{};
    hints.ai_socktype = SOCK_STREAM;
    addrinfo* found = nullptr;
    if (getaddrinfo(target.host.c_str(), std::to_string(target.port).c_str(), &hints, &found) != 0)
        throw OutputError(sentence("%1 is not known on the network", target.host));
    const std::unique_ptr<addrinfo, FreeAddresses> all(found);
    for (const addrinfo* address = found; address; address = address->ai_next) {
        Handle own(socket(address->ai_family, address->ai_socktype | SOCK_NONBLOCK | SOCK_CLOEXEC,
                          address->ai_protocol));
        if (own.get() < 0)
            continue;
        bool isThere = connect(own.get(), address->ai_addr, address->ai_addrlen) == 0;
        for (int waited = 0; !isThere && errno == EINPROGRESS && waited < patience; waited += rest) {
            throwIfStopped(stop);
            if (waitForRoom(own.get(), rest)) {
                isThere = isConnected(own.get());
                break;
            }
            errno = EINPROGRESS;
        }
        if (isThere)
            return own;
    }
    throw OutputError(sentence("There is no connection to %1", target.name()));
}

std::optional<speed_t> speedOf(int baud) {
    constexpr std::array<std::pair<int, speed_t>, 8> speeds{{{1200, B1200},
                                                             {2400, B2400},
                                                             {4800, B4800},
                                                             {9600, B9600},
                                                             {19'200, B19200},
                                                             {38'400, B38400},
                                                             {57'600, B57600},
                                                             {115'200, B115200}}};
    for (const auto& [number, speed] : speeds)
        if (number == baud)
            return speed;
    return {};
}

/// Bytes as they are, with the flow control that the machine asks for by characters or by its lines.
void setUpSerial(int descriptor, const SendTarget& target) {
    termios settings{};
    if (tcgetattr(descriptor, &settings) != 0)
        return; // no serial line: a printer's device takes bytes as they are
    cfmakeraw(&settings);
    settings.c_iflag |= target.usesLines ? 0 : IXON;
    settings.c_cflag |= CLOCAL | (target.usesLines ? CRTSCTS : 0);
    if (const auto speed = speedOf(target.baud)) {
        cfsetispeed(&settings, *speed);
        cfsetospeed(&settings, *speed);
    }
    tcsetattr(descriptor, TCSANOW, &settings);
}

Handle openDevice(const SendTarget& target, int access = O_WRONLY) {
    struct stat about {};
    const std::string name = target.name();
    if (stat(target.path.c_str(), &about) == 0 && !S_ISCHR(about.st_mode) && !S_ISFIFO(about.st_mode))
        throw OutputError(sentence("%1 is a file or a folder, and no device", name));
    Handle own(open(target.path.c_str(), access | O_NOCTTY | O_NONBLOCK | O_CLOEXEC));
    if (own.get() < 0)
        throw OutputError(sentence("%1 can't be opened: %2", name, systemReason(errno)));
    setUpSerial(own.get(), target);
    return own;
}

[[noreturn]] void refuseEnded(const SendTarget& target, double share, int error) {
    throw OutputError(sentence("%1 ended the connection after %2 %: %3", target.name(),
                               numberText(100 * share, 0), systemReason(error)));
}

/// Bytes on their way to a machine.
class Stream {
public:
    Stream(int descriptor, const SendTarget& target, std::string_view bytes)
        : descriptor_(descriptor), target_(target), bytes_(bytes) {}

    bool isDone() const { return sent_ == bytes_.size(); }
    std::string_view left() const { return bytes_.substr(sent_); }
    double share() const { return double(sent_) / double(std::max<std::size_t>(1, bytes_.size())); }

    /// Waits a moment for room, then writes as much as fits of the next `most`.
    void pour(std::size_t most) {
        if (!waitForRoom(descriptor_, rest))
            return;
        const ssize_t count =
            write(descriptor_, bytes_.data() + sent_, std::min({atOnce, most, bytes_.size() - sent_}));
        if (count < 0 && (errno == EAGAIN || errno == EINTR))
            std::this_thread::sleep_for(std::chrono::milliseconds(rest));
        else if (count <= 0)
            refuseEnded(target_, share(), errno);
        else
            sent_ += std::size_t(count);
    }

    /// All of it, or what goes within a time.
    void pourWithin(std::chrono::milliseconds time) {
        const auto end = std::chrono::steady_clock::now() + time;
        while (!isDone() && std::chrono::steady_clock::now() < end)
            pour(atOnce);
    }

private:
    int descriptor_;
    const SendTarget& target_;
    std::string_view bytes_;
    std::size_t sent_ = 0;
};

constexpr std::chrono::milliseconds patienceToLift(2000);
constexpr int patienceForAnswer = 5000; // ms

/// At the end of a line.
void hold(int descriptor, const SendTarget& target, const std::atomic<bool>& isPaused,
          const std::stop_token& stop) {
    Stream(descriptor, target, "PU;").pourWithin(patienceToLift);
    while (isPaused && !stop.stop_requested())
        std::this_thread::sleep_for(std::chrono::milliseconds(rest));
}

/// A number cut short would be a way across the sheet, knife down: first the command under way ends.
void liftAfter(const Stream& stream, int descriptor, std::string_view hpgl, const SendTarget& target) {
    const std::size_t sent = hpgl.size() - stream.left().size();
    const bool isBetween = sent == 0 || hpgl[sent - 1] == ';' || hpgl[sent - 1] == '\n';
    const std::size_t end = isBetween ? 0 : std::min(stream.left().find(';'), stream.left().size() - 1) + 1;
    const std::string last = std::string(stream.left().substr(0, end)) + std::string(hpglLift);
    Stream(descriptor, target, last).pourWithin(patienceToLift);
}

/// False where it was stopped.
bool pourAll(int descriptor, std::string_view hpgl, const SendTarget& target, const SendProgress& progress,
             const std::stop_token& stop, const std::atomic<bool>* isPaused) {
    Stream stream(descriptor, target, hpgl);
    while (!stream.isDone()) {
        if (stop.stop_requested()) {
            liftAfter(stream, descriptor, hpgl, target);
            return false;
        }
        std::size_t most = atOnce;
        if (isPaused && *isPaused) {
            most = std::min(stream.left().find("PU"), stream.left().size());
            if (most == 0) {
                hold(descriptor, target, *isPaused, stop);
                most = 2;
            }
        }
        stream.pour(most);
        if (progress)
            progress(stream.share());
    }
    return true;
}

/// Waits until the machine has received everything; false if it was stopped.
bool waitForReceipt(int socket, const SendTarget& target, std::size_t size, const std::stop_token& stop) {
    for (int left = 0; ioctl(socket, SIOCOUTQ, &left) == 0 && left > 0;) {
        if (stop.stop_requested())
            return false;
        int error = 0;
        socklen_t length = sizeof error;
        if (getsockopt(socket, SOL_SOCKET, SO_ERROR, &error, &length) == 0 && error != 0)
            refuseEnded(target, 1 - double(left) / double(size), error);
        std::this_thread::sleep_for(std::chrono::milliseconds(rest));
    }
    int error = 0;
    socklen_t length = sizeof error;
    if (getsockopt(socket, SOL_SOCKET, SO_ERROR, &error, &length) == 0 && error != 0)
        refuseEnded(target, 1, error);
    return true;
}

} // namespace

/// PATH, PATH,BAUD or PATH,BAUD,rtscts.
static bool readDevice(std::string text, SendTarget& target) {
    constexpr std::string_view byLines = ",rtscts";
    target.usesLines = text.ends_with(byLines);
    if (target.usesLines)
        text.resize(text.size() - byLines.size());
    const auto comma = text.rfind(',');
    target.path = text.substr(0, comma);
    const auto baud = comma == std::string::npos
                          ? std::optional(0)
                          : wholeNumber(std::string_view(text).substr(comma + 1), 115'200);
    if (target.path.empty() || !baud || (*baud != 0 && !speedOf(*baud)))
        return false;
    target.baud = *baud;
    return true;
}

SendTarget SendTarget::parse(const std::string& text) {
    SendTarget target;
    if (text.starts_with("tcp:")) {
        const auto colon = text.rfind(':');
        target.host = text.substr(4, colon > 4 ? colon - 4 : 0);
        if (target.host.size() > 2 && target.host.front() == '[' && target.host.back() == ']') // IPv6
            target.host = target.host.substr(1, target.host.size() - 2);
        const auto port = wholeNumber(std::string_view(text).substr(colon + 1), 65'535);
        if (!target.host.empty() && port) {
            target.port = *port;
            return target;
        }
    } else if (text.starts_with("device:")) {
        target.kind = Kind::device;
        if (readDevice(text.substr(7), target))
            return target;
    } else if (text.starts_with("folder:") && text.size() > 7) {
        target.kind = Kind::folder;
        target.path = text.substr(7);
        return target;
    }
    throw InputError(sentence("A machine is named tcp:HOST:PORT, device:PATH, device:PATH,BAUD, "
                              "device:PATH,BAUD,rtscts or folder:PATH, not \"%1\"",
                              text));
}

std::string SendTarget::name() const {
    return kind == Kind::tcp ? host + ":" + std::to_string(port) : path.string();
}

void sendTo(const SendTarget& target, const std::string& name, std::string_view hpgl,
            const SendProgress& progress, const std::stop_token& stop, const std::atomic<bool>* isPaused) {
    if (target.kind == SendTarget::Kind::folder) {
        writeSafely(target.path / name, hpgl);
        return;
    }
    std::signal(SIGPIPE, SIG_IGN); // NOLINT(cert-err33-c): a machine that goes is an error like any other
    const Handle machine =
        target.kind == SendTarget::Kind::tcp ? connectTo(target, stop) : openDevice(target);
    if (!pourAll(machine.get(), hpgl, target, progress, stop, isPaused))
        throw Stopped();
    if (target.kind == SendTarget::Kind::device)
        tcdrain(machine.get());
    else if (!waitForReceipt(machine.get(), target, hpgl.size(), stop))
        throw Stopped();
}

std::string askMachine(const SendTarget& target, std::string_view question, const std::stop_token& stop) {
    if (target.kind == SendTarget::Kind::folder)
        throw OutputError(sentence("%1 is a folder, and can't be asked where the head is", target.name()));
    std::signal(SIGPIPE, SIG_IGN); // NOLINT(cert-err33-c): as for sendTo
    const Handle machine =
        target.kind == SendTarget::Kind::tcp ? connectTo(target, stop) : openDevice(target, O_RDWR);
    Stream(machine.get(), target, question).pourWithin(patienceToLift);
    std::string answer;
    for (int waited = 0; waited < patienceForAnswer; waited += rest) {
        throwIfStopped(stop);
        pollfd asked{machine.get(), POLLIN, 0};
        if (poll(&asked, 1, rest) <= 0)
            continue;
        std::array<char, 64> some{};
        const ssize_t count = read(machine.get(), some.data(), some.size());
        if (count <= 0)
            break;
        answer.append(some.data(), std::size_t(count));
        if (const auto end = answer.find_first_of("\r\n"); end != std::string::npos && end > 0)
            return answer.substr(0, end);
    }
    throw OutputError(sentence("%1 does not say where its head is: type the position", target.name()));
}

} // namespace hasami
