#pragma once

#include "geometry/path.h"

#include <string>
#include <string_view>

namespace hasami {

/// Pieces of the SVG files that Hasami writes: millimetres, x right, y down.
std::string svgStart(const Box& page);
std::string svgGroupStart(std::string_view name);
std::string svgLine(const Subpath& run);
std::string svgDot(Point centre, double radius);
std::string svgGroupEnd();
std::string svgEnd();

} // namespace hasami
