#pragma once

#include "machine/route.h"
#include "profile/profile.h"

#include <variant>
#include <vector>

namespace hasami {

/// From here on lines of another kind are cut, with its holder, force and speed.
struct SelectTool {
    LineKind kind = LineKind::kiss;
};

/// The way to another place with the knife up, mm of the sheet.
struct Travel {
    LineKind kind =
        LineKind::kiss; ///< of the line that is cut next; of the last one on the return to the origin
    Point from, to;
};

/// The knife is set down, goes along one run of a line, and is lifted.
struct Cut {
    LineKind kind = LineKind::kiss;
    std::size_t piece = 0;   ///< of the sheet; the number of pieces for a line that they share
    std::size_t line = 0;    ///< of the piece's sticker, or of those that are shared
    int pass = 0;            ///< counted from 0
    std::vector<Point> path; ///< of the holder, mm of the sheet
    double length = 0;       ///< mm that the tip cuts: the run, and on past the start of a closed one
};

using CutStep = std::variant<SelectTool, Travel, Cut>;

/// All that a cutter does with one sheet, in order, from the origin and back to it. Files, times, costs and
/// the animation are made from this alone.
using CutProgram = std::vector<CutStep>;

/// O(points).
CutProgram programOf(const std::vector<RouteLine>& route, const Cutter& cutter);

/// To lift the knife and set it down again.
inline constexpr double secondsPerLift = 0.3;

/// How long a step takes: a cut by its line's speed, with lifting the knife; a travel by the kiss cut's. With
/// the cutter's acceleration, where that is known, also at corners, where it all but stops.
double secondsOf(const CutStep& step, const Cutter& cutter);

/// How long a person takes for a step that asks for a tool in another holder than the one used before; 0 for
/// all others.
double secondsToChange(const CutProgram& program, std::size_t step, const Cutter& cutter);

} // namespace hasami
