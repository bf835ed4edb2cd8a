#pragma once

#include "geometry/loop.h"

#include <optional>

namespace hasami {

/// How far the points of a loop scatter about a smooth course, told from the loop alone: the root mean square
/// about parabolas over stretches of eight details, of neighbouring stretches the middle one, so that corners
/// don't count; of these the one that four fifths don't exceed. Stretches without any scatter, which even a
/// coarse grid gives along its axes, are left out. Nothing where the loop is shorter than some forty details.
/// O(points). `detail`: a pixel, for a line found in a picture.
std::optional<double> scatterOf(const Loop& loop, double detail);

} // namespace hasami
