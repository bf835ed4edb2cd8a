#include "edge/touch_changes.h"

#include "edge/lines_by_hand.h"
#include "geometry/fit_curves.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace touch {

namespace {

constexpr double sameDirection = 0.9986; // cosine of 3 degrees

bool contains(const Run& run, std::size_t segment, std::size_t all) {
    return (segment + all - run.first) % all < run.count;
}

/// A copy that keeps account of what is done by hand.
EdgeLoop begun(const EdgeLoop& line) {
    EdgeLoop changed = line;
    changed.byHand.resize(line.curve.segments.size(), false);
    return changed;
}

std::size_t after(const Curve& curve, std::size_t node) {
    return (node + 1) % curve.segments.size();
}

Point nodeOf(const Curve& curve, std::size_t node) {
    return curve.segments[node].end;
}

/// Lets a straight piece be bent.
void loosen(CurveSegment& s) {
    s.straight = false;
    s.bulge = 0;
}

void setNode(Curve& curve, std::size_t node, Point place) {
    curve.segments[node].end = place;
    if (node + 1 == curve.segments.size())
        curve.start = place;
}

void keepStraight(EdgeLoop& line, std::size_t segment) {
    CurveSegment& s = line.curve.segments[segment];
    if (s.straight)
        s = straightSegment(startOf(line.curve, segment), s.end);
}

/// The pieces behind node `a` up to node `b` replaced.
EdgeLoop replacedBetween(const EdgeLoop& line, std::size_t a, std::size_t b,
                         const std::vector<CurveSegment>& path) {
    EdgeLoop changed{line.facts, {}, {}, line.colour};
    const std::size_t n = line.curve.segments.size();
    const auto add = [&](const CurveSegment& s, bool byHand) {
        changed.curve.segments.push_back(s);
        changed.byHand.push_back(byHand);
    };
    for (const CurveSegment& s : path)
        add(s, true);
    for (std::size_t i = (b + 1) % n; i != (a + 1) % n; i = (i + 1) % n)
        add(line.curve.segments[i], !line.byHand.empty() && line.byHand[i]);
    changed.curve.start = changed.curve.segments.back().end;
    return changed;
}

/// So that the way from a on to b is the shorter one.
void orderByShorterWay(const Curve& curve, std::size_t& a, std::size_t& b) {
    const double forth = lengthOf(nodeOf(curve, a), stretch(curve, {a, 1}, {b, 1}));
    const double back = lengthOf(nodeOf(curve, b), stretch(curve, {b, 1}, {a, 1}));
    if (back < forth)
        std::swap(a, b);
}

/// One piece with given directions at its ends, nearest to the points by least squares.
CurveSegment nearestPiece(Point from, Point directionAtStart, const std::vector<Point>& points, Point to,
                          Point directionAtEnd) {
    double c11 = 0, c12 = 0, c22 = 0, x1 = 0, x2 = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double t = double(i + 1) / double(points.size() + 1), v = 1 - t;
        const double b0 = v * v * v, b1 = 3 * v * v * t, b2 = 3 * v * t * t, b3 = t * t * t;
        const Point a1 = directionAtStart * b1, a2 = directionAtEnd * b2;
        const Point rest = points[i] - from * (b0 + b1) - to * (b2 + b3);
        c11 += dot(a1, a1);
        c12 += dot(a1, a2);
        c22 += dot(a2, a2);
        x1 += dot(a1, rest);
        x2 += dot(a2, rest);
    }
    const double determinant = c11 * c22 - c12 * c12, chord = distance(from, to);
    double reach1 = chord / 3, reach2 = chord / 3;
    if (std::abs(determinant) > 1e-12) {
        const double solved1 = (x1 * c22 - x2 * c12) / determinant;
        const double solved2 = (c11 * x2 - c12 * x1) / determinant;
        if (solved1 > 0 && solved2 > 0 && solved1 + solved2 < 4 * chord) {
            reach1 = solved1;
            reach2 = solved2;
        }
    }
    return {from + directionAtStart * reach1, to + directionAtEnd * reach2, to, false};
}

Point directionBehind(const Curve& curve, std::size_t node) {
    const CurveSegment& s = curve.segments[after(curve, node)];
    const Point at = nodeOf(curve, node);
    const Point out = s.control1 - at;
    return unit(length(out) > 1e-9 ? out : s.end - at);
}

