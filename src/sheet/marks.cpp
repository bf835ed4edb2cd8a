#include "sheet/marks.h"

#include "geometry/loop.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

// Four cubics; with this factor the radius is right to 0.03 %: 1 µm on a mark of 6 mm. M. Goldapp,
// "Approximation of circular arcs by cubic polynomials", 1991.
constexpr double handle = 0.5519150244935106;

Curve disc(Point centre, double r) {
    const double k = r * handle;
    const auto at = [&](double x, double y) { return centre + Point{x, y}; };
    return {at(r, 0),
            {{at(r, k), at(k, r), at(0, r)},
             {at(-k, r), at(-r, k), at(-r, 0)},
             {at(-r, -k), at(-k, -r), at(0, -r)},
             {at(k, -r), at(r, -k), at(r, 0)}}};
}

/// A square around a point, as the loops of outlines or of holes in them run.
Curve square(Point centre, double side, bool isHole = false) {
    const double h = side / 2;
    Loop corners{centre + Point{-h, -h}, centre + Point{h, -h}, centre + Point{h, h}, centre + Point{-h, h}};
    if (isHole)
        std::reverse(corners.begin(), corners.end());
    return polygonOf(corners);
}

Curve cross(Point centre, double size, double width) {
    const double h = size / 2, w = width / 2;
    const auto at = [&](double x, double y) { return centre + Point{x, y}; };
    return polygonOf(Loop{at(-w, -h), at(w, -h), at(w, -w), at(h, -w), at(h, w), at(w, w), at(w, h),
                          at(-w, h), at(-w, w), at(-h, w), at(-h, -w), at(-w, -w)});
}

/// The middle lines of the arms meet in the corner; `along` and `across` lead from it along the frame, as far
/// as the arms reach. `grown`: how much larger it is on all sides.
Curve bracket(Point corner, double along, double across, double width, double grown) {
    const double w = width / 2 + grown, x = std::copysign(1, along), y = std::copysign(1, across);
    const auto at = [&](double i, double j) { return corner + Point{i * x, j * y}; };
    const double endAlong = std::abs(along) + grown, endAcross = std::abs(across) + grown;
    Loop corners{at(-w, -w), at(endAlong, -w), at(endAlong, w),
                 at(w, w),   at(w, endAcross), at(-w, endAcross)};
    if (x * y < 0)
        std::reverse(corners.begin(), corners.end());
    return polygonOf(corners);
}

/// How far an arm reaches from its corner, towards the middle of a side that is `half` away: less than the
/// size says around little work, so that arms stay apart.
double armOf(double half, const MarkScheme& scheme) {
    const double apart = std::max(scheme.quiet, scheme.lineWidth / 4);
    const double longest = std::min(scheme.size - scheme.lineWidth / 2, std::abs(half) - apart);
    return std::copysign(std::max(longest, scheme.lineWidth * 0.6), half);
}

/// At a corner of the frame. `along` and `across` lead from it to the middle of the frame's sides.
Mark markAt(Point centre, double along, double across, const MarkScheme& scheme) {
    Mark mark{0, centre, {}, {}};
    const double size = scheme.size, quiet = scheme.quiet;
    switch (scheme.shape) {
    case MarkShape::dot:
        mark.ink = {disc(centre, size / 2)};
        mark.quiet = {disc(centre, size / 2 + quiet)};
        return mark;
    case MarkShape::bracket:
        along = armOf(along, scheme);
        across = armOf(across, scheme);
        mark.ink = {bracket(centre, along, across, scheme.lineWidth, 0)};
        mark.quiet = {bracket(centre, along, across, scheme.lineWidth, quiet)};
        return mark;
    case MarkShape::cross:
        mark.ink = {cross(centre, size, scheme.lineWidth)};
        break;
    case MarkShape::square:
        mark.ink = {square(centre, size)};
        if (scheme.isOutlined)
            mark.ink.push_back(square(centre, size - 2 * scheme.lineWidth, true));
        break;
    }
    mark.quiet = {square(centre, size + 2 * quiet)};
    return mark;
}

/// Along the medium, from the first to the last.
std::vector<double> placesOfPairs(const Box& work, const MarkScheme& scheme) {
    const double first = work.least.x - scheme.distance, last = work.most.x + scheme.distance;
    std::vector<double> places{first};
    if (cutsInSections(scheme)) {
        for (const double line : sectionLines(work.least.x, last - leastInterval(scheme) / 2, scheme))
            places.push_back(line);
    } else if (scheme.interval > 0) {
        const double sections = std::ceil((last - first) / scheme.interval);
        for (int i = 1; i < sections; ++i)
            places.push_back(first + (last - first) * i / sections);
    }
    places.push_back(last);
    return places;
}

} // namespace

std::vector<double> sectionLines(double begin, double end, const MarkScheme& scheme) {
    std::vector<double> lines;
    const double first = begin - scheme.distance;
    const int count = int(std::ceil((end - first) / scheme.interval)) - 1;
    for (int i = 1; i <= count; ++i)
        lines.push_back(first + i * scheme.interval);
    return lines;
}

std::vector<Mark> marksAround(const Box& work, const MarkScheme& scheme) {
    if (scheme.corners == 0)
        return {};
    const Box at = work.grownBy(scheme.distance);
    const double across = at.height() / 2;
    std::vector<Mark> marks;
    for (const double x : placesOfPairs(work, scheme)) {
        const double along = x < at.most.x ? at.width() / 2 : -at.width() / 2;
        marks.push_back(markAt({x, at.least.y}, along, across, scheme));
        marks.push_back(markAt({x, at.most.y}, along, -across, scheme));
    }
    if (scheme.corners == 3)
        marks.pop_back();
    for (std::size_t i = 0; i < marks.size(); ++i)
        marks[i].id = int(i) + 1;
    return marks;
}

Mark markAlone(int id, Point centre, const MarkScheme& scheme) {
    assert(scheme.shape != MarkShape::bracket);
    Mark mark = markAt(centre, 0, 0, scheme);
    mark.id = id;
    return mark;
}

double inkRadius(const MarkScheme& scheme) {
    // A dot's is its radius, a square's reaches into its corners; a cross counts as a square.
    return scheme.size / 2 * (scheme.shape == MarkShape::dot ? 1 : std::numbers::sqrt2);
}

double quietRadius(const MarkScheme& scheme) {
    return (scheme.size / 2 + scheme.quiet) * (scheme.shape == MarkShape::dot ? 1 : std::numbers::sqrt2);
}

double roomForMarks(const MarkScheme& scheme) {
    return scheme.corners == 0 ? 0 : inkReach(scheme) + scheme.distance;
}

std::optional<double> dotRadius(const Mark& mark) {
    if (mark.ink.size() != 1)
        return {};
    const Curve& rim = mark.ink.front();
    const double radius = distance(mark.centre, rim.start);
    const auto isOnCircle = [&](Point p) {
        return std::abs(distance(mark.centre, p) - radius) < 1e-3 * radius;
    };
    Point from = rim.start;
    for (const CurveSegment& s : rim.segments) {
        if (!isOnCircle(pointAt(from, s, 0.5)) || !isOnCircle(s.end))
            return {};
        from = s.end;
    }
    return radius;
}

} // namespace hasami
