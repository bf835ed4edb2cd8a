#include "files/send.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"

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
void setUpSerial(int descriptor, int baud) {
    termios settings{};
    if (tcgetattr(descriptor, &settings) != 0)
        return; // no serial line: a printer's device takes bytes as they are
    cfmakeraw(&settings);
    settings.c_iflag |= IXON;
    settings.c_cflag |= CLOCAL;
    if (const auto speed = speedOf(baud)) {
        cfsetispeed(&settings, *speed);
        cfsetospeed(&settings, *speed);
    }
    tcsetattr(descriptor, TCSANOW, &settings);
}

Handle openDevice(const SendTarget& target) {
    struct stat about {};
    const std::string name = target.name();
    if (stat(target.device.c_str(), &about) == 0 && !S_ISCHR(about.st_mode) && !S_ISFIFO(about.st_mode))
        throw OutputError(sentence("%1 is a file or a folder, and no device", name));
    Handle own(open(target.device.c_str(), O_WRONLY | O_NOCTTY | O_NONBLOCK | O_CLOEXEC));
    if (own.get() < 0)
        throw OutputError(sentence("%1 can't be opened: %2", name, systemReason(errno)));
    setUpSerial(own.get(), target.baud);
    return own;
}

[[noreturn]] void refuseEnded(const SendTarget& target, double share, int error) {
    throw OutputError(sentence("%1 ended the connection after %2 %: %3", target.name(),
                               numberText(100 * share, 0), systemReason(error)));
}

/// What was written of it; less than all of it where it was stopped, or took longer than `milliseconds`
/// (below 0: as long as it takes).
std::size_t pour(int descriptor, std::string_view bytes, int milliseconds, const SendTarget& target,
                 const SendProgress& progress, const std::stop_token& stop) {
    std::size_t sent = 0;
    for (int waited = 0; sent < bytes.size();) {
        if (stop.stop_requested() || (milliseconds >= 0 && waited >= milliseconds))
            break;
        if (!waitForRoom(descriptor, rest)) {
            waited += rest;
            continue;
        }
        const ssize_t count = write(descriptor, bytes.data() + sent, std::min(atOnce, bytes.size() - sent));
        if (count < 0 && (errno == EAGAIN || errno == EINTR)) {
            waited += rest;
            continue;
        }
        if (count <= 0)
            refuseEnded(target, double(sent) / double(bytes.size()), errno);
        sent += std::size_t(count);
        if (progress)
            progress(double(sent) / double(bytes.size()));
    }
    return sent;
}

/// Until the machine has taken all that is under way; false where it was stopped.
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
        const auto comma = text.rfind(',');
        target.device = text.substr(7, comma == std::string::npos ? std::string::npos : comma - 7);
        const auto baud = comma == std::string::npos
                              ? std::optional(0)
                              : wholeNumber(std::string_view(text).substr(comma + 1), 115'200);
        if (!target.device.empty() && baud && (*baud == 0 || speedOf(*baud))) {
            target.baud = *baud;
            return target;
        }
    }
    throw InputError(
        sentence("A machine is named tcp:HOST:PORT, device:PATH or device:PATH,BAUD, not \"%1\"", text));
}

std::string SendTarget::name() const {
    return kind == Kind::tcp ? host + ":" + std::to_string(port) : device.string();
}

void sendTo(const SendTarget& target, std::string_view bytes, std::string_view lift,
            const SendProgress& progress, const std::stop_token& stop) {
    std::signal(SIGPIPE, SIG_IGN); // NOLINT(cert-err33-c): a machine that goes is an error like any other
    const Handle machine =
        target.kind == SendTarget::Kind::tcp ? connectTo(target, stop) : openDevice(target);
    if (pour(machine.get(), bytes, -1, target, progress, stop) == bytes.size()) {
        if (target.kind == SendTarget::Kind::device)
            tcdrain(machine.get());
        else if (!waitForReceipt(machine.get(), target, bytes.size(), stop))
            throw Stopped();
        return;
    }
    constexpr int patienceToLift = 2000; // ms
    pour(machine.get(), lift, patienceToLift, target, {}, {});
    throw Stopped();
}

} // namespace hasami
