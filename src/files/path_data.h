#pragma once

#include "geometry/path.h"

#include <string>

namespace hasami {

/// The run as SVG path data with absolute commands, "M … C … L … Z" (open ones without the Z), to a tenth of
/// a micrometre.
std::string pathData(const Subpath& run);

} // namespace hasami
