#pragma once

#include "geometry/path.h"

#include <string>

namespace hasami {

/// The run as SVG path data with absolute commands, "M … C … L … Z" (open ones without the Z), to a tenth of
/// a micrometre. A straight way back to the start is drawn by the Z alone.
std::string pathData(const Subpath& run);

} // namespace hasami
