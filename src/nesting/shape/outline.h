#pragma once

#include "geometry/loop.h"

#include <string>
#include <vector>

namespace hasami::nesting {

/// The outline without repeated points and those on the way between their neighbours, in the direction of
/// positive area (or negative, for an opening). Throws InputError, as "NAME WHAT …", where it crosses itself,
/// has spikes of no width or no area.
Loop cleaned(const Loop& loop, bool isOpening, const std::string& name);

/// Whether sides of one cross sides of the other; touching is no crossing.
bool sidesCross(const std::vector<Loop>& loops);

/// The loops moved out by a distance, with arcs around corners, to a micrometre; inward where it is negative,
/// but no corner by more than half as much again.
std::vector<Loop> grown(const std::vector<Loop>& loops, double distance);

/// Each corner moved outward so that its sides are (inward where it is negative), but no farther than half as
/// much again, however sharp it is: there its sides are moved by less.
std::vector<Loop> cornersMoved(const std::vector<Loop>& loops, double by);

/// How far an outline may be simplified.
struct Coarseness {
    std::size_t points; ///< wanted
    double extra;       ///< of its area, more
    double off; ///< new sides and corners may lie from it, as tips are what meets others' bays; farther only
                ///< where there would be more points than wanted
};

/// The same area and a little more, with fewer points: a quarter of those wanted where that adds no more than
/// is told, and those wanted where it adds ten times as much. Never less.
std::vector<Loop> simplifiedOutward(const std::vector<Loop>& loops, const Coarseness& coarseness);

Loop hullOf(const std::vector<Loop>& loops);

} // namespace hasami::nesting
