#pragma once

#include "geometry/loop.h"

#include <span>

namespace hasami {

/// All operations work on a grid of 0.1 µm and take coordinates up to 100 m. Results are simple, outer loops
/// have positive area, openings negative. O(n log n) in vertices for usual artwork.

/// The area covered by any of the regions; what runs into each other becomes one. Crossings are resolved by
/// the non-zero rule.
Region unite(std::span<const Region> regions);

/// The region moved out by `distance` (inward where negative), corners rounded with arcs within 5 µm; parts
/// that run into each other become one, openings shrink and close. An inward offset may leave nothing.
Region offsetRound(const Region& region, double distance);

/// The region with every opening filled, and whatever lay in the openings taken into the whole.
Region withoutOpenings(const Region& region);

} // namespace hasami
