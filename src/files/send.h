#pragma once

#include <atomic>
#include <filesystem>
#include <functional>
#include <stop_token>
#include <string>
#include <string_view>

namespace hasami {

/// Where a cut file's bytes go.
struct SendTarget {
    enum class Kind {
        tcp,    ///< a network address: raw bytes to a port
        device, ///< a file of the system that stands for a serial or USB device
        folder, ///< one that the machine's own software watches
    };
    Kind kind = Kind::tcp;
    std::string host;
    int port = 0;
    std::filesystem::path path; ///< of the device or folder
    int baud = 0;               ///< of a serial device; 0: as it is set
    bool usesLines = false;     ///< flow control by the lines RTS and CTS, rather than by XON and XOFF

    /// "tcp:HOST:PORT", "device:PATH", "device:PATH,BAUD", "device:PATH,BAUD,rtscts" or "folder:PATH". Throws
    /// InputError.
    static SendTarget parse(const std::string& text);
    /// As messages name it.
    std::string name() const;
};

/// Called with the share that was sent, 0 to 1, now and then.
using SendProgress = std::function<void(double)>;

/// Sends HPGL, as fast as the machine takes it: a cutter reads no further while its memory is full, so there
/// is no limit of time but for connecting (10 s). While `isPaused`, nothing is sent from the end of the line
/// under way on, with the knife lifted; the machine still cuts what it has. Where it is stopped, the knife is
/// lifted if the machine takes that within 2 s, and Stopped is thrown. Into a folder goes a whole file of
/// that `name`, or none. Throws OutputError: no connection, it ended too soon, the device is missing or none.
void sendTo(const SendTarget& target, const std::string& name, std::string_view hpgl,
            const SendProgress& progress = {}, const std::stop_token& stop = {},
            const std::atomic<bool>* isPaused = nullptr);

/// Sends a question and gives what the machine answers, without its end of line. Throws OutputError: no
/// connection, no answer within 5 s, or a folder, which says nothing; Stopped.
std::string askMachine(const SendTarget& target, std::string_view question, const std::stop_token& stop = {});

} // namespace hasami
