#pragma once

#include "raster/cell_runs.h"

#include <functional>
#include <span>
#include <stop_token>

namespace hasami {

/// A cell of a grid.
struct Cell {
    int column = 0, row = 0;
    friend bool operator==(const Cell&, const Cell&) = default;
};

/// What is found for a run of wanted cells: for each the source nearest to it.
struct NearestRun {
    int column = 0, row = 0; ///< of the first
    std::span<const Cell> nearest;
};

/// Tells for every wanted cell the source cell whose centre is nearest, exactly where that is at most
/// `farthest` cells away, else one that is farther, or the cell itself where there is none. Of several as
/// near, always the same one. `visit` is called from `threads` threads, never twice for one cell; what it
/// throws must be nothing. Throws Stopped.
///
/// The exact Euclidean feature transform after A. Meijster, J. Roerdink and W. Hesselink, "A General
/// Algorithm for Computing Distance Transforms in Linear Time", 2000, with the envelope of parabolas of P.
/// Felzenszwalb and D. Huttenlocher, 2012, in tiles that hold wanted cells. O(cells of those tiles and of the
/// margin of `farthest` around them).
void findNearest(const CellRuns& sources, const CellRuns& wanted, int farthest, int threads,
                 const std::stop_token& stop, const std::function<void(const NearestRun&)>& visit);

} // namespace hasami
