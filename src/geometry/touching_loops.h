#pragma once

#include "geometry/loop.h"

#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// The loops with the points that two of them share, or one passes twice, moved apart by 2 µm; nothing if
/// there are none. A union leaves such points where areas meet in a corner. O(n log n) in points. REQUIRES:
/// loops that don't cross.
std::optional<std::vector<Loop>> parted(std::span<const Loop> loops);

} // namespace hasami
