#pragma once

#include "raster/grid.h"

#include <cstddef>
#include <cstdint>
#include <vector>

namespace hasami {

/// A colour with straight (not premultiplied) coverage, 0 to 255 each.
struct Rgba {
    std::uint8_t red = 0, green = 0, blue = 0, coverage = 0;

    friend bool operator==(const Rgba&, const Rgba&) = default;
};

/// A decoded picture and what its file says of it.
struct Picture {
    Grid<Rgba> pixels;
    double pixelsPerMillimetre = 0; ///< 0: the file does not say
    bool hasCoverage = false;       ///< the file holds transparency
    bool isGrey = false;            ///< the file's colours are greys
    std::vector<std::byte> iccProfile;
};

/// Resolution taken for a picture whose file does not say its own: 300 dots an inch.
inline constexpr double usualPixelsPerMillimetre = 300 / 25.4;

/// How much of each pixel is covered, 0 to 255.
Grid<std::uint8_t> coverageOf(const Picture& picture);

} // namespace hasami