Point directionBefore(const Curve& curve, std::size_t node) {
    const CurveSegment& s = curve.segments[node];
    const Point in = s.end - s.control2;
    return unit(length(in) > 1e-9 ? in : s.end - startOf(curve, node));
}

} // namespace

bool isSmooth(const Curve& curve, std::size_t node) {
    return dot(directionBefore(curve, node), directionBehind(curve, node)) > sameDirection;
}

EdgeLoop moved(const EdgeLoop& line, const std::set<std::size_t>& nodes, Point by) {
    EdgeLoop changed = begun(line);
    Curve& curve = changed.curve;
    for (const std::size_t node : nodes) {
        const std::size_t next = after(curve, node);
        setNode(curve, node, nodeOf(curve, node) + by);
        curve.segments[node].control2 = curve.segments[node].control2 + by;
        curve.segments[next].control1 = curve.segments[next].control1 + by;
        curve.segments[node].bulge = curve.segments[next].bulge = 0;
        changed.byHand[node] = changed.byHand[next] = true;
    }
    for (const std::size_t node : nodes) {
        keepStraight(changed, node);
        keepStraight(changed, after(curve, node));
    }
    return changed;
}

EdgeLoop withHandle(const EdgeLoop& line, std::size_t node, bool isBefore, Point place) {
    EdgeLoop changed = begun(line);
    Curve& curve = changed.curve;
    const bool staysSmooth = isSmooth(curve, node);
    const std::size_t next = after(curve, node);
    CurveSegment &in = curve.segments[node], &out = curve.segments[next];
    loosen(isBefore ? in : out);
    Point& handle = isBefore ? in.control2 : out.control1;
    Point& other = isBefore ? out.control1 : in.control2;
    handle = place;
    changed.byHand[isBefore ? node : next] = true;
    CurveSegment& otherPiece = isBefore ? out : in;
    if (staysSmooth && !otherPiece.straight) {
        const Point at = nodeOf(curve, node);
        other = at + unit(at - place) * distance(other, at);
        loosen(otherPiece);
        changed.byHand[isBefore ? next : node] = true;
    }
    return changed;
}

EdgeLoop withNode(const EdgeLoop& line, const CurvePlace& place) {
    EdgeLoop changed = begun(line);
    auto& segments = changed.curve.segments;
    const Point from = startOf(changed.curve, place.segment);
    const CurveSegment whole = segments[place.segment];
    if (place.t < 1e-3 || place.t > 1 - 1e-3)
        return line;
    const auto at = std::ptrdiff_t(place.segment);
    segments[place.segment] = partOf(from, whole, 0, place.t);
    segments.insert(segments.begin() + at + 1, partOf(from, whole, place.t, 1));
    changed.byHand[place.segment] = true;
    changed.byHand.insert(changed.byHand.begin() + at + 1, true);
    return changed;
}

EdgeLoop withoutNodes(const EdgeLoop& line, const std::set<std::size_t>& nodes) {
    EdgeLoop changed = begun(line);
    // From the last on, so that the numbers of those before stay.
    for (auto node = nodes.rbegin(); node != nodes.rend() && changed.curve.segments.size() > 2; ++node) {
        const Curve& curve = changed.curve;
        const std::size_t n = curve.segments.size(), next = after(curve, *node), before = (*node + n - 1) % n;
        const Point from = startOf(curve, *node), to = nodeOf(curve, next);
        const std::vector<CurveSegment> both{curve.segments[*node], curve.segments[next]};
        const CurveSegment one =
            both[0].straight && both[1].straight
                ? straightSegment(from, to)
                : nearestPiece(from, directionBehind(curve, before), pointsAlong(from, both, 12), to,
                               directionBefore(curve, next) * -1);
        auto& segments = changed.curve.segments;
        segments[next] = one;
        changed.byHand[next] = true;
        segments.erase(segments.begin() + std::ptrdiff_t(*node));
        changed.byHand.erase(changed.byHand.begin() + std::ptrdiff_t(*node));
        changed.curve.start = segments.back().end;
    }
    return changed;
}

EdgeLoop withCorners(const EdgeLoop& line, const std::set<std::size_t>& nodes) {
    EdgeLoop changed = begun(line);
    Curve& curve = changed.curve;
    for (const std::size_t node : nodes) {
        const std::size_t next = after(curve, node);
        CurveSegment &in = curve.segments[node], &out = curve.segments[next];
        const Point at = in.end;
        in.bulge = out.bulge = 0;
        in.control2 = between(at, in.control1, 1.0 / 3);
        out.control1 = between(at, out.control2, 1.0 / 3);
        changed.byHand[node] = changed.byHand[next] = true;
    }
    return changed;
}

