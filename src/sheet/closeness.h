#pragma once

#include "geometry/loop.h"

#include <map>
#include <tuple>
#include <vector>

namespace hasami {

/// How close shapes can come that slide towards each other along an axis, keeping a gap: from their
/// outlines, or from their boxes alone. Each shape has its frame's origin where its place is.
class Closeness {
public:
    enum class Axis { along, across }; ///< x, y

    /// REQUIRES: no region is empty.
    Closeness(std::vector<Region> shapes, double gapAlong, double gapAcross, bool byBoxes);

    const Box& box(std::size_t shape) const { return boxes_[shape]; }

    /// The least way that `later` lies behind `first` along the axis, where it lies `aside` of it along the
    /// other one; minus infinity where they pass by each other. O(points of both), once for each `aside`.
    double leastWay(std::size_t first, std::size_t later, double aside, Axis axis);

private:
    double outlineWay(std::size_t first, std::size_t later, double aside, Axis axis) const;

    std::vector<Region> shapes_, grownAlong_, grownAcross_;
    std::vector<Box> boxes_;
    double gapAlong_, gapAcross_;
    bool byBoxes_;
    std::map<std::tuple<std::size_t, std::size_t, long long, Axis>, double> known_;
};

} // namespace hasami
