#pragma once

#include "edge/edge_options.h"
#include "edge/find_edge.h"
#include "geometry/curve_place.h"

#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// Lines with what was changed by hand. Lengths in mm of the design; `artwork` is the box that the touch-ups'
/// places refer to.
struct TouchedLines {
    std::vector<EdgeLoop> loops; ///< as they were found, with the stretches done by hand in their curves
    std::vector<std::optional<std::size_t>> loopOf; ///< for each touch-up the loop it is on; none: left out
};

/// Lays each touch-up on the line that it was made for. Its ends stay on that line, and what lies between
/// moves with them. Left out is one whose line runs elsewhere by now: more than a fiftieth of the artwork's
/// longer side from where it ran. O(loops x touch-ups), boxes ruling out most.
TouchedLines applyTouchUps(std::span<const EdgeLoop> found, const std::vector<TouchUp>& touchUps,
                           const Box& artwork);

/// What was done by hand on a line, relative to the line as found.
std::vector<TouchUp> touchUpsOf(const EdgeLoop& found, const EdgeLoop& touched, const Box& artwork);

/// The line without crossings: itself, or what remains inside once it crosses itself. Fitted within the
/// tolerance.
std::vector<Curve> untangled(const Curve& curve, double tolerance);

} // namespace hasami
