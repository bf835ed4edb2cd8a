#pragma once

#include "geometry/point.h"

#include <cstddef>
#include <vector>

namespace hasami {

/// Sets of boxes that hang together, identified by one number for each. O(n log n + pairs that meet along x).
std::vector<std::size_t> setsOf(const std::vector<Box>& boxes);

} // namespace hasami
