#pragma once

#include "geometry/path.h"
#include "raster/grid.h"

#include <cstdint>

namespace hasami {

/// The outline of what a picture's mask lets through, in the unit square of the picture, y up as in PDF.
/// Crisp masks are outlined at half coverage, soft ones where more than a twentieth shows.
Path maskPath(const Grid<std::uint8_t>& mask);

} // namespace hasami
