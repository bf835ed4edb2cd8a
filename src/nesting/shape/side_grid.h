#pragma once

#include "geometry/point.h"

#include <cstdint>
#include <vector>

namespace hasami::nesting {

/// Finds sides that may meet a segment among many. Sides that are gone or have moved may still be found where
/// they were: whoever asks looks at them as they are.
class SideGrid {
public:
    /// Fit for that many sides of that length in all, about within the box.
    SideGrid(const Box& box, std::size_t sides, double length);

    /// O(cells that it goes through).
    void add(Point a, Point b, std::uint32_t side);

    /// Whether `isMet(side)` for any side that may have a point in common with the segment; a side may be
    /// asked for more than once.
    template <class IsMet>
    bool any(Point a, Point b, IsMet isMet) const {
        for (const Run& run : runs(a, b))
            for (std::size_t cell = run.first; cell <= run.last; ++cell)
                for (const std::uint32_t side : cells_[cell])
                    if (isMet(side))
                        return true;
        return false;
    }

private:
    /// Cells beside each other.
    struct Run {
        std::size_t first, last;
    };

    /// The cells that a segment goes through, row by row; what lies outside is in those at the rim.
    const std::vector<Run>& runs(Point a, Point b) const;
    std::size_t columnOf(double x) const;
    std::size_t rowOf(double y) const;

    Point least_;
    double cell_;
    std::size_t columns_, rows_;
    std::vector<std::vector<std::uint32_t>> cells_;
    mutable std::vector<Run> runs_;
};

} // namespace hasami::nesting
