#pragma once

#include "geometry/curve.h"

#include <cstddef>
#include <vector>

namespace hasami {

/// Corners of an edge that would be cut off where it is moved outward with sharp corners.
struct CutCorners {
    std::size_t count = 0;
    double needed = 0; ///< the limit, in offsets, that keeps them all
};

/// A corner that turns by an angle reaches 1 / cos(angle / 2) offsets out. Linear in the edge's points.
CutCorners cornersBeyond(const std::vector<Curve>& edge, double limit);

} // namespace hasami
