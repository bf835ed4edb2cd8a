#pragma once

#include "artwork/picture.h"

#include <stop_token>
#include <vector>

namespace hasami {

/// A picture parted into areas of few colours.
struct ColourRegions {
    Grid<std::uint8_t>
        labels; ///< for each pixel: 0 nothing (transparent, or the backdrop), else the colour's number
    std::vector<Rgba> colours; ///< by number; the first, of nothing, is the backdrop's or has no coverage
};

inline constexpr int mostColours = 24;

/// Parts the picture into `count` colours, or, where that is 0, into as many as differ plainly. Colours are
/// taken from even areas alone; the pixels between, which mix two colours, go to the nearer of those they
/// touch. In a picture without transparency the colour that holds most of the rim is its backdrop: what of it
/// reaches the rim is nothing. A few passes over the pixels. REQUIRES: count at most mostColours. Throws
/// Stopped.
ColourRegions findColours(const Picture& picture, int count, const std::stop_token& stop = {});

/// Areas of fewer than `leastPixels` go to the neighbour they border longest. A pass or two over the pixels.
void mergeSpecks(Grid<std::uint8_t>& labels, double leastPixels, const std::stop_token& stop = {});

} // namespace hasami
