#pragma once

#include <exception>
#include <stdexcept>
#include <stop_token>

namespace hasami {

/// What came in can't be read or used. The text is one sentence for a sticker maker that names the file.
class InputError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

/// A result can't be written. The text is one sentence that names the file; nothing half-written is left.
class OutputError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

/// Work was given up because its stop token asked for it. Not an error: nothing is reported.
class Stopped : public std::exception {
public:
    const char* what() const noexcept override { return "stopped"; }
};

/// Long work calls this every few milliseconds. Throws Stopped once a stop was asked for.
inline void throwIfStopped(const std::stop_token& stop) {
    if (stop.stop_requested())
        throw Stopped();
}

} // namespace hasami
