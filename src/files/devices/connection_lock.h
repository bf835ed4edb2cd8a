#pragma once

#include "files/devices/send_target.h"

#include <string>
#include <string_view>
#include <utility>

namespace hasami {

/// Keeps a machine for one connection at a time, between all programs of a user: two cuts that are sent at
/// once would mix within numbers. A file in the user's runtime folder for each machine, locked while this
/// lives; it goes with the process, however that ends. It also holds what was begun with the machine and not
/// completed, so that the next connection can complete it.
class ConnectionLock {
public:
    /// Throws OutputError where another connection has it.
    explicit ConnectionLock(const SendTarget& target);
    ~ConnectionLock();
    ConnectionLock(ConnectionLock&& other) noexcept
        : file_(std::exchange(other.file_, -1)), device_(std::move(other.device_)) {}
    ConnectionLock(const ConnectionLock&) = delete;
    ConnectionLock& operator=(const ConnectionLock&) = delete;
    ConnectionLock& operator=(ConnectionLock&&) = delete;

    /// Empty where there is nothing, or the device is no longer the same: it was unplugged meanwhile.
    std::string unfinished() const;
    /// Throws OutputError.
    void setUnfinished(std::string_view bytes);

private:
    int file_;
    std::string device_; ///< identifies it from when it was plugged in on
};

} // namespace hasami
