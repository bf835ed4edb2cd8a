#include "machine/tool_path.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double hpglTolerance = 0.01; // mm, below half a unit of HPGL

/// The points on from the start, once more, for as long as the overcut is.
void addOvercut(std::vector<Point>& points, double overcut) {
    const std::size_t once = points.size() - 1; // the last one closes the run
    for (std::size_t i = 0; i < once && overcut > 0; ++i) {
        const Point from = points[i], to = points[i + 1];
        const double side = distance(from, to);
        points.push_back(side > overcut ? between(from, to, overcut / side) : to);
        overcut -= side;
    }
}

void addSwivel(std::vector<Point>& path, Point corner, Point in, Point out, double radius) {
    const double from = std::atan2(in.y, in.x);
    double turn = std::atan2(cross(in, out), dot(in, out));
    const double step = 2 * std::acos(std::max(0.0, 1 - hpglTolerance / std::max(radius, hpglTolerance)));
    const int count = std::max(1, int(std::ceil(std::abs(turn) / step)));
    for (int i = 1; i <= count; ++i) {
        const double angle = from + turn * i / count;
        path.push_back(corner + Point{std::cos(angle), std::sin(angle)} * radius);
    }
}

} // namespace

std::vector<Point> toolPath(const Subpath& run, double bladeOffset, double overcut) {
    std::vector<Point> points = flatten(run, hpglTolerance);
    if (points.empty())
        return points;
    if (run.isClosed) {
        points.push_back(points.front());
        addOvercut(points, overcut);
    }
    if (bladeOffset <= 0 || points.size() < 2)
        return points;
    std::vector<Point> path;
    Point before = unit(points[1] - points[0]);
    path.push_back(points[0] + before * bladeOffset);
    for (std::size_t i = 1; i < points.size(); ++i) {
        const Point way = points[i] - points[i - 1];
        if (length(way) < 1e-9)
            continue;
        const Point now = unit(way);
        if (i > 1)
            addSwivel(path, points[i - 1], before, now, bladeOffset);
        path.push_back(points[i] + now * bladeOffset);
        before = now;
    }
    return path;
}

} // namespace hasami
