#pragma once

#include "geometry/path.h"

#include <vector>

namespace hasami {

/// Where the holder has to go so that the tool's tip follows the run, in mm, within a hundredth of one: past
/// the start of a closed run by the overcut; with a drag knife, whose tip trails its holder by the blade
/// offset, ahead of the tip by as much, around each corner on an arc about it, so that the blade swivels in
/// place. The blade is taken to lie in the run's first direction. O(points).
std::vector<Point> toolPath(const Subpath& run, double bladeOffset, double overcut);

} // namespace hasami
