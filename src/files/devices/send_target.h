#pragma once

#include <filesystem>
#include <string>

namespace hasami {

/// Where a cut file's bytes go.
struct SendTarget {
    enum class Kind {
        tcp,    ///< a network address: raw bytes to a port
        device, ///< a file of the system that represents a serial or USB device
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

} // namespace hasami