EdgeLoop withSmooth(const EdgeLoop& line, const std::set<std::size_t>& nodes) {
    EdgeLoop changed = begun(line);
    Curve& curve = changed.curve;
    for (const std::size_t node : nodes) {
        const std::size_t next = after(curve, node);
        CurveSegment &in = curve.segments[node], &out = curve.segments[next];
        const Point at = in.end;
        Point along = directionBefore(curve, node) + directionBehind(curve, node);
        if (length(along) < 1e-6)
            along = out.end - startOf(curve, node);
        along = unit(along);
        loosen(in);
        loosen(out);
        in.control2 =
            at - along * std::max(distance(in.control2, at), distance(startOf(curve, node), at) / 3);
        out.control1 = at + along * std::max(distance(out.control1, at), distance(out.end, at) / 3);
        changed.byHand[node] = changed.byHand[next] = true;
    }
    return changed;
}

EdgeLoop straightened(const EdgeLoop& line, std::size_t a, std::size_t b) {
    orderByShorterWay(line.curve, a, b);
    return replacedBetween(line, a, b, {straightSegment(nodeOf(line.curve, a), nodeOf(line.curve, b))});
}

EdgeLoop spanned(const EdgeLoop& line, std::size_t a, std::size_t b) {
    orderByShorterWay(line.curve, a, b);
    const Point from = nodeOf(line.curve, a), to = nodeOf(line.curve, b);
    const double reach = distance(from, to) / 3;
    return replacedBetween(line, a, b,
                           {{from + directionBefore(line.curve, a) * reach,
                             to - directionBehind(line.curve, b) * reach, to, false}});
}

EdgeLoop redrawn(const EdgeLoop& line, std::span<const Point> drawn, double tolerance) {
    std::vector<Point> path(drawn.begin(), drawn.end());
    EdgeLoop split = withNode(line, nearestPlace(line.curve, path.front()));
    split = withNode(split, nearestPlace(split.curve, path.back()));
    const auto nodeNear = [&](Point p) {
        std::size_t best = 0;
        for (std::size_t i = 1; i < split.curve.segments.size(); ++i)
            if (distance(nodeOf(split.curve, i), p) < distance(nodeOf(split.curve, best), p))
                best = i;
        return best;
    };
    const Point start = pointAt(line.curve, nearestPlace(line.curve, path.front()));
    const Point end = pointAt(line.curve, nearestPlace(line.curve, path.back()));
    std::size_t a = nodeNear(start), b = nodeNear(end);
    if (a == b)
        return line;
    path.front() = nodeOf(split.curve, a);
    path.back() = nodeOf(split.curve, b);
    const std::size_t first = a;
    orderByShorterWay(split.curve, a, b);
    if (a != first)
        std::reverse(path.begin(), path.end());
    // A hand trembles: about as much as the tolerance.
    return replacedBetween(split, a, b, fitPath(path, {tolerance, tolerance / 2, 4 * tolerance}));
}

EdgeLoop putBack(const EdgeLoop& line, const EdgeLoop& found, const std::set<std::size_t>& nodes) {
    EdgeLoop changed = begun(line);
    const std::size_t n = line.curve.segments.size();
    std::vector<Laid> kept;
    for (const Run& run : runsByHand(line)) {
        const bool isMeant = std::any_of(nodes.begin(), nodes.end(), [&](std::size_t node) {
            return contains(run, node, n) || contains(run, (node + 1) % n, n);
        });
        if (isMeant || run.count == n)
            continue;
        Laid laid{nearestPlace(found.curve, startOf(line.curve, run.first)), {}, {}};
        for (std::size_t k = 0; k < run.count; ++k)
            laid.path.push_back(line.curve.segments[(run.first + k) % n]);
        laid.to = nearestPlace(found.curve, laid.path.back().end);
        kept.push_back(std::move(laid));
    }
    if (kept.empty())
        return found;
    std::sort(kept.begin(), kept.end(),
              [](const Laid& a, const Laid& b) { return orderOf(a.from) < orderOf(b.from); });
    return replaced(found, kept);
}

} // namespace touch

} // namespace hasami
