#pragma once

#include "geometry/curve.h"
#include "sheet/marks.h"

#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// What is printed at a sheet's leading edge beside the registration marks.
struct LeadMark {
    enum class Kind { arrow, tick, code, text };
    Kind kind = Kind::arrow;
    Box box;                ///< with its quiet zone, mm of the sheet
    std::vector<Curve> ink; ///< filled
};

/// Where it may stand on a sheet, mm of the sheet.
struct LeadRoom {
    Box work;
    double least = 0, most = 0; ///< across the medium
    std::vector<Track> tracks;  ///< of rollers
    std::vector<Mark> marks;    ///< whose quiet zones stay clear
};

/// How much of the medium before the work the scheme takes, mm. Of a code: for texts of usual length.
double roomForLead(const LeadScheme& scheme);

/// What the scheme asks for, where there is room for it, a code in smaller modules if need be (down to 0.25
/// mm); what there is no room for is named in `leftOut`, in English and marked for translation.
struct Lead {
    std::vector<LeadMark> marks;
    std::vector<const char*> leftOut;
};
/// `codeText`: what a code holds; `line`: of text. Throws InputError where a code can't hold its text.
Lead leadMarks(const LeadScheme& scheme, const LeadRoom& room, const std::string& codeText,
               const std::string& line = {});

} // namespace hasami
