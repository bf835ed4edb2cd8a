#pragma once

#include "geometry/curve.h"
#include "profile/profile.h"

#include <optional>
#include <vector>

namespace hasami {

/// A registration mark on a sheet: what is printed of it, and what has to stay clear around it. Nothing else
/// knows what marks look like.
struct Mark {
    int id = 0; ///< counted from 1 in the order in which a machine reads them
    Point centre;
    std::vector<Curve> ink;   ///< filled
    std::vector<Curve> quiet; ///< nothing else is printed inside
};

/// The marks around a sheet's work, mm of the sheet.
std::vector<Mark> marksAround(const Box& work, const MarkScheme& scheme);

/// How far their ink reaches out of the work, mm.
double roomForMarks(const MarkScheme& scheme);

/// Of a mark that is a filled dot, its radius: formats that know circles hold it as one.
std::optional<double> dotRadius(const Mark& mark);

} // namespace hasami
