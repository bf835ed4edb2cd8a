#include "artwork/colour_text.h"

#include <charconv>
#include <cstdio>

namespace hasami {

std::string colourText(Rgba colour) {
    char text[8];
    std::snprintf(text, sizeof text, "#%02X%02X%02X", colour.red, colour.green, colour.blue);
    return text;
}

std::optional<Rgba> parseColour(std::string_view text) {
    if (text.size() != 7 || text.front() != '#')
        return {};
    unsigned value = 0;
    const auto [end, error] = std::from_chars(text.data() + 1, text.data() + 7, value, 16);
    if (error != std::errc{} || end != text.data() + 7)
        return {};
    return Rgba{static_cast<std::uint8_t>(value >> 16), static_cast<std::uint8_t>(value >> 8),
                static_cast<std::uint8_t>(value), 255};
}

} // namespace hasami
