#pragma once

#include "geometry/loop.h"
#include "raster/grid.h"

#include <cstdint>
#include <stop_token>

namespace hasami {

/// The lines where the grid's values, read as samples at the cells' centres, cross `level`: closed loops in
/// cells (x right, y down, the grid's corner at 0,0), outer loops with positive area, openings with negative.
/// Outside the grid the value is 0, so every loop closes. `level` lies between 0 and 255 and is kept off
/// whole numbers, so that no sample lies exactly on the line. Throws Stopped.
///
/// Marching squares with linear interpolation (W. Lorensen and H. Cline, "Marching Cubes", 1987, in the
/// plane); where both diagonals could be joined, the mean of the four samples decides. Where the samples go
/// from nothing to all within a few cells, the covered area gives the place instead, which is exact for a
/// straight edge: on a shape drawn with exact coverage the line at 127.5 is within 0.02 cells (root mean
/// square) away from corners. One pass over the cells plus O(points).
std::vector<Loop> levelLines(const Grid<std::uint8_t>& samples, double level,
                             const std::stop_token& stop = {});

} // namespace hasami
