#include "geometry/course.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hasami {

namespace {

// An edge this many times as long as those around it, or this long in mm, is a straight side rather than a
// chord of a flattened curve.
constexpr double sideInChords = 4, longestChord = 5;
constexpr int mostOnSide = 64;

} // namespace

Course::Course(std::span<const Point> polygon) {
    for (const Point p : polygon)
        if (points_.empty() || distance(points_.back(), p) > 1e-9)
            points_.push_back(p);
    while (points_.size() > 1 && distance(points_.front(), points_.back()) <= 1e-9)
        points_.pop_back();
    at_.push_back(0);
    for (std::size_t i = 0; i < points_.size(); ++i)
        at_.push_back(at_.back() + distance(points_[i], points_[(i + 1) % points_.size()]));
}

Point Course::pointAt(double s) const {
    s = std::fmod(s, length());
    if (s < 0)
        s += length();
    const std::size_t i = edgeAt(s);
    const double span = edgeLength(i);
    return between(points_[i], points_[(i + 1) % points_.size()], span > 0 ? (s - at_[i]) / span : 0);
}

std::vector<Point> Course::pointsBetween(double from, double to) const {
    std::vector<Point> found;
    double turns = std::floor(from / length()) * length();
    for (std::size_t edge = edgeAt(from - turns); turns + at_[edge] < to;) {
        const int parts = partsOf(edge);
        for (int k = 0; k < parts; ++k) {
            const double t = double(k) / parts;
            const double s = turns + at_[edge] + edgeLength(edge) * t;
            if (s > from && s < to)
                found.push_back(between(points_[edge], points_[(edge + 1) % size()], t));
        }
        if (++edge == size()) {
            edge = 0;
            turns += length();
        }
    }
    return found;
}

std::size_t Course::edgeAt(double s) const {
    const auto after = std::upper_bound(at_.begin(), at_.end(), s);
    return std::min(std::size_t(after - at_.begin()), points_.size()) - 1;
}

int Course::partsOf(std::size_t edge) const {
    const std::size_t n = size();
    std::array around{edgeLength((edge + n - 1) % n), edgeLength((edge + n - 2) % n),
                      edgeLength((edge + 1) % n), edgeLength((edge + 2) % n)};
    std::sort(around.begin(), around.end());
    const double usual = std::min(around[1], longestChord); // the shortest may be the rest of an arc
    const double own = edgeLength(edge);
    if (own <= sideInChords * usual && own <= longestChord)
        return 1;
    return std::clamp(static_cast<int>(own / usual), 4, mostOnSide);
}

} // namespace hasami
