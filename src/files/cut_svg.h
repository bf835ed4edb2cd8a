#pragma once

#include "job/job.h"
#include "workshop/route_sheet.h"

#include <string>

namespace hasami {

/// One sheet's cut lines and marks as SVG: millimetres of the sheet, as on screen; a group for each kind of
/// line, by its name, and one named "marks". REQUIRES: `sheet` is an index of made.layout.sheets.
std::string cutSvg(const Job& job, const Made& made, std::size_t sheet, const LineKinds& kinds = {});

} // namespace hasami
