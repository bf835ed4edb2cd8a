#pragma once

#include <cstddef>
#include <optional>
#include <span>

namespace hasami {

/// What a JPEG file says of itself, read before anything is decoded.
struct JpegHeader {
    int width = 0, height = 0;   ///< as stored; an orientation of 5 or more swaps them for the eye
    int components = 0;          ///< 1 grey, 3 colour, 4 CMYK
    bool storesInverted = false; ///< CMYK, as what is left of the paper
    int orientation = 1;         ///< as in EXIF, 1 to 8
    double pixelsPerMillimetre = 0;
    bool isWhole = false; ///< the mark of the picture's end is there
};

/// Walks the segments before the picture's data, after ITU-T T.81, JFIF 1.02 and EXIF 2.3. Nothing if it is
/// not a JPEG file; width 0 if it has no picture that can be read.
std::optional<JpegHeader> readJpegHeader(std::span<const std::byte> bytes);

} // namespace hasami
