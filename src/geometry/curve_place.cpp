#include "geometry/curve_place.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hasami {

namespace {

constexpr int steps = 16; // along a segment, to begin with

/// The least distance to a segment, and where: the best of some steps, made finer by ternary search.
double nearestOn(Point from, const CurveSegment& segment, Point to, double& t) {
    double best = std::numeric_limits<double>::infinity();
    for (int i = 0; i <= steps; ++i) {
        const double at = double(i) / steps;
        if (const double d = distance(pointAt(from, segment, at), to); d < best) {
            best = d;
            t = at;
        }
    }
    double low = std::max(0.0, t - 1.0 / steps), high = std::min(1.0, t + 1.0 / steps);
    for (int round = 0; round < 30; ++round) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        if (distance(pointAt(from, segment, a), to) < distance(pointAt(from, segment, b), to))
            high = b;
        else
            low = a;
    }
    const double refined = (low + high) / 2;
    if (const double d = distance(pointAt(from, segment, refined), to); d < best) {
        best = d;
        t = refined;
    }
    return best;
}

Box boxOf(Point from, const CurveSegment& s) {
    Box box;
    for (const Point p : {from, s.control1, s.control2, s.end})
        box.add(p);
    return box;
}

double distanceTo(const Box& box, Point p) {
    return length({std::max({box.least.x - p.x, 0.0, p.x - box.most.x}),
                   std::max({box.least.y - p.y, 0.0, p.y - box.most.y})});
}

std::vector<Point> flattened(Point from, const std::vector<CurveSegment>& pieces) {
    std::vector<Point> points{from};
    for (const CurveSegment& s : pieces) {
        const int count = s.straight ? 1 : 2 * steps;
        for (int i = 1; i <= count; ++i)
            points.push_back(pointAt(from, s, double(i) / count));
        from = s.end;
    }
    return points;
}

} // namespace

Point startOf(const Curve& curve, std::size_t segment) {
    return segment == 0 ? curve.start : curve.segments[segment - 1].end;
}

Point pointAt(const Curve& curve, const CurvePlace& place) {
    return pointAt(startOf(curve, place.segment), curve.segments[place.segment], place.t);
}

CurveSegment partOf(Point from, const CurveSegment& s, double begin, double end) {
    // Exact at the end, so that a closed curve stays closed to the last bit.
    const Point last = end == 1 ? s.end : pointAt(from, s, end);
    if (s.straight)
        return straightSegment(pointAt(from, s, begin), last);
    // The blossom of the cubic (L. Ramshaw, 1987): the controls of the part are its values at mixed
    // parameters.
    const auto blossom = [&](double a, double b, double c) {
        const Point p01 = between(from, s.control1, a), p12 = between(s.control1, s.control2, a),
                    p23 = between(s.control2, s.end, a);
        return between(between(p01, p12, b), between(p12, p23, b), c);
    };
    return {blossom(begin, begin, end), blossom(begin, end, end), last, false};
}

CurvePlace nearestPlace(const Curve& curve, Point to) {
    CurvePlace best;
    double least = std::numeric_limits<double>::infinity();
    Point from = curve.start;
    for (std::size_t i = 0; i < curve.segments.size(); ++i) {
        const CurveSegment& s = curve.segments[i];
        double t = 0;
        if (distanceTo(boxOf(from, s), to) < least)
            if (const double d = nearestOn(from, s, to, t); d < least) {
                least = d;
                best = {i, t};
            }
        from = s.end;
    }
    return best;
}

std::vector<CurveSegment> stretch(const Curve& curve, const CurvePlace& from, const CurvePlace& to) {
    const auto add = [&](std::vector<CurveSegment>& pieces, std::size_t segment, double begin, double end) {
        if (end - begin > 1e-9)
            pieces.push_back(partOf(startOf(curve, segment), curve.segments[segment], begin, end));
    };
    std::vector<CurveSegment> pieces;
    if (from.segment == to.segment && from.t < to.t) {
        add(pieces, from.segment, from.t, to.t);
        return pieces;
    }
    add(pieces, from.segment, from.t, 1);
    for (std::size_t i = (from.segment + 1) % curve.segments.size(); i != to.segment;
         i = (i + 1) % curve.segments.size())
        pieces.push_back(curve.segments[i]);
    add(pieces, to.segment, 0, to.t);
    return pieces;
}

double lengthOf(Point from, const std::vector<CurveSegment>& pieces) {
    const std::vector<Point> points = flattened(from, pieces);
    double sum = 0;
    for (std::size_t i = 1; i < points.size(); ++i)
        sum += distance(points[i - 1], points[i]);
    return sum;
}

std::vector<Point> pointsAlong(Point from, const std::vector<CurveSegment>& pieces, std::size_t count) {
    const std::vector<Point> points = flattened(from, pieces);
    const double whole = lengthOf(from, pieces);
    std::vector<Point> found;
    double passed = 0;
    for (std::size_t i = 1; i < points.size() && found.size() < count; ++i) {
        const double step = distance(points[i - 1], points[i]);
        while (found.size() < count) {
            const double wanted = whole * double(found.size() + 1) / double(count + 1);
            if (wanted > passed + step || step <= 0)
                break;
            found.push_back(between(points[i - 1], points[i], (wanted - passed) / step));
        }
        passed += step;
    }
    found.resize(count, points.back()); // what rounding left over
    return found;
}

} // namespace hasami
