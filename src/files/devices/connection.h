#pragma once

#include "base/error.h"
#include "files/devices/connection_lock.h"
#include "files/devices/send_target.h"

#include <chrono>
#include <cstddef>
#include <netdb.h>
#include <stop_token>
#include <string>
#include <string_view>

namespace hasami {

/// Whether a serial line can be set to that many bits a second.
bool isSerialSpeed(int baud);

/// The machine, or the line to it, has ended a connection.
struct ConnectionLost : OutputError {
    ConnectionLost(const std::string& machine, std::string why);
    std::string reason; ///< of the system
};

/// Finds a host's addresses: getaddrinfo, or a stand-in for it.
using HostLookUp = int (*)(const char*, const char*, const addrinfo*, addrinfo**);

/// An open connection to a machine on the network or to a device, which nobody else has open through Hasami.
/// All waits are short, so that whoever uses it can look whether to stop.
class Connection {
public:
    enum class Access { send, sendAndReceive };

    /// Waits at most 10 s, and stops at once when asked to. What an earlier program left unfinished with the
    /// machine (see setUnfinished) is given first. Throws OutputError: not found, not reachable, in use, no
    /// device; Stopped. REQUIRES: the target is no folder.
    static Connection open(const SendTarget& target, Access access, const std::stop_token& stop,
                           HostLookUp lookUp = &getaddrinfo);

    ~Connection();
    Connection(Connection&&) noexcept;
    Connection(const Connection&) = delete;
    Connection& operator=(const Connection&) = delete;
    Connection& operator=(Connection&&) = delete;

    /// Gives the first of `bytes` that there is room for, and returns how many. Only few bytes wait in this
    /// computer at any time, so that a stop does not come after a megabyte: until all of `bytes` would wait
    /// together with at most `limit` bytes, none of it is given. So a whole piece is given or none, except on
    /// lines that do not tell how much waits. Waits up to `patience`. Throws ConnectionLost.
    std::size_t give(std::string_view bytes, std::chrono::milliseconds patience,
                     std::size_t limit = mostWaiting);
    static constexpr std::size_t mostWaiting = 1024;

    /// Of the bytes given, those that have not left this computer, or that the machine has not acknowledged;
    /// 0 where the system does not tell. Throws ConnectionLost.
    std::size_t waiting() const;

    /// What has arrived within `patience`; empty: nothing. Throws ConnectionLost.
    std::string receive(std::chrono::milliseconds patience);

    /// Drops what waits for a serial line, so that closing does not wait for it; returns how many bytes. What
    /// waits elsewhere (0 is returned) is still delivered when the machine reads on.
    std::size_t drop();
    /// What completes that which was begun: the next connection to the machine gives it first.
    void setUnfinished(std::string_view rest) { lock_.setUnfinished(rest); }

private:
    Connection(int descriptor, SendTarget target, ConnectionLock lock)
        : descriptor_(descriptor), target_(std::move(target)), lock_(std::move(lock)) {}
    [[noreturn]] void refuseEnded(int error) const;
    void giveUnfinished(const std::stop_token& stop);

    int descriptor_;
    SendTarget target_;
    ConnectionLock lock_;
};

} // namespace hasami
