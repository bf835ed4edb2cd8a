#pragma once

#include "geometry/point.h"

#include <span>
#include <vector>

namespace hasami {

/// A closed polygon that can be asked for the point at an arc length (which wraps around). Points that lie in
/// one place count once.
class Course {
public:
    explicit Course(std::span<const Point> polygon);

    std::size_t size() const { return points_.size(); }
    double length() const { return at_.back(); }
    double lengthAt(std::size_t vertex) const { return at_[vertex]; }

    /// O(log n).
    Point pointAt(double s) const;

    Point direction(double from, double to) const { return unit(pointAt(to) - pointAt(from)); }

    /// Vertices strictly inside (from, to), `to` at most one turn beyond `from`, and points along straight
    /// sides, so that a curve through all of them can't bulge between a side's ends.
    std::vector<Point> pointsBetween(double from, double to) const;

private:
    std::size_t edgeAt(double s) const;
    double edgeLength(std::size_t edge) const { return at_[edge + 1] - at_[edge]; }
    int partsOf(std::size_t edge) const;

    std::vector<Point> points_;
    std::vector<double> at_;
};

} // namespace hasami
