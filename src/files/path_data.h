#pragma once

#include "geometry/curve.h"

#include <string>

namespace hasami {

/// The curve as SVG path data with absolute commands, "M … C … L … Z", to a tenth of a micrometre.
std::string pathData(const Curve& curve);

} // namespace hasami
