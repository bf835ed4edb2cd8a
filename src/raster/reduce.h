#pragma once

#include "raster/grid.h"

#include <cstdint>

namespace hasami {

/// The grid made coarser: each value is the mean of a square of `factor` x `factor` cells, or of what there
/// is of it at the right and bottom rim. One pass. REQUIRES: factor > 0.
Grid<std::uint8_t> reduced(const Grid<std::uint8_t>& grid, int factor);

} // namespace hasami
