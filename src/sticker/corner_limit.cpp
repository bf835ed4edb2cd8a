#include "sticker/corner_limit.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double coincident = 1e-9; // mm: controls at a node give no direction

/// The direction in which a piece leaves `from`, of length 1.
Point leaving(Point from, const CurveSegment& s) {
    for (const Point p : {s.control1, s.control2, s.end})
        if (distance(from, p) > coincident)
            return unit(p - from);
    return {};
}

Point arriving(Point from, const CurveSegment& s) {
    for (const Point p : {s.control2, s.control1, from})
        if (distance(p, s.end) > coincident)
            return unit(s.end - p);
    return {};
}

} // namespace

CutCorners cornersBeyond(const std::vector<Curve>& edge, double limit) {
    CutCorners cut;
    for (const Curve& curve : edge) {
        Point from = curve.start;
        std::vector<std::pair<Point, Point>> ends;
        for (const CurveSegment& s : curve.segments) {
            ends.emplace_back(leaving(from, s), arriving(from, s));
            from = s.end;
        }
        for (std::size_t i = 0; i < ends.size(); ++i) {
            const Point in = ends[i].second, out = ends[(i + 1) % ends.size()].first;
            if (cross(in, out) <= 0)
                continue;                                                         // it turns inward
            const double half = std::sqrt(std::max(0.0, (1 + dot(in, out)) / 2)); // cosine of half the turn
            const double reach = half > 0 ? 1 / half : HUGE_VAL;
            if (reach > limit) {
                ++cut.count;
                cut.needed = std::max(cut.needed, reach);
            }
        }
    }
    return cut;
}

} // namespace hasami
