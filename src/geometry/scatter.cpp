#include "geometry/scatter.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>
#include <span>
#include <vector>

namespace hasami {

namespace {

constexpr double lengthOfStretch = 8;       // details
constexpr std::size_t fewestOfStretch = 6;  // of a stretch that shows anything
constexpr std::size_t neighboursAround = 4; // stretches on either side, each half a length on
constexpr double flat = 0.005;              // details
constexpr double mostStretches = 0.8;

/// Root mean square about the parabola over the chord, with what its three parameters take from it.
double aboutParabola(std::span<const Point> points) {
    const Point from = points.front(), way = points.back() - from;
    const double chord = length(way);
    if (chord <= 0)
        return 0;
    const Point along = way * (1 / chord);
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    double squares = 0;
    for (const Point p : points) {
        const Point d = p - from;
        const double t = 2 * dot(d, along) / chord - 1, y = cross(along, d);
        const Eigen::Vector3d row(1, t, t * t);
        normal += row * row.transpose();
        right += row * y;
        squares += y * y;
    }
    const double left = squares - right.dot(normal.ldlt().solve(right));
    return std::sqrt(std::max(0.0, left) / double(points.size() - 3));
}

/// Of stretches all along the line, each half a stretch farther on.
std::vector<double> ofStretches(std::span<const Point> line, bool isClosed, double span) {
    std::vector<double> found;
    std::vector<Point> points;
    const std::size_t n = line.size();
    const auto side = [&](std::size_t i) { return distance(line[i % n], line[(i + 1) % n]); };
    std::size_t end = 0;
    double ahead = 0; // from `begin` to `end`
    for (std::size_t begin = 0; begin < n;) {
        const std::size_t last = isClosed ? begin + n : n - 1;
        for (; end < last && ahead < span; ++end)
            ahead += side(end);
        if (ahead < span)
            break;
        points.clear();
        for (std::size_t i = begin; i <= end; ++i)
            points.push_back(line[i % n]);
        if (points.size() >= fewestOfStretch)
            found.push_back(aboutParabola(points));
        for (double gone = 0; gone < span / 2 && begin < end; ++begin) {
            gone += side(begin);
            ahead -= side(begin);
        }
    }
    return found;
}

double quantile(std::vector<double>& of, double part) {
    const auto at = of.begin() + std::ptrdiff_t(part * double(of.size() - 1));
    std::nth_element(of.begin(), at, of.end());
    return *at;
}

} // namespace

std::optional<double> scatterOf(std::span<const Point> line, bool isClosed, double detail) {
    const std::vector<double> found = ofStretches(line, isClosed, lengthOfStretch * detail);
    constexpr std::size_t together = 2 * neighboursAround + 1;
    const std::size_t n = found.size();
    if (n < together)
        return {};
    std::vector<double> local, around;
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t first =
            isClosed ? i + n - neighboursAround
                     : std::min(std::max(i, neighboursAround) - neighboursAround, n - together);
        around.clear();
        for (std::size_t k = 0; k < together; ++k)
            around.push_back(found[(first + k) % n]);
        if (const double middle = quantile(around, 0.5); middle > flat * detail)
            local.push_back(middle);
    }
    return local.empty() ? 0 : quantile(local, mostStretches);
}

} // namespace hasami
