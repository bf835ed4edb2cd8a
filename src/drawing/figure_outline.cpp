#include "drawing/figure_outline.h"

#include "edge/find_edge.h"
#include "geometry/fit_loops.h"
#include "geometry/region_operations.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double flatteningOfOutlines = 0.002; // mm
constexpr double fitOfOutlines = 0.002;        // mm

Curve ellipseIn(const Box& box) {
    PlainShape shape;
    shape.kind = PlainShapeKind::ellipse;
    shape.bySize = true;
    shape.width = box.width();
    shape.height = box.height();
    return shapeAround(box, shape);
}

Curve rectangle(const Box& box, double radius) {
    PlainShape shape;
    shape.kind = PlainShapeKind::rounded;
    shape.radius = radius;
    shape.bySize = true;
    shape.width = box.width();
    shape.height = box.height();
    return shapeAround(box, shape);
}

/// A corner on top; every second one nearer to the middle.
Curve star(int points, double inner) {
    std::vector<Point> corners;
    const int count = inner < 1 ? 2 * points : points;
    for (int i = 0; i < count; ++i) {
        const double angle = 2 * std::numbers::pi * i / count - std::numbers::pi / 2;
        const double radius = inner < 1 && i % 2 == 1 ? inner : 1;
        corners.push_back({radius * std::cos(angle), radius * std::sin(angle)});
    }
    return polygonOf(corners);
}

/// The head takes half of the length, at most as long as it is high.
Curve arrow(double width, double height) {
    const double head = std::min(width / 2, height);
    const std::vector<Point> corners{
        {0, height * 0.28},     {width - head, height * 0.28}, {width - head, 0}, {width, height / 2},
        {width - head, height}, {width - head, height * 0.72}, {0, height * 0.72}};
    return polygonOf(corners);
}

/// A rounded box with a tail at its lower left.
Curve bubble(double width, double height, double radius) {
    const double body = height * 0.78;
    const Curve box = rectangle({{0, 0}, {width, body}}, std::min({radius, width * 0.3, body * 0.45}));
    // Along the lower side, from right to left, the box's outline goes out to the tail.
    const double from = width * 0.42, to = width * 0.24;
    Curve with{box.start, {}};
    Point at = box.start;
    for (const CurveSegment& piece : box.segments) {
        const bool isLower = piece.straight && std::abs(at.y - body) < 1e-9 &&
                             std::abs(piece.end.y - body) < 1e-9 && at.x > from && piece.end.x < to;
        if (isLower) {
            for (const Point p : {Point{from, body}, Point{width * 0.16, height}, Point{to, body}}) {
                with.segments.push_back(straightSegment(at, p));
                at = p;
            }
            with.segments.push_back(straightSegment(at, piece.end));
        } else {
            with.segments.push_back(piece);
        }
        at = piece.end;
    }
    return with;
}

/// A band with notched ends behind it.
Curve ribbon(double width, double height) {
    const double end = std::min(width * 0.18, height), drop = height * 0.22;
    const std::vector<Point> corners{{end * 0.7, 0},
                                     {width - end * 0.7, 0},
                                     {width - end * 0.7, drop},
                                     {width, drop},
                                     {width - end * 0.4, (height + drop) / 2},
                                     {width, height},
                                     {width - end, height},
                                     {width - end, height - drop},
                                     {end, height - drop},
                                     {end, height},
                                     {0, height},
                                     {end * 0.4, (height + drop) / 2},
                                     {0, drop},
                                     {end * 0.7, drop}};
    return polygonOf(corners);
}

Curve leaf() {
    return {{0, 0}, {{{0.25, -0.62}, {0.75, -0.62}, {1, 0}}, {{0.75, 0.62}, {0.25, 0.62}, {0, 0}}}};
}

Curve heart() {
    return {{0, -0.45},
            {{{0.12, -0.85}, {0.85, -1.0}, {0.98, -0.4}},
             {{1.08, 0.15}, {0.45, 0.6}, {0, 1}},
             {{-0.45, 0.6}, {-1.08, 0.15}, {-0.98, -0.4}},
             {{-0.85, -1.0}, {-0.12, -0.85}, {0, -0.45}}}};
}

