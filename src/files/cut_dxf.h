#pragma once

#include "workshop/route_sheet.h"

#include <string>

namespace hasami {

/// One sheet's cut lines of some kinds as DXF: millimetres, x along the feed, y up from the side that is at
/// the bottom on screen, a layer for each kind of line and one for the marks. REQUIRES: `sheet` is an index
/// of made.layout.sheets.
std::string cutDxf(const Job& job, const Made& made, std::size_t sheet, const LineKinds& kinds = {});

} // namespace hasami
