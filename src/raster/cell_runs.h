#pragma once

#include "geometry/loop.h"

#include <vector>

namespace hasami {

/// A set of cells of a grid, row by row as runs.
struct CellRuns {
    struct Run {
        int from = 0, to = 0; ///< columns, `to` not among them
        friend bool operator==(const Run&, const Run&) = default;
    };
    int top = 0;                        ///< number of the first row
    std::vector<std::vector<Run>> rows; ///< runs from left to right, clear of each other

    bool isEmpty() const;
    /// The runs of a row, none outside the rows held.
    const std::vector<Run>& row(int number) const;
    /// The cells around all: first column and row, and those after the last.
    struct Extent {
        int left = 0, top = 0, right = 0, bottom = 0;
        int width() const { return right - left; }
        int height() const { return bottom - top; }
    };
    Extent extent() const;
};

/// The cells whose centres lie in the region, given in cells: cell (i, j) covers
/// [i, i + 1] x [j, j + 1]. By the even-odd rule. REQUIRES: a simple region within ±1e8. O(points · rows that
/// their sides cross + runs log runs).
CellRuns cellsIn(const Region& region);

} // namespace hasami
