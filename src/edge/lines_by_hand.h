#pragma once

#include "edge/find_edge.h"
#include "geometry/curve_place.h"

#include <vector>

namespace hasami {

/// A stretch of a line and what is to take its place, in mm.
struct Laid {
    CurvePlace from, to;
    std::vector<CurveSegment> path;
};

/// How far along the line a place lies, for putting places in order.
inline double orderOf(const CurvePlace& place) {
    return double(place.segment) + place.t;
}

/// The line with stretches replaced. They do not overlap and come in the line's order.
EdgeLoop replaced(const EdgeLoop& found, const std::vector<Laid>& laid);

/// Pieces by hand one after the other: from the first to the last, by number, wrapping round.
struct Run {
    std::size_t first = 0, count = 0;
};

std::vector<Run> runsByHand(const EdgeLoop& line);

} // namespace hasami
