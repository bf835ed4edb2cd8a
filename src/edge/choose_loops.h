#pragma once

#include "edge/edge_options.h"
#include "geometry/point.h"

#include <span>
#include <vector>

namespace hasami {

/// What distinguishes a loop from others.
struct LoopFacts {
    double area = 0; ///< mm²; negative for an opening
    Box box;
    int depth = 0; ///< how many loops it lies in
};

/// For each loop whether it becomes part of the edge: by the choice, and by the switches, each of which
/// counts for the loop most like the one it was set for. `artwork` is the box that places refer to.
/// O((loops + switches) log loops), and the loops close to each switch.
std::vector<bool> chooseLoops(std::span<const LoopFacts> loops, const EdgeOptions& options,
                              const Box& artwork);

/// Sets the switch of an item's loop, or takes it away where the choice alone says the same.
void switchLoop(EdgeOptions& options, const LoopFacts& loop, const Box& artwork, bool isCut, int item = 0);

} // namespace hasami
