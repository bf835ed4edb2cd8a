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
