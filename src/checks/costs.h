#pragma once

#include "job/job.h"
#include "machine/route.h"
#include "workshop/make_all.h"

#include <map>
#include <string>
#include <vector>

namespace hasami {

/// To lift the knife and set it down again.
inline constexpr double secondsPerLift = 0.3;

/// What one sheet takes and gives. Lengths in mm, areas in mm².
struct SheetCosts {
    double usedLength = 0; ///< from the leading edge to the end of the strip behind the last mark
    double area = 0;       ///< used length by the medium's width
    double density = 0;    ///< area inside the stickers' cut lines over the used area, 0 to 1
    std::map<std::string, std::size_t> stickers; ///< by design id
    std::map<LineKind, double> cutLength;        ///< by kind of line
    double travel = 0;                           ///< with the knife up, along the route of the files
    std::size_t knifeLifts = 0;                  ///< one for each line
    double minutes = 0;                          ///< to cut, by the profile's speeds, with the lifts
};

/// `route`: the sheet's, see routeOf. O(pieces · lines). REQUIRES: `sheet` is an index of made.layout.sheets.
SheetCosts costsOf(const Job& job, const Made& made, std::size_t sheet, const std::vector<RouteLine>& route);

} // namespace hasami
