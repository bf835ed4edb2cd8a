#include "geometry/region_operations.h"

#include <polyclipping/clipper.hpp>

#include <cassert>
#include <cmath>

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

cl::Paths uniteNonZero(const cl::Paths& paths) {
    cl::Clipper clipper;
    clipper.StrictlySimple(true);
    clipper.AddPaths(paths, cl::ptSubject, true);
    cl::Paths united;
    clipper.Execute(cl::ctUnion, united, cl::pftNonZero, cl::pftNonZero);
    return united;
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

Region offsetRound(const Region& region, double distance) {
    cl::ClipperOffset offset(2.0, arcTolerance * unitsPerMillimetre);
    offset.AddPaths(uniteNonZero(toClipper(region)), cl::jtRound, cl::etClosedPolygon);
    cl::Paths moved;
    offset.Execute(moved, distance * unitsPerMillimetre);
    return fromClipper(moved);
}

Region withoutOpenings(const Region& region) {
    cl::Paths outers;
    for (const cl::Path& path : uniteNonZero(toClipper(region)))
        if (cl::Orientation(path))
            outers.push_back(path);
    return fromClipper(uniteNonZero(outers));
}

} // namespace hasami
