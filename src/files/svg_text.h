#pragma once

#include "geometry/curve.h"

#include <string>
#include <string_view>

namespace hasami {

/// Pieces of the SVG files that Hasami writes: millimetres, x right, y down.
std::string svgStart(const Box& page);
std::string svgGroupStart(std::string_view name);
std::string svgLine(const Curve& curve);
std::string svgDot(Point centre, double radius);
std::string svgGroupEnd();
std::string svgEnd();

} // namespace hasami
