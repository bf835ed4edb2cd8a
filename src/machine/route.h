#pragma once

#include "geometry/path.h"
#include "profile/profile.h"

#include <stop_token>
#include <vector>

namespace hasami {

/// A line to be cut, in mm of the sheet: one closed run, one open one, or what tabs leave of a closed one,
/// run after run.
struct RouteLine {
    LineKind kind = LineKind::kiss;
    std::size_t piece = 0; ///< of the sheet, that it belongs to
    std::size_t line = 0;  ///< of those of the piece, in any order
    std::vector<Subpath> runs;
};

/// The lines in the order that the knife goes: kind after kind in the order of the work, so that tools change
/// as seldom as can be; of each kind piece after piece along a short way from the origin; of each piece its
/// lines along a short way, each after those inside of it. Closed lines begin where the way is shortest,
/// which adds one point at most; open ones at the nearer end. The same lines give the same route. REQUIRES:
/// at least one run, and a segment in each. Throws Stopped.
///
/// Pieces, and lines inside the same line of a piece, are ordered by nearest neighbours first, then by moving
/// stretches of one to three (Or-opt) and turning stretches around (2-opt) among each one's ten neighbours,
/// where that shortens the way. About O(n²) in pieces, and in the lines of a piece; more than 4,000 pieces
/// are left in the order they come in, more than 4,000 lines of one piece go by the area that they enclose.
std::vector<RouteLine> route(std::vector<RouteLine> lines, const std::stop_token& stop = {});

/// Puts a line that goes around pieces behind all others of its kind, and lets it begin near the last of
/// them. REQUIRES: `route` is one; as that.
void cutLast(std::vector<RouteLine>& route, RouteLine line);

/// The way with the knife up from the origin through all lines.
double travelOf(const std::vector<RouteLine>& route);

/// An open path through all points from the first, in a short order of their indices.
std::vector<std::size_t> shortPath(const std::vector<Point>& points, const std::stop_token& stop = {});

} // namespace hasami
