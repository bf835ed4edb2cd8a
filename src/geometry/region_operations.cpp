#include "geometry/region_operations.h"

#include <polyclipping/clipper.hpp>

#include <algorithm>
#include <cassert>
#include <cmath>
#include <utility>

namespace hasami {

namespace {

namespace cl = ClipperLib;

constexpr double unitsPerMillimetre = 10'000; // a grid of 0.1 µm
constexpr double reach = 100'000;             // mm; beyond 107 m Clipper turns to slow 128-bit arithmetic
constexpr double arcTolerance = 0.005;        // mm, as flatteningTolerance

cl::Path toClipper(const Loop& loop) {
    cl::Path path;
    path.reserve(loop.size());
    for (const Point p : loop) {
        assert(std::abs(p.x) <= reach && std::abs(p.y) <= reach);
        path.emplace_back(std::llround(p.x * unitsPerMillimetre), std::llround(p.y * unitsPerMillimetre));
    }
    return path;
}

cl::Paths toClipper(const Region& region) {
    cl::Paths paths;
    for (const Loop& loop : region.loops)
        paths.push_back(toClipper(loop));
    return paths;
}

Region fromClipper(const cl::Paths& paths) {
    Region region;
    for (const cl::Path& path : paths) {
        Loop loop;
        loop.reserve(path.size());
        for (const cl::IntPoint& p : path)
            loop.push_back({double(p.X) / unitsPerMillimetre, double(p.Y) / unitsPerMillimetre});
        region.loops.push_back(std::move(loop));
    }
    return region;
}

/// Strictly simple: parts that touch in a point come apart there, which takes long for outlines of many
/// thousand points.
cl::Paths uniteNonZero(const cl::Paths& paths, bool strictlySimple = true) {
    cl::Clipper clipper;
    clipper.StrictlySimple(strictlySimple);
    clipper.AddPaths(paths, cl::ptSubject, true);
    cl::Paths united;
    clipper.Execute(cl::ctUnion, united, cl::pftNonZero, cl::pftNonZero);
    return united;
}

cl::Paths filled(const cl::Paths& paths, cl::PolyFillType rule) {
    cl::Clipper clipper;
    clipper.AddPaths(paths, cl::ptSubject, true);
    cl::Paths area;
    clipper.Execute(cl::ctUnion, area, rule, rule);
    return area;
}

cl::Paths moved(const cl::Paths& paths, double distance, const OffsetCorners& corners) {
    const auto join = corners.form == CornerForm::round   ? cl::jtRound
                      : corners.form == CornerForm::sharp ? cl::jtMiter
                                                          : cl::jtSquare;
    cl::ClipperOffset offset(corners.limit, arcTolerance * unitsPerMillimetre);
    offset.AddPaths(paths, join, cl::etClosedPolygon);
    cl::Paths result;
    offset.Execute(result, distance * unitsPerMillimetre);
    return result;
}

cl::Paths combined(cl::ClipType how, const cl::Paths& first, const cl::Paths& second) {
    cl::Clipper clipper;
    clipper.AddPaths(first, cl::ptSubject, true);
    clipper.AddPaths(second, cl::ptClip, true);
    cl::Paths result;
    clipper.Execute(how, result, cl::pftNonZero, cl::pftNonZero);
    return result;
}

/// What the first covers and the second does not.
cl::Paths moreThan(const cl::Paths& first, const cl::Paths& second) {
    return combined(cl::ctDifference, first, second);
}

/// The loop's points from which all others lie within the tolerance (after U. Ramer, "An iterative procedure
/// for the polygonal approximation of plane curves", 1972): its first, the one farthest from that, and what
/// the sides between need.
Loop withFewerPoints(const Loop& loop, double tolerance) {
    if (loop.empty())
        return {};
    const auto farther = [&](Point a, Point b) {
        return distance(loop.front(), a) < distance(loop.front(), b);
    };
    const auto middle = std::size_t(std::max_element(loop.begin(), loop.end(), farther) - loop.begin());
    std::vector<bool> isKept(loop.size(), false);
    isKept[0] = isKept[middle] = true;
    std::vector<std::pair<std::size_t, std::size_t>> stretches{{0, middle}, {middle, loop.size()}};
    while (!stretches.empty()) {
        const auto [from, to] = stretches.back();
        stretches.pop_back();
        const Point a = loop[from], b = loop[to % loop.size()];
        std::size_t worst = from;
        double most = tolerance;
        for (std::size_t i = from + 1; i < to; ++i)
            if (const double off = distanceToSegment(loop[i], a, b); off > most) {
                most = off;
                worst = i;
            }
        if (worst == from)
            continue;
        isKept[worst] = true;
        stretches.push_back({from, worst});
        stretches.push_back({worst, to});
    }
    Loop fewer;
    for (std::size_t i = 0; i < loop.size(); ++i)
        if (isKept[i])
            fewer.push_back(loop[i]);
    return fewer;
}

cl::Path withoutRepeats(cl::Path path) {
    path.erase(std::unique(path.begin(), path.end()), path.end());
    while (path.size() > 1 && path.front() == path.back())
        path.pop_back();
    return path;
}

/// Where a path turns back so sharply that, on the grid, it may turn the wrong way: an offset would have no
/// arc there.
cl::Path sharpTips(const cl::Path& path) {
    constexpr double sharp = 0.01; // sine of the angle at the tip
    const auto side = [](const cl::IntPoint& a, const cl::IntPoint& b) {
        return Point{double(b.X - a.X), double(b.Y - a.Y)};
    };
    cl::Path tips;
    for (std::size_t i = 0; i < path.size() && path.size() >= 3; ++i) {
        const Point in = side(path[(i + path.size() - 1) % path.size()], path[i]);
        const Point out = side(path[i], path[(i + 1) % path.size()]);
        if (dot(in, out) < 0 && std::abs(cross(in, out)) < sharp * length(in) * length(out))
            tips.push_back(path[i]);
    }
    return tips;
}

/// Whether the piece lies against two of the parts.
bool touchesTwo(const cl::Path& piece, const cl::Paths& parts) {
    const cl::Paths grown = moved({piece}, 2 * arcTolerance, {});
    int touched = 0;
    for (const cl::Path& part : parts) {
        if (!cl::Orientation(part))
            continue;
        touched += !combined(cl::ctIntersection, grown, {part}).empty();
    }
    return touched >= 2;
}

} // namespace

Region unite(std::span<const Region> regions) {
    cl::Paths all;
    for (const Region& region : regions) {
        // Each by itself first: an opening of one must not be taken from another.
        cl::Paths own = uniteNonZero(toClipper(region));
        all.insert(all.end(), own.begin(), own.end());
    }
    return fromClipper(regions.size() > 1 ? uniteNonZero(all) : all);
}

Region uniteSimple(std::span<const Region> regions) {
    cl::Paths all;
    for (const Region& region : regions)
        for (const Loop& loop : region.loops)
            all.push_back(toClipper(loop));
    return fromClipper(uniteNonZero(all, false));
}

Region enclosed(const Region& loops, FillRule rule) {
    return fromClipper(filled(toClipper(loops), rule == FillRule::nonZero ? cl::pftNonZero : cl::pftEvenOdd));
}

Region enclosedByOuter(const Region& loops) {
    return fromClipper(filled(toClipper(loops), cl::pftPositive));
}

Region enclosed(const std::vector<Curve>& curves, FillRule rule) {
    return enclosed(flatten(curves, flatteningTolerance), rule);
}

Region thinned(const Region& region, double tolerance) {
    cl::Paths paths;
    for (const Loop& loop : region.loops)
        if (Loop fewer = withFewerPoints(loop, tolerance); fewer.size() >= 3)
            paths.push_back(toClipper(fewer));
    return fromClipper(uniteNonZero(paths, false));
}

Region intersection(const Region& a, const Region& b) {
    return fromClipper(
        combined(cl::ctIntersection, uniteNonZero(toClipper(a), false), uniteNonZero(toClipper(b), false)));
}

Region offset(const Region& region, double distance, const OffsetCorners& corners) {
    return fromClipper(moved(uniteNonZero(toClipper(region), false), distance, corners));
}

Region grownSimple(const Region& region, double distance) {
    cl::ClipperOffset grow(OffsetCorners{}.limit, arcTolerance * unitsPerMillimetre);
    for (const Loop& loop : region.loops) {
        const cl::Path path = withoutRepeats(toClipper(loop));
        // On the grid, what is thin may be a line or a dot.
        grow.AddPath(path, cl::jtRound, path.size() < 3 ? cl::etOpenRound : cl::etClosedPolygon);
        for (const cl::IntPoint& tip : sharpTips(path))
            grow.AddPath({tip}, cl::jtRound, cl::etOpenRound);
    }
    cl::Paths result;
    grow.Execute(result, distance * unitsPerMillimetre);
    return fromClipper(result);
}

Region difference(const Region& region, const Region& taken) {
    return fromClipper(
        moreThan(uniteNonZero(toClipper(region), false), uniteNonZero(toClipper(taken), false)));
}

Region differenceSimple(const Region& region, const Region& taken) {
    return fromClipper(moreThan(toClipper(region), toClipper(taken)));
}

Region withoutSlivers(const Region& region, double width) {
    const OffsetCorners sharp{CornerForm::sharp, 30};
    return fromClipper(moved(moved(toClipper(region), -width / 2, sharp), width / 2, sharp));
}

Region bridged(const Region& region, double width) {
    const cl::Paths all = uniteNonZero(toClipper(region));
    cl::Paths bridges;
    for (const cl::Path& piece : moreThan(moved(moved(all, width / 2, {}), -width / 2, {}), all))
        if (cl::Orientation(piece) && touchesTwo(piece, all))
            bridges.push_back(piece);
    if (bridges.empty())
        return fromClipper(all);
    // Grown by a hair, so that they run into the parts they join.
    bridges = moved(bridges, 2 * arcTolerance, {});
    bridges.insert(bridges.end(), all.begin(), all.end());
    return fromClipper(uniteNonZero(bridges));
}

Region withoutOpenings(const Region& region) {
    cl::Paths outers;
    for (const cl::Path& path : uniteNonZero(toClipper(region), false))
        if (cl::Orientation(path))
            outers.push_back(path);
    return fromClipper(uniteNonZero(outers, false));
}

} // namespace hasami
