#include "edge/find_edge.h"
#include "geometry/find_arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

/// A quarter of an ellipse as one cubic, within 0.03 % of its radius (the usual constant, which meets the arc
/// in its middle).
CurveSegment quarter(Point from, Point centre, Point to) {
    constexpr double reach = 4.0 / 3 * (std::numbers::sqrt2 - 1);
    return {from + (to - centre) * reach, to + (from - centre) * reach, to, false};
}

Curve circle(Point centre, double radius) {
    const Point right = centre + Point{radius, 0};
    return {right, circlePieces(right, centre, true)};
}

Curve ellipse(Point centre, double across, double down) {
    const Point right = centre + Point{across, 0}, bottom = centre + Point{0, down};
    const Point left = centre - Point{across, 0}, top = centre - Point{0, down};
    return {right,
            {quarter(right, centre, bottom), quarter(bottom, centre, left), quarter(left, centre, top),
             quarter(top, centre, right)}};
}

Curve roundedBox(const Box& box, double radius) {
    const double left = box.least.x, top = box.least.y, right = box.most.x, bottom = box.most.y;
    const Point corners[] = {{right, bottom}, {left, bottom}, {left, top}, {right, top}};
    const Point into[] = {
        {0, 1}, {-1, 0}, {0, -1}, {1, 0}}; // the way towards each corner, clockwise on screen
    Curve curve{Point{right, top + radius}, {}};
    Point at = curve.start;
    for (int i = 0; i < 4; ++i) {
        const Point corner = corners[i], before = corner - into[i] * radius,
                    after = corner + into[(i + 1) % 4] * radius;
        if (distance(at, before) > 1e-9)
            curve.segments.push_back(straightSegment(at, before));
        for (const CurveSegment& s : arcPieces(before, after, std::numbers::pi / 2))
            curve.segments.push_back(s);
        at = after;
    }
    curve.segments.back().end = curve.start;
    return curve;
}

Curve regularPolygon(Point centre, double radius, int sides) {
    std::vector<Point> corners;
    for (int i = 0; i < sides; ++i) {
        const double angle = -std::numbers::pi / 2 + 2 * std::numbers::pi * i / sides;
        corners.push_back(centre + Point{std::cos(angle), std::sin(angle)} * radius);
    }
    return polygonOf(corners);
}

constexpr double least = 0.5; // mm: an inward margin leaves at least this, each way from the middle

/// From the middle to the shape's sides; of a circle and a polygon to its farthest points.
Point halfSize(const Box& artwork, const PlainShape& shape) {
    if (shape.bySize)
        return {std::max(shape.width / 2, least), std::max(shape.height / 2, least)};
    switch (shape.kind) {
    case PlainShapeKind::ellipse: // around the box of the same proportions
        return {std::max(artwork.width() / std::numbers::sqrt2 + shape.margin, least),
                std::max(artwork.height() / std::numbers::sqrt2 + shape.margin, least)};
    case PlainShapeKind::circle:
    case PlainShapeKind::polygon: {
        const double inner =
            std::max(std::hypot(artwork.width(), artwork.height()) / 2 + shape.margin, least);
        const double outer =
            shape.kind == PlainShapeKind::circle ? inner : inner / std::cos(std::numbers::pi / shape.sides);
        return {outer, outer};
    }
    default:
        return {std::max(artwork.width() / 2 + shape.margin, least),
                std::max(artwork.height() / 2 + shape.margin, least)};
    }
}

} // namespace

PlainShape withOwnSize(const Box& box, const PlainShape& shape) {
    const Point half = halfSize(box, shape);
    PlainShape sized = shape;
    sized.bySize = true;
    sized.width = 2 * half.x;
    sized.height = 2 * half.y;
    return sized;
}

Curve shapeAround(const Box& artwork, const PlainShape& shape) {
    const Point centre = artwork.centre();
    const auto [across, down] = halfSize(artwork, shape);
    const Box box{centre - Point{across, down}, centre + Point{across, down}};
    switch (shape.kind) {
    case PlainShapeKind::box:
        break;
    case PlainShapeKind::rounded: {
        const double radius = std::clamp(shape.radius, 0.0, std::min(across, down));
        if (radius > 0)
            return roundedBox(box, radius);
        break;
    }
    case PlainShapeKind::ellipse:
        return ellipse(centre, across, down);
    case PlainShapeKind::circle:
        return circle(centre, across);
    case PlainShapeKind::polygon:
        return regularPolygon(centre, across, shape.sides);
    }
    return polygonOf(box);
}

} // namespace hasami
