#pragma once

#include "edge/edge_options.h"
#include "geometry/fit_curves.h"
#include "geometry/point.h"

#include <span>
#include <vector>

namespace hasami {

/// A line that was found in a picture, not fitted yet.
struct FoundLine {
    std::span<const Point> points; ///< in mm of the design
    bool isClosed = true;
    double expectedScatter = 0; ///< in pixels: what the picture's kind lets one expect
    double edgeWidth = 1;       ///< in pixels, from nothing to full coverage: several where it was enlarged
};

/// How each line is to be fitted. What is expected of its scatter is the least; lines of sharpened, enlarged
/// and otherwise changed pictures scatter more, which they show by themselves. `pixel`, `tolerance`: in mm.
std::vector<FitOptions> fitsFor(std::span<const FoundLine> lines, double pixel, double tolerance,
                                const EdgeOptions& options);

/// What is to be evened out is taken for scatter: this share of its size.
inline constexpr double scatterOfBumps = 0.35;

} // namespace hasami
