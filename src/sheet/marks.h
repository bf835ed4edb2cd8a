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

/// The marks around a sheet's work, mm of the sheet: at its corners, and in pairs along it. Pairs are spread
/// evenly; in sections all but the last are as long as the interval.
std::vector<Mark> marksAround(const Box& work, const MarkScheme& scheme);

/// A mark by itself, with its ink all around its centre. REQUIRES: no bracket.
Mark markAlone(int id, Point centre, const MarkScheme& scheme);

/// Of a mark that stands alone, how far its ink and its quiet zone reach from its centre, mm.
double inkRadius(const MarkScheme& scheme);
double quietRadius(const MarkScheme& scheme);

/// Where along the medium the lines between the pairs of sections lie, in work that begins at `begin` and
/// ends at `end` at most.
std::vector<double> sectionLines(double begin, double end, const MarkScheme& scheme);

/// How far their ink reaches out of the work, mm.
double roomForMarks(const MarkScheme& scheme);

/// Of a mark that is a filled dot, its radius: formats that know circles hold it as one.
std::optional<double> dotRadius(const Mark& mark);

} // namespace hasami
