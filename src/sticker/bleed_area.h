#pragma once

#include "geometry/curve.h"
#include "geometry/loop.h"

#include <vector>

namespace hasami {

/// Where ink has to go on past what is printed, so that a cut that is off by less than `amount` shows none of
/// the medium: all within `amount` of a stretch of a line along which the print reaches the line, outside of
/// the line and of the print. Gaps in the print of less than 0.3 mm are looked through. A line that runs on
/// the bare medium (a white margin) needs none, nor does one that lies inside the print by `amount` or more.
/// `cuts`: the area inside the lines of each recipe's line. Within 0.02 mm. In mm, amount > 0.
Region bleedBeyond(const Region& printed, const std::vector<Region>& cuts, double amount);

} // namespace hasami
