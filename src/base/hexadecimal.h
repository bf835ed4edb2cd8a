#pragma once

#include <string>
#include <string_view>

namespace hasami {

/// The text's bytes as two digits each: names may hold whatever their files do.
inline std::string hexadecimal(std::string_view text) {
    constexpr std::string_view digits = "0123456789abcdef";
    std::string coded;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        coded += digits[byte >> 4];
        coded += digits[byte & 15];
    }
    return coded;
}

} // namespace hasami
