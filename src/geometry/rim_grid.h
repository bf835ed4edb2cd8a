#pragma once

#include "geometry/loop.h"

#include <cstdint>
#include <optional>
#include <vector>

namespace hasami {

/// The sides of an area's loops, sorted into square cells: how far it is to the rim, in all directions or in
/// one. Immutable; for any thread.
class RimGrid {
public:
    explicit RimGrid(const Region& region);

    /// Whether a place is inside, by the even-odd rule. O(sides of one row of cells).
    bool holds(Point p) const;

    /// The distance to the nearest side, at most `most`. Fastest where it is a little less than `about`.
    double clearance(Point p, double most, double about = 0) const;

    /// How far a ray goes before it meets the rim; nothing where that is beyond `most`. `direction` has
    /// length 1.
    std::optional<double> firstHit(Point from, Point direction, double most) const;

    bool crosses(Point from, Point to) const;

private:
    struct Side {
        Point from, to;
    };
    void addLoop(const Loop& loop);
    void sortIntoCells();
    template <class Act>
    void eachCellOf(const Side& side, const Act& act) const;
    int columnOf(double x) const;
    int rowOf(double y) const;
    std::size_t cellAt(int column, int row) const {
        return std::size_t(row) * std::size_t(columns_) + std::size_t(column);
    }

    std::vector<Side> sides_;
    Box bounds_;
    double cell_ = 1; // mm
    int columns_ = 0, rows_ = 0;
    std::vector<std::uint32_t> starts_, inCells_; // of each cell, the sides from start to next start
};

} // namespace hasami
