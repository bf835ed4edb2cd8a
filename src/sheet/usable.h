#pragma once

#include "sheet/sheet.h"

namespace hasami {

/// Why no piece can lie at a place of a sheet.
enum class Unusable {
    nothing,  ///< it can
    reach,    ///< the machine does not get there
    margin,   ///< the plan's, or a strip of the medium that is kept or used up
    used,     ///< used before
    rollers,  ///< run there
    sections, ///< meet there
    quiet,    ///< a mark's quiet zone
    marks,    ///< and their quiet zones have their room there
    lead,     ///< what is printed at the leading edge has
};

/// `number` of the sheet in its layout; `at` in mm of it. REQUIRES: on the medium.
Unusable whyUnusable(const SheetPlan& plan, const Profile& profile, const Sheet& sheet, int number, Point at);

/// A sentence without a full stop, in English and marked for translation. nullptr for `nothing`.
const char* sentenceOn(Unusable why);

} // namespace hasami
