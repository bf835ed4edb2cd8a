#pragma once

#include "geometry/loop.h"

namespace hasami {

/// An area with the box around it.
struct Body {
    Body() = default;
    explicit Body(Region area) : outline(std::move(area)), box(bounds(outline)) {}

    Region outline;
    Box box;
};

/// Distances are known to this much, mm: what comes closer than the gap by less is no conflict.
inline constexpr double conflictTolerance = 0.009;

/// Whether the areas overlap or come closer than the gap by more than the tolerance; `by` is how far the
/// second is moved. O(points), and pairs of sides that are near each other.
bool comesTooClose(const Body& a, const Body& b, double gap, Point by = {});

/// The shortest way between the rims of two areas.
struct ShortestWay {
    double length = 0;
    Point from, to;
};
ShortestWay shortestWay(const Body& a, const Body& b);

} // namespace hasami
