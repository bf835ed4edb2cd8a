#pragma once

#include "raster/grid.h"

#include <cstdint>

namespace hasami {

/// Whether parts of it are between nothing and all: not only along edges, where that is so for a pixel or
/// two. One pass over the cells.
bool hasHalfCoveredParts(const Grid<std::uint8_t>& coverage);

} // namespace hasami
