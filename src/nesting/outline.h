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

/// The same area and a little more, with fewer points: at most about `points`, and at most `extra` of its
/// area more if there would be more than that already. Never less.
std::vector<Loop> simplifiedOutward(const std::vector<Loop>& loops, std::size_t points, double extra);

Loop hullOf(const std::vector<Loop>& loops);

} // namespace hasami::nesting
