#include "files/devices/connection.h"

#include "base/error.h"
#include "base/translation.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cerrno>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <linux/sockios.h>
#include <memory>
#include <netinet/in.h>
#include <netinet/tcp.h>
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

using std::chrono::milliseconds;
using std::chrono::steady_clock;

constexpr milliseconds connectTimeout{10'000};
constexpr milliseconds stopCheckInterval{20}; // whether to stop
constexpr milliseconds roomCheckInterval{2};  // for room

/// An open descriptor.
class Handle {
public:
    explicit Handle(int descriptor) : descriptor_(descriptor) {}
    Handle(Handle&& other) noexcept : descriptor_(std::exchange(other.descriptor_, -1)) {}
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    Handle& operator=(Handle&&) = delete;
    ~Handle() {
        if (descriptor_ >= 0)
            close(descriptor_);
    }
    int get() const { return descriptor_; }
    int release() { return std::exchange(descriptor_, -1); }

private:
    int descriptor_;
};

std::string systemReason(int error) {
    return std::strerror(error); // NOLINT(concurrency-mt-unsafe): the C library's own texts
}

bool isReady(int descriptor, short events, milliseconds patience) {
    pollfd asked{descriptor, events, 0};
    return poll(&asked, 1, int(patience.count())) > 0;
}

/// 0: none.
int errorOf(int socket) {
    int error = 0;
    socklen_t size = sizeof error;
    return getsockopt(socket, SOL_SOCKET, SO_ERROR, &error, &size) == 0 ? error : 0;
}

struct FreeAddresses {
    void operator()(addrinfo* first) const { freeaddrinfo(first); }
};
using Addresses = std::unique_ptr<addrinfo, FreeAddresses>;

/// A look-up can take many seconds and can't be interrupted, so it has a thread of its own, which is left to
/// its end where nobody waits for it any more.
Addresses findHost(const SendTarget& target, const std::stop_token& stop, HostLookUp lookUp) {
    struct LookedUp {
        std::atomic<bool> isThere = false;
        Addresses addresses;
    };
    const auto found = std::make_shared<LookedUp>();
    std::thread([found, lookUp, host = target.host, port = std::to_string(target.port)] {
        addrinfo hints{};
        hints.ai_socktype = SOCK_STREAM;
        addrinfo* first = nullptr;
        if (lookUp(host.c_str(), port.c_str(), &hints, &first) == 0)
            found->addresses.reset(first);
        found->isThere = true;
    }).detach();
    const auto end = steady_clock::now() + connectTimeout;
    while (!found->isThere && steady_clock::now() < end) {
        throwIfStopped(stop);
        std::this_thread::sleep_for(roomCheckInterval);
    }
    if (!found->isThere || !found->addresses)
        throw OutputError(sentence("%1 is not known on the network", target.host));
    return std::move(found->addresses);
}

Handle connectTo(const SendTarget& target, const std::stop_token& stop, HostLookUp lookUp) {
    const Addresses all = findHost(target, stop, lookUp);
    for (const addrinfo* address = all.get(); address; address = address->ai_next) {
        Handle own(socket(address->ai_family, address->ai_socktype | SOCK_NONBLOCK | SOCK_CLOEXEC,
                          address->ai_protocol));
        if (own.get() < 0)
            continue;
        const int atOnce = 1; // small pieces are not collected: each is waited for
        setsockopt(own.get(), IPPROTO_TCP, TCP_NODELAY, &atOnce, sizeof atOnce);
        bool isThere = connect(own.get(), address->ai_addr, address->ai_addrlen) == 0;
        const auto end = steady_clock::now() + connectTimeout;
        for (bool waits = !isThere && errno == EINPROGRESS; waits && steady_clock::now() < end;) {
            throwIfStopped(stop);
            waits = !isReady(own.get(), POLLOUT, stopCheckInterval);
            isThere = !waits && errorOf(own.get()) == 0;
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
    ioctl(descriptor,
          TIOCEXCL); // for other programs and users; Hasami's own are kept apart by ConnectionLock
}

Handle openDevice(const SendTarget& target, int access) {
    struct stat about {};
    const std::string name = target.name();
    if (stat(target.path.c_str(), &about) == 0 && !S_ISCHR(about.st_mode) && !S_ISFIFO(about.st_mode))
        throw OutputError(sentence("%1 is a file or a folder, and no device", name));
    Handle own(open(target.path.c_str(), access | O_NOCTTY | O_NONBLOCK | O_CLOEXEC));
    if (own.get() < 0 && errno == EBUSY)
        throw OutputError(sentence("%1 is in use by another program", name));
    if (own.get() < 0)
        throw OutputError(sentence("%1 can't be opened: %2", name, systemReason(errno)));
    setUpSerial(own.get(), target);
    return own;
}

} // namespace

bool isSerialSpeed(int baud) {
    return speedOf(baud).has_value();
}

Connection Connection::open(const SendTarget& target, Access access, const std::stop_token& stop,
                            HostLookUp lookUp) {
    std::signal(SIGPIPE, SIG_IGN); // NOLINT(cert-err33-c): a machine that goes is an error like any other
    ConnectionLock lock(target);
    Handle machine = target.kind == SendTarget::Kind::tcp
                         ? connectTo(target, stop, lookUp)
                         : openDevice(target, access == Access::send ? O_WRONLY : O_RDWR);
    Connection opened(machine.release(), target, std::move(lock));
    opened.giveUnfinished(stop);
    return opened;
}

Connection::Connection(Connection&& other) noexcept
    : descriptor_(std::exchange(other.descriptor_, -1)), target_(std::move(other.target_)),
      lock_(std::move(other.lock_)) {}

Connection::~Connection() {
    if (descriptor_ < 0)
        return;
    if (target_.kind == SendTarget::Kind::device) {
        ioctl(descriptor_, TIOCNXCL);
    } else {
        // An answer that nobody has read would end the connection before all that was given is delivered.
        shutdown(descriptor_, SHUT_WR);
        std::array<char, 4096> unread{};
        for (int i = 0; i < 100 && read(descriptor_, unread.data(), unread.size()) > 0; ++i) {
        }
    }
    close(descriptor_);
}

ConnectionLost::ConnectionLost(const std::string& machine, std::string why)
    : OutputError(sentence("%1 ended the connection: %2", machine, why)), reason(std::move(why)) {}

void Connection::refuseEnded(int error) const {
    throw ConnectionLost(target_.name(), systemReason(error));
}

void Connection::giveUnfinished(const std::stop_token& stop) {
    std::string rest = lock_.unfinished();
    const auto end = steady_clock::now() + connectTimeout;
    while (!rest.empty()) {
        throwIfStopped(stop);
        rest.erase(0, give(rest, stopCheckInterval));
        lock_.setUnfinished(rest);
        if (!rest.empty() && steady_clock::now() > end)
            throw OutputError(
                sentence("%1 takes nothing: check that it is on and not paused", target_.name()));
    }
}

std::size_t Connection::waiting() const {
    int count = 0;
    if (target_.kind == SendTarget::Kind::tcp) {
        if (const int error = errorOf(descriptor_); error != 0)
            refuseEnded(error);
        if (ioctl(descriptor_, SIOCOUTQ, &count) != 0)
            return 0;
    } else if (isReady(descriptor_, 0, milliseconds(0))) { // hung up: what is asked for is never ready
        refuseEnded(EPIPE);
    } else if (ioctl(descriptor_, TIOCOUTQ, &count) != 0 && ioctl(descriptor_, FIONREAD, &count) != 0) {
        return 0; // it says nothing of its memory
    }
    return std::size_t(std::max(0, count));
}

std::size_t Connection::give(std::string_view bytes, milliseconds patience, std::size_t limit) {
    if (bytes.empty())
        return 0;
    const auto end = steady_clock::now() + patience;
    for (std::size_t before = waiting(); before > 0 && before + bytes.size() > limit; before = waiting()) {
        if (steady_clock::now() >= end)
            return 0;
        std::this_thread::sleep_for(roomCheckInterval);
    }
    const auto left =
        std::max(milliseconds(0), std::chrono::duration_cast<milliseconds>(end - steady_clock::now()));
    if (!isReady(descriptor_, POLLOUT, left))
        return 0;
    const ssize_t count = write(descriptor_, bytes.data(), bytes.size());
    if (count >= 0)
        return std::size_t(count);
    if (errno != EAGAIN && errno != EINTR)
        refuseEnded(errno);
    std::this_thread::sleep_for(roomCheckInterval); // there was room, but not for all of it
    return 0;
}

std::string Connection::receive(milliseconds patience) {
    if (!isReady(descriptor_, POLLIN, patience))
        return {};
    std::array<char, 256> some{};
    const ssize_t count = read(descriptor_, some.data(), some.size());
    if (count > 0)
        return {some.data(), std::size_t(count)};
    if (count < 0 && (errno == EAGAIN || errno == EINTR))
        return {};
    refuseEnded(count == 0 ? EPIPE : errno);
}

std::size_t Connection::drop() {
    int count = 0;
    if (target_.kind != SendTarget::Kind::device || ioctl(descriptor_, TIOCOUTQ, &count) != 0 || count <= 0)
        return 0;
    tcflush(descriptor_, TCOFLUSH);
    return std::size_t(count);
}

} // namespace hasami
