#pragma once

#include "artwork/paint_list.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <memory>
#include <set>
#include <string>
#include <vector>

namespace hasami {

/// How much of a spot colour each pixel has, 0 to 255.
struct SpotPlate {
    std::string name;
    Grid<std::uint8_t> amounts;
};

/// A page of vector art, as hasami-reader describes it.
struct VectorPage {
    int number = 1;                        ///< counted from 1
    std::vector<std::string> fonts;        ///< names of the page's fonts
    std::vector<std::string> missingFonts; ///< of these, those that the file does not hold
    std::set<std::string> spots;           ///< all spot colours that it has, painted or not
    std::set<std::string> mixedSpots; ///< those in pictures, shadings, or mixed with others: no paint's own
    bool isTransparent = false;       ///< opacity, soft masks or blend modes
    std::string notX4;                ///< what in it a PDF/X-4 may not have, in English; empty: nothing
    PaintList paint;
    std::shared_ptr<const std::string> pdf; ///< the file as PDF, whatever it came as
    std::vector<SpotPlate> spotPlates; ///< beside the picture's fine colours, where its inks are asked for
    std::string profile;               ///< ICC, of all its colours, where they have but one
    std::vector<std::string> remarks;  ///< sentences about what could not be kept
};

struct PixelSize {
    int width = 0, height = 0;
};

/// How large a page of vector art is drawn where a picture stands for it: 2,400 pixels along its longer side,
/// less where that would be more than 1,200 dots an inch.
inline PixelSize pagePixels(double width, double height) {
    constexpr double most = 2400, finest = 1200 / 25.4;
    const double scale = std::min(finest, most / std::max(width, height));
    const auto side = [&](double length) { return std::max(1, int(std::lround(length * scale))); };
    return {side(width), side(height)};
}

} // namespace hasami
