#pragma once

#include "geometry/affine.h"
#include "geometry/loop.h"

#include <span>
#include <vector>

namespace hasami {

/// One piece of a closed curve, from the end of the piece before it: a cubic Bézier curve, a straight line
/// (whose controls lie at its thirds), or an arc of a circle (whose controls give it to 3e-5 of its radius).
struct CurveSegment {
    Point control1, control2, end;
    bool straight = false;
    double bulge = 0; ///< of an arc: the tangent of a quarter of its sweep, positive clockwise on screen

    bool isArc() const { return bulge != 0; }

    friend bool operator==(const CurveSegment&, const CurveSegment&) = default;
};

CurveSegment straightSegment(Point from, Point to);

/// A closed curve: the last segment ends at `start`. Outer curves run as outer loops do (positive area).
struct Curve {
    Point start;
    std::vector<CurveSegment> segments;

    /// Nodes on the curve, as a cutter's operator counts them.
    std::size_t points() const { return segments.size(); }

    friend bool operator==(const Curve&, const Curve&) = default;
};

/// In straight pieces through the corners. REQUIRES: there are some.
Curve polygonOf(std::span<const Point> corners);

/// A box's rim, run as an outer one.
Curve polygonOf(const Box& box);

/// The cubic through `from` and `s` at parameter t in [0, 1].
Point pointAt(Point from, const CurveSegment& s, double t);

/// The curve as a polygon nowhere farther than `tolerance` from it. O(segments / sqrt(tolerance)).
Loop flatten(const Curve& curve, double tolerance);

/// The flattened area of several curves; REQUIRES: outers and openings in their own directions.
Region flatten(std::span<const Curve> curves, double tolerance);

/// Arcs stay arcs under turns, moves, even scaling and mirroring alone.
Curve map(const Curve& curve, const Affine& by);

/// The same curve run backwards.
Curve reversed(const Curve& curve);

/// A part of an area's rim, mapped: where the map mirrors, it is run backwards, so that outer ones stay
/// outer.
Curve mapRim(const Curve& curve, const Affine& by);

/// Curves are flattened this fine, in mm, before offsets and unions: a twentieth of what a cutter can do.
inline constexpr double flatteningTolerance = 0.005;

} // namespace hasami
