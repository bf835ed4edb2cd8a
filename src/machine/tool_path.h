#pragma once

#include "geometry/path.h"
#include "machine/route.h"
#include "profile/profile.h"

#include <vector>

namespace hasami {

/// Where the holder has to go so that the tool's tip follows the run, in mm, within a hundredth of one: past
/// the start of a closed run by the overcut; with a drag knife, whose tip trails its holder by the blade
/// offset, ahead of the tip by as much, around each corner on an arc about it, so that the blade swivels in
/// place. The blade is taken to lie in the run's first direction. O(points).
std::vector<Point> toolPath(const Subpath& run, double bladeOffset, double overcut);

/// One stroke with the knife down: what files tell machines to do, costs sum up and the animation shows.
struct ToolStroke {
    LineKind kind = LineKind::kiss;
    std::vector<Point> path; ///< of the holder, mm of the sheet
    double cut = 0;          ///< mm that the tip cuts: the run, and on past the start of a closed one
};

/// All strokes of a route in order, line after line, each as often as its kind's passes.
std::vector<ToolStroke> toolStrokes(const std::vector<RouteLine>& route, const Profile& profile);

/// The way with the knife up: from the origin from stroke to stroke, and back.
double travelOf(const std::vector<ToolStroke>& strokes);

} // namespace hasami
