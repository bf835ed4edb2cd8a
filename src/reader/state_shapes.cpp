#include "reader/state_shapes.h"

#include <algorithm>
#include <cmath>
#include <poppler/splash/SplashPath.h>

namespace hasami {

namespace {

constexpr double thinnestLine = 0.025; // mm: one of no width is drawn as thin as a device can, not as nothing

Affine mapOf(const double* m) {
    return {m[0], m[1], m[2], m[3], m[4], m[5]};
}

Point within(Point p) {
    constexpr double farthest = 99'000; // mm
    const auto kept = [=](double v) { return std::isfinite(v) ? std::clamp(v, -farthest, farthest) : 0.0; };
    return {kept(p.x), kept(p.y)};
}

Path polygon(std::initializer_list<Point> corners) {
    Subpath run{within(*corners.begin()), {}, true};
    for (const Point* p = corners.begin() + 1; p != corners.end(); ++p)
        run.segments.push_back(straightSegment(within(p[-1]), within(*p)));
    return {run};
}

Box clipBox(const GfxState& state) {
    Box box;
    state.getUserClipBBox(&box.least.x, &box.least.y, &box.most.x, &box.most.y);
    return box;
}

Path boxPath(const Box& box, const Affine& map) {
    return polygon(
        {map(box.least), map({box.most.x, box.least.y}), map(box.most), map({box.least.x, box.most.y})});
}

Path discPath(Point centre, double radius, const Affine& map) {
    const Point start = centre + Point{radius, 0};
    constexpr double quarter = 0.5522847498307936; // of the radius, for a cubic's controls
    Subpath run{within(map(start)), {}, true};
    Point from{radius, 0};
    for (int i = 0; i < 4; ++i) {
        const Point to{-from.y, from.x};
        run.segments.push_back({within(map(centre + from + to * quarter)),
                                within(map(centre + to + from * quarter)), within(map(centre + to)), false});
        from = to;
    }
    return {run};
}

} // namespace

Affine toPage(const GfxState& state) {
    return Affine::scaling(millimetresPerDot, millimetresPerDot) * mapOf(state.getCTM());
}

Path pathOf(const GfxPath& gfx, const Affine& map) {
    Path path;
    for (int i = 0; i < gfx.getNumSubpaths(); ++i) {
        const GfxSubpath* from = gfx.getSubpath(i);
        const int count = from->getNumPoints();
        if (count == 0)
            continue;
        const auto at = [&](int j) { return within(map({from->getX(j), from->getY(j)})); };
        Subpath run{at(0), {}, from->isClosed()};
        for (int j = 1; j < count; ++j) {
            const Point here = run.segments.empty() ? run.start : run.segments.back().end;
            if (from->getCurve(j) && j + 2 < count) {
                run.segments.push_back({at(j), at(j + 1), at(j + 2), false});
                j += 2;
            } else {
                run.segments.push_back(straightSegment(here, at(j)));
            }
        }
        path.push_back(std::move(run));
    }
    return path;
}

Path pathOf(SplashPath& splash, Point origin, const Affine& map) {
    Path path;
    const auto at = [&](int i, unsigned char* flags) {
        double x = 0, y = 0;
        splash.getPoint(i, &x, &y, flags);
        return within(map(origin + Point{x, y}));
    };
    for (int i = 0; i < splash.getLength(); ++i) {
        unsigned char flags = 0, ignored = 0;
        const Point p = at(i, &flags);
        if (flags & splashPathFirst || path.empty()) {
            path.push_back({p, {}, true});
            continue;
        }
        Subpath& run = path.back();
        if (flags & splashPathCurve && i + 2 < splash.getLength()) {
            const Point control2 = at(i + 1, &ignored);
            run.segments.push_back({p, control2, at(i + 2, &ignored), false});
            i += 2;
        } else {
            run.segments.push_back(
                straightSegment(run.segments.empty() ? run.start : run.segments.back().end, p));
        }
    }
    return path;
}

Path pathWithin(Path path) {
    for (Subpath& run : path) {
        run.start = within(run.start);
        for (CurveSegment& s : run.segments)
            s = {within(s.control1), within(s.control2), within(s.end), s.straight};
    }
    return path;
}

PaintShape strokeShape(const GfxState& state, const std::function<Path(const Affine&)>& pathIn) {
    const Affine map = toPage(state);
    const double scale = std::sqrt(std::abs(map.determinant()));
    PaintShape shape;
    if (!(scale > 1e-9 && scale < 1e9)) // squeezed to nothing, or no number
        return shape;
    PaintShape::Stroke stroke;
    stroke.toPage = map * Affine::scaling(1 / scale, 1 / scale);
    StrokeStyle& style = stroke.style;
    style.width = std::clamp(state.getLineWidth() * scale, thinnestLine, 99'000.0);
    style.cap = state.getLineCap() == 1   ? LineCap::round
                : state.getLineCap() == 2 ? LineCap::square
                                          : LineCap::butt;
    style.join = state.getLineJoin() == 1   ? LineJoin::round
                 : state.getLineJoin() == 2 ? LineJoin::bevel
                                            : LineJoin::miter;
    style.miterLimit = std::clamp(state.getMiterLimit(), 1.0, 1e9);
    double phase = 0;
    for (const double dash : const_cast<GfxState&>(state).getLineDash(&phase))
        style.dashes.push_back(std::clamp(dash * scale, 0.0, 1e9));
    if (style.dashes.size() > 1000)
        style.dashes.clear();
    style.dashPhase = std::clamp(phase * scale, -1e9, 1e9);
    shape.path = pathIn(Affine::scaling(scale, scale));
    shape.stroke = std::move(stroke);
    return shape;
}

Path pictureArea(const GfxState& state) {
    return boxPath({{0, 0}, {1, 1}}, toPage(state));
}

Path shadedArea(const GfxState& state, const GfxFunctionShading& shading) {
    double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    shading.getDomain(&x0, &y0, &x1, &y1);
    return boxPath({{x0, y0}, {x1, y1}}, toPage(state) * mapOf(shading.getMatrix()));
}

Path shadedArea(const GfxState& state, const GfxAxialShading& shading) {
    double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    shading.getCoords(&x0, &y0, &x1, &y1);
    const Point from{x0, y0}, to{x1, y1}, along = to - from;
    const Box seen = clipBox(state);
    const Affine map = toPage(state);
    if (length(along) == 0 || (shading.getExtend0() && shading.getExtend1()))
        return boxPath(seen, map);
    // A band across the gradient, as far as can be seen.
    const double far = length({seen.width(), seen.height()}) + distance(seen.centre(), from) + length(along);
    const Point direction = unit(along), across = Point{-direction.y, direction.x} * far;
    const Point begin = shading.getExtend0() ? from - direction * far : from;
    const Point end = shading.getExtend1() ? to + direction * far : to;
    return polygon({map(begin + across), map(end + across), map(end - across), map(begin - across)});
}

Path shadedArea(const GfxState& state, const GfxRadialShading& shading) {
    double x0 = 0, y0 = 0, r0 = 0, x1 = 0, y1 = 0, r1 = 0;
    shading.getCoords(&x0, &y0, &r0, &x1, &y1, &r1);
    const bool firstInSecond = distance({x0, y0}, {x1, y1}) + r0 <= r1;
    if (firstInSecond && !shading.getExtend1()) // a disc; else what the clip leaves
        return discPath({x1, y1}, r1, toPage(state));
    return boxPath(clipBox(state), toPage(state));
}

bool isOutside(const GfxState& state) {
    double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    state.getClipBBox(&x0, &y0, &x1, &y1);
    return x0 >= x1 || y0 >= y1;
}

} // namespace hasami
