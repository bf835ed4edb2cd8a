#pragma once

#include "geometry/curve.h"

#include <functional>
#include <span>
#include <vector>

namespace hasami {

/// A stretch of a path that lies on a circle.
struct ArcStretch {
    std::size_t first = 0, last = 0; ///< points of the path
    Point centre;
    double radius = 0;
    double sweep = 0; ///< radians, positive clockwise on screen

    /// The direction of the path at a point of the circle.
    Point directionAt(Point p) const;
};

/// Whether the deviations of `count` points from a curve, in mm, are as small as they have to be: their mean
/// square and the largest.
using FineTest = std::function<bool(double meanSquare, double largest, std::size_t count)>;

/// The arcs in a path from the point `begin` on, in its order, each as long as it can be, with two points or
/// more between one and the next. An arc turns by 60 degrees or more, and bends farther from its chord than
/// `leastRise`. About O(n log n) in points. REQUIRES: no two points in a row are the same.
std::vector<ArcStretch> findArcs(std::span<const Point> path, const FineTest& isFine, double leastRise,
                                 std::size_t begin = 0);

/// An arc as pieces of at most 60 degrees, each within 3e-5 of the radius of the true arc. It ends at `to`
/// exactly. REQUIRES: the ends differ.
std::vector<CurveSegment> arcPieces(Point from, Point to, double sweep);

/// The same about a centre that is known: whole turns too. REQUIRES: both ends are as far from it.
std::vector<CurveSegment> arcPieces(Point from, Point to, double sweep, Point centre);

/// A whole circle from a point on it, as such pieces.
std::vector<CurveSegment> circlePieces(Point from, Point centre, bool clockwise);

} // namespace hasami
