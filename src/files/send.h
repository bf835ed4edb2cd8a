#pragma once

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
    };
    Kind kind = Kind::tcp;
    std::string host;
    int port = 0;
    std::filesystem::path device;
    int baud = 0; ///< of a serial device; 0: as it is set

    /// "tcp:HOST:PORT", "device:PATH" or "device:PATH,BAUD". Throws InputError.
    static SendTarget parse(const std::string& text);
    /// As messages name it.
    std::string name() const;
};

/// Called with the share that was sent, 0 to 1, now and then.
using SendProgress = std::function<void(double)>;

/// Sends all of it, as fast as the machine takes it: a cutter reads no further while its memory is full, so
/// there is no limit of time but for connecting (10 s). Where it is stopped, `lift` is sent in the end if the
/// machine takes it within 2 s, and Stopped is thrown. Throws OutputError: no connection, it ended too soon,
/// the device is missing or none.
void sendTo(const SendTarget& target, std::string_view bytes, std::string_view lift,
            const SendProgress& progress = {}, const std::stop_token& stop = {});

} // namespace hasami
