#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>

namespace hasami {

/// What a PNG file says of itself, read before anything is decoded.
struct PngHeader {
    std::int64_t width = 0, height = 0;
    int bits = 8, colourType = 0;
    double pixelsPerMillimetre = 0;
    bool hasProfile = false;
    bool isWhole = false;
    bool isIntact = true; ///< the checksums of what the picture needs are right
};

/// Walks the chunks after the PNG specification, 3rd edition, sections 5 and 11. Nothing if it is not a PNG
/// file.
std::optional<PngHeader> readPngHeader(std::span<const std::byte> bytes);

} // namespace hasami
