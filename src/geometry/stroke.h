#pragma once

#include "geometry/path.h"

#include <vector>

namespace hasami {

enum class LineCap { butt, round, square };
enum class LineJoin { miter, round, bevel };

/// How a path is painted as a line, in the path's own units. As in PDF (ISO 32000-1, 8.4.3).
struct StrokeStyle {
    double width = 1;
    LineCap cap = LineCap::butt;
    LineJoin join = LineJoin::miter;
    double miterLimit = 10;     ///< how long a sharp join may be, in widths; beyond, it is bevelled
    std::vector<double> dashes; ///< painted and left out in turn, over and over; empty: unbroken
    double dashPhase = 0;       ///< where in the pattern the run starts

    friend bool operator==(const StrokeStyle&, const StrokeStyle&) = default;
};

/// The area that the stroke paints: loops by the non-zero rule, which may cross, all of one direction; within
/// `tolerance`, in the path's units. A pattern of more than 100,000 dashes is painted unbroken.
std::vector<Loop> strokeLoops(const Path& path, const StrokeStyle& style, double tolerance);

} // namespace hasami
