#include "files/jpeg_header.h"

#include <algorithm>
#include <cstdint>
#include <cstring>
#include <string_view>

namespace hasami {

namespace {

constexpr char invertedInks[] = {0x41, 0x64, 0x6F, 0x62, 0x65}; // the name that such a segment begins with

using Bytes = std::span<const std::byte>;

int byteAt(Bytes bytes, std::size_t at) {
    return std::to_integer<int>(bytes[at]);
}

/// A number of 2 or 4 bytes, or 0 past the end.
std::uint32_t numberAt(Bytes bytes, std::size_t at, std::size_t count, bool bigEndian = true) {
    if (at > bytes.size() || count > bytes.size() - at)
        return 0;
    std::uint32_t number = 0;
    for (std::size_t i = 0; i < count; ++i)
        number = number << 8 | std::to_integer<std::uint32_t>(bytes[at + (bigEndian ? i : count - 1 - i)]);
    return number;
}

bool startsWith(Bytes bytes, std::string_view text) {
    return bytes.size() >= text.size() && std::memcmp(bytes.data(), text.data(), text.size()) == 0;
}

double densityFrom(double value, int unit) {
    return unit == 1 ? value / 25.4 : unit == 2 ? value / 10 : 0; // an inch, a centimetre
}

/// The first directory of EXIF: orientation, and the resolution where JFIF gave none.
void readExif(Bytes tiff, JpegHeader& header) {
    if (tiff.size() < 8)
        return;
    const bool big = tiff[0] == std::byte{'M'};
    const std::size_t directory = numberAt(tiff, 4, 4, big);
    const std::size_t entries = numberAt(tiff, directory, 2, big);
    double density = 0;
    int unit = 2; // of EXIF: 2 an inch, 3 a centimetre
    for (std::size_t i = 0; i < entries && i < 200; ++i) {
        const std::size_t entry = directory + 2 + 12 * i;
        const std::uint32_t tag = numberAt(tiff, entry, 2, big), value = numberAt(tiff, entry + 8, 2, big);
        if (tag == 0x0112 && value >= 1 && value <= 8)
            header.orientation = int(value);
        if (tag == 0x011A) {
            const std::size_t place = numberAt(tiff, entry + 8, 4, big);
            const double below = numberAt(tiff, place + 4, 4, big);
            density = below > 0 ? numberAt(tiff, place, 4, big) / below : 0;
        }
        if (tag == 0x0128)
            unit = int(value);
    }
    if (header.pixelsPerMillimetre == 0)
        header.pixelsPerMillimetre = densityFrom(density, unit - 1);
}

void readSegment(int marker, Bytes content, JpegHeader& header) {
    const bool isFrame =
        marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC;
    if (isFrame && content.size() >= 6) {
        header.height = int(numberAt(content, 1, 2));
        header.width = int(numberAt(content, 3, 2));
        header.components = byteAt(content, 5);
    } else if (marker == 0xE0 && startsWith(content, std::string_view("JFIF\0", 5)) && content.size() >= 12) {
        header.pixelsPerMillimetre = densityFrom(numberAt(content, 8, 2), byteAt(content, 7));
    } else if (marker == 0xE1 && startsWith(content, std::string_view("Exif\0\0", 6))) {
        readExif(content.subspan(6), header);
    } else if (marker == 0xEE && startsWith(content, std::string_view(invertedInks, 5))) {
        header.storesInverted = true;
    }
}

} // namespace

std::optional<JpegHeader> readJpegHeader(Bytes bytes) {
    if (bytes.size() < 4 || byteAt(bytes, 0) != 0xFF || byteAt(bytes, 1) != 0xD8 || byteAt(bytes, 2) != 0xFF)
        return {};
    JpegHeader header;
    for (std::size_t at = 2; at + 4 <= bytes.size();) {
        if (byteAt(bytes, at) != 0xFF)
            return JpegHeader{};
        const int marker = byteAt(bytes, at + 1);
        if (marker == 0xFF) { // fill
            ++at;
            continue;
        }
        if (marker == 0xDA)
            break; // the picture's data
        const std::size_t length = numberAt(bytes, at + 2, 2);
        if (length < 2 || length > bytes.size() - at - 2)
            return header;
        readSegment(marker, bytes.subspan(at + 4, length - 2), header);
        at += 2 + length;
    }
    // Cameras put more behind the end; it is looked for from the back.
    const std::string_view text(reinterpret_cast<const char*>(bytes.data()), bytes.size());
    header.isWhole = text.rfind("\xFF\xD9") != std::string_view::npos;
    return header;
}

} // namespace hasami
