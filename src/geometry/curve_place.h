#pragma once

#include "geometry/curve.h"

#include <vector>

namespace hasami {

/// A place on a closed curve: a segment and the parameter along it, in [0, 1].
struct CurvePlace {
    std::size_t segment = 0;
    double t = 0;

    friend bool operator==(const CurvePlace&, const CurvePlace&) = default;
};

/// Where a segment begins.
Point startOf(const Curve& curve, std::size_t segment);

Point pointAt(const Curve& curve, const CurvePlace& place);

/// The part of a segment from one parameter to another, the same curve.
CurveSegment partOf(Point from, const CurveSegment& segment, double begin, double end);

/// The place nearest to the point, to a micrometre or so. REQUIRES: at least one segment. O(segments).
CurvePlace nearestPlace(const Curve& curve, Point to);

/// The pieces from one place to the other in the curve's direction, past its start where that is the way;
/// from a place to itself: once round.
std::vector<CurveSegment> stretch(const Curve& curve, const CurvePlace& from, const CurvePlace& to);

/// Length of pieces that begin at `from`.
double lengthOf(Point from, const std::vector<CurveSegment>& pieces);

/// `count` points along the pieces, evenly by length, without the ends.
std::vector<Point> pointsAlong(Point from, const std::vector<CurveSegment>& pieces, std::size_t count);

} // namespace hasami
