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

/// A page of vector art, as hasami-reader describes it.
struct VectorPage {
    int number = 1;                        ///< counted from 1
    std::vector<std::string> fonts;        ///< names of the page's fonts
    std::vector<std::string> missingFonts; ///< of these, those that the file does not hold
    std::set<std::string> spots;           ///< all spot colours that it has, painted or not
    std::set<std::string> layers;          ///< names of those that it draws on
    std::set<std::string> mixedSpots; ///< those in pictures, shadings, or mixed with others: no paint's own
    bool isTransparent = false;       ///< opacity, soft masks or blend modes
    std::string notX4;                ///< what in it a PDF/X-4 may not have, in English; empty: nothing
    PaintList paint;
    std::shared_ptr<const std::string> pdf; ///< the file as PDF, whatever it came as
    std::string profile;                    ///< ICC, of all its colours, where they have but one
    std::vector<std::string> remarks;       ///< sentences about what could not be kept
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
