#pragma once

#include "raster/grid.h"

#include <cstdint>
#include <optional>
#include <string>

namespace hasami {

/// The text of a Data Matrix or Code 128 in a picture (0 black, 255 white), however it is turned, by ZXing;
/// nothing where there is none that can be read.
std::optional<std::string> readCode(const Grid<std::uint8_t>& picture);

} // namespace hasami
