#include "geometry/path.h"

#include <algorithm>

namespace hasami {

std::vector<Point> flatten(const Subpath& run, double tolerance) {
    Loop points = flatten(Curve{run.start, run.segments}, tolerance);
    if (points.empty())
        points.push_back(run.start);
    points.push_back(run.segments.empty() ? run.start : run.segments.back().end);
    points.erase(std::unique(points.begin(), points.end()), points.end());
    if (run.isClosed)
        while (points.size() > 1 && points.front() == points.back())
            points.pop_back();
    return points;
}

std::span<const CurveSegment> drawnSegments(const Subpath& run) {
    constexpr double same = 1e-6; // mm
    const std::span<const CurveSegment> all = run.segments;
    const bool closesItself =
        run.isClosed && all.size() > 1 && all.back().straight && distance(all.back().end, run.start) < same;
    return all.first(all.size() - (closesItself ? 1 : 0));
}

Path map(const Path& path, const Affine& by) {
    Path mapped;
    mapped.reserve(path.size());
    for (const Subpath& run : path) {
        Curve curve = map(Curve{run.start, run.segments}, by);
        mapped.push_back({curve.start, std::move(curve.segments), run.isClosed});
    }
    return mapped;
}

} // namespace hasami
