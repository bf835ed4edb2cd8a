#include "files/devices/send_target.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/devices/connection.h"

#include <charconv>
#include <optional>
#include <string_view>

namespace hasami {

namespace {

std::optional<int> wholeNumber(std::string_view text, int most) {
    int value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size() || value < 1 || value > most)
        return {};
    return value;
}

/// PATH, PATH,BAUD or PATH,BAUD,rtscts.
bool readDevice(std::string text, SendTarget& target) {
    constexpr std::string_view byLines = ",rtscts";
    target.usesLines = text.ends_with(byLines);
    if (target.usesLines)
        text.resize(text.size() - byLines.size());
    const auto comma = text.rfind(',');
    target.path = text.substr(0, comma);
    const auto baud = comma == std::string::npos
                          ? std::optional(0)
                          : wholeNumber(std::string_view(text).substr(comma + 1), 115'200);
    if (target.path.empty() || !baud || (*baud != 0 && !isSerialSpeed(*baud)))
        return false;
    target.baud = *baud;
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

} // namespace hasami
