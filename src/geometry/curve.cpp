#include "geometry/curve.h"

#include <cmath>

namespace hasami {

CurveSegment straightSegment(Point from, Point to) {
    return {between(from, to, 1.0 / 3), between(from, to, 2.0 / 3), to, true};
}

Curve polygonOf(std::span<const Point> corners) {
    Curve curve{corners.front(), {}};
    for (std::size_t i = 0; i < corners.size(); ++i)
        curve.segments.push_back(straightSegment(corners[i], corners[(i + 1) % corners.size()]));
    return curve;
}

Curve polygonOf(const Box& box) {
    return polygonOf(regionOf(box).loops.front());
}

Point pointAt(Point from, const CurveSegment& s, double t) {
    const double u = 1 - t;
    return from * (u * u * u) + s.control1 * (3 * u * u * t) + s.control2 * (3 * u * t * t) +
           s.end * (t * t * t);
}

namespace {

/// Steps of equal parameter that keep the chords within the tolerance.
/// After G.-Z. Wang, "The subdivision method for finding the intersection between two Bézier curves", 1984.
int stepsFor(Point from, const CurveSegment& s, double tolerance) {
    if (s.straight)
        return 1;
    const double bend =
        std::max(length(from - s.control1 * 2 + s.control2), length(s.control1 - s.control2 * 2 + s.end));
    return std::max(1, static_cast<int>(std::ceil(std::sqrt(0.75 * bend / tolerance))));
}

} // namespace

Loop flatten(const Curve& curve, double tolerance) {
    Loop loop;
    Point from = curve.start;
    for (const CurveSegment& s : curve.segments) {
        const int steps = stepsFor(from, s, tolerance);
        for (int i = 0; i < steps; ++i)
            loop.push_back(i == 0 ? from : pointAt(from, s, double(i) / steps));
        from = s.end;
    }
    return loop;
}

Region flatten(std::span<const Curve> curves, double tolerance) {
    Region region;
    for (const Curve& curve : curves)
        region.loops.push_back(flatten(curve, tolerance));
    return region;
}

Curve map(const Curve& curve, const Affine& by) {
    Curve mapped{by(curve.start), {}};
    mapped.segments.reserve(curve.segments.size());
    const double determinant = by.a * by.d - by.b * by.c;
    const bool keepsCircles =
        std::abs(by.a * by.c + by.b * by.d) < 1e-9 * std::abs(determinant) &&
        std::abs(std::hypot(by.a, by.b) - std::hypot(by.c, by.d)) < 1e-9 * std::hypot(by.a, by.b);
    const double ofBulge = !keepsCircles ? 0 : determinant > 0 ? 1 : -1;
    for (const CurveSegment& s : curve.segments)
        mapped.segments.push_back(
            {by(s.control1), by(s.control2), by(s.end), s.straight, s.isArc() ? s.bulge * ofBulge : 0});
    return mapped;
}

Curve reversed(const Curve& curve) {
    Curve back{curve.segments.empty() ? curve.start : curve.segments.back().end, {}};
    for (std::size_t i = curve.segments.size(); i-- > 0;) {
        const CurveSegment& s = curve.segments[i];
        const Point from = i == 0 ? curve.start : curve.segments[i - 1].end;
        back.segments.push_back({s.control2, s.control1, from, s.straight, s.isArc() ? -s.bulge : 0});
    }
    return back;
}

Curve mapRim(const Curve& curve, const Affine& by) {
    const Curve mapped = map(curve, by);
    return by.determinant() < 0 ? reversed(mapped) : mapped;
}

} // namespace hasami