/// Stretched until its own box is the one wanted.
std::vector<Curve> fittedInto(std::vector<Curve> curves, const Box& box) {
    Box own;
    for (const Curve& curve : curves)
        own.add(bounds(flatten(curve, 1e-5)));
    const Affine map = Affine::translation(box.least) *
                       Affine::scaling(box.width() / own.width(), box.height() / own.height()) *
                       Affine::translation(own.least * -1);
    for (Curve& curve : curves)
        curve = mapRim(curve, map);
    return curves;
}

std::vector<Curve> fittedOutline(const Region& region) {
    FitOptions options;
    options.tolerance = fitOfOutlines;
    std::vector<Curve> curves = fitLoops(region.loops, options);
    std::erase_if(curves, [](const Curve& curve) { return curve.segments.empty(); });
    return curves;
}

std::vector<Curve> grownBy(const std::vector<Curve>& outline, double by, const OffsetCorners& corners) {
    Region region;
    for (const Curve& curve : outline)
        region.loops.push_back(flatten(curve, flatteningOfOutlines));
    region = offset(enclosed(region, FillRule::nonZero), by, corners);
    return fittedOutline(region);
}

} // namespace

namespace {

std::vector<Curve> withoutHole(const Figure& figure) {
    const Box box{{0, 0}, {figure.width, figure.height}};
    switch (figure.kind) {
    case FigureKind::rectangle:
        return {rectangle(box, figure.radius)};
    case FigureKind::ellipse:
        return {ellipseIn(box)};
    case FigureKind::polygon:
        return fittedInto({star(figure.points, 1)}, box);
    case FigureKind::star:
        return fittedInto({star(figure.points, std::min(figure.inner, 0.999))}, box);
    case FigureKind::ring: {
        const Point half = Point{figure.width, figure.height} * (figure.inner / 2);
        return {ellipseIn(box), reversed(ellipseIn({box.centre() - half, box.centre() + half}))};
    }
    case FigureKind::arrow:
        return {arrow(figure.width, figure.height)};
    case FigureKind::bubble:
        return {bubble(figure.width, figure.height, figure.radius)};
    case FigureKind::ribbon:
        return {ribbon(figure.width, figure.height)};
    case FigureKind::leaf:
        return fittedInto({leaf()}, box);
    case FigureKind::heart:
        return fittedInto({heart()}, box);
    case FigureKind::outline: {
        std::vector<Curve> curves = figure.outline;
        for (Curve& curve : curves)
            curve = mapRim(curve, Affine::scaling(figure.width, figure.height));
        return curves;
    }
    }
    return {};
}

/// The outline with a hole in it; what lies partly beside the figure takes a bite of it.
std::vector<Curve> withHole(std::vector<Curve> outline, const Figure& figure) {
    const Point middle = Point{figure.width, figure.height} * 0.5 + figure.holeAt;
    const double radius = figure.hole / 2;
    const Curve circle = ellipseIn({middle - Point{radius, radius}, middle + Point{radius, radius}});
    const Loop hole = flatten(circle, flatteningOfOutlines);
    Region whole;
    for (const Curve& curve : outline)
        whole.loops.push_back(flatten(curve, flatteningOfOutlines));
    whole = enclosed(whole, FillRule::nonZero);
    const Region beside = difference({{hole}}, whole);
    if (beside.isEmpty()) {
        outline.push_back(reversed(circle));
        return outline;
    }
    return fittedOutline(difference(whole, {{hole}}));
}

} // namespace

std::vector<Curve> figureOutline(const Figure& figure) {
    std::vector<Curve> outline = withoutHole(figure);
    return figure.hole > 0 ? withHole(std::move(outline), figure) : outline;
}

std::vector<Curve> insetOutline(const std::vector<Curve>& outline, double width) {
    return grownBy(outline, -width, {CornerForm::sharp, 10});
}

std::vector<Curve> grownOutline(const std::vector<Curve>& outline, double width) {
    return grownBy(outline, width, {CornerForm::round});
}

} // namespace hasami
