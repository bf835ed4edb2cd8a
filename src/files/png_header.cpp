#include "files/png_header.h"

#include <algorithm>
#include <cstring>
#include <zlib.h>

namespace hasami {

namespace {

std::uint32_t bigEndian(const std::byte* at) {
    return std::to_integer<std::uint32_t>(at[0]) << 24 | std::to_integer<std::uint32_t>(at[1]) << 16 |
           std::to_integer<std::uint32_t>(at[2]) << 8 | std::to_integer<std::uint32_t>(at[3]);
}

bool isLetter(std::byte c) {
    return (c >= std::byte{'A'} && c <= std::byte{'Z'}) || (c >= std::byte{'a'} && c <= std::byte{'z'});
}

} // namespace

std::optional<PngHeader> readPngHeader(std::span<const std::byte> bytes) {
    constexpr unsigned char signature[8] = {0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'};
    constexpr std::size_t headerEnd = 33; // signature and IHDR
    if (bytes.size() < 8 || std::memcmp(bytes.data(), signature, 8) != 0)
        return {};
    PngHeader header;
    if (bytes.size() < headerEnd || std::memcmp(bytes.data() + 12, "IHDR", 4) != 0)
        return header;
    header.width = bigEndian(bytes.data() + 16);
    header.height = bigEndian(bytes.data() + 20);
    header.bits = std::to_integer<int>(bytes[24]);
    header.colourType = std::to_integer<int>(bytes[25]);
    for (std::size_t at = 8; at + 12 <= bytes.size();) {
        const std::size_t length = bigEndian(bytes.data() + at);
        const std::byte* type = bytes.data() + at + 4;
        if (length > bytes.size() - at - 12)
            return header;
        const bool isNamed = std::all_of(type, type + 4, [](std::byte c) { return isLetter(c); });
        const bool isCritical = (type[0] & std::byte{0x20}) == std::byte{0};
        if (!isNamed || (isCritical && crc32(0, reinterpret_cast<const Bytef*>(type), uInt(length + 4)) !=
                                           bigEndian(type + 4 + length)))
            header.isIntact = false;
        if (std::memcmp(type, "IEND", 4) == 0) {
            header.isWhole = true;
            return header;
        }
        if (std::memcmp(type, "pHYs", 4) == 0 && length == 9 && type[12] == std::byte{1})
            header.pixelsPerMillimetre = bigEndian(type + 4) / 1000.0;
        if (std::memcmp(type, "iCCP", 4) == 0)
            header.hasProfile = true;
        at += length + 12;
    }
    return header;
}

} // namespace hasami
