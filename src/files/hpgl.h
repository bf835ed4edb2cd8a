#pragma once

#include "job/job.h"
#include "workshop/make_all.h"

#include <string>

namespace hasami {

/// One sheet's cut lines as HPGL: 40 units a mm, absolute; x along the feed, y up from the side that is at
/// the bottom on screen. Kiss lines are pen 1, at the profile's speed (VS, cm/s) and force (FS, g) where it
/// gives them. Curves are drawn within 0.01 mm before they are rounded to units; each line ends where it
/// starts. HPGL has no layers, so the marks are not in it. REQUIRES: `sheet` is an index of
/// made.layout.sheets.
std::string cutHpgl(const Job& job, const Made& made, std::size_t sheet);

} // namespace hasami
