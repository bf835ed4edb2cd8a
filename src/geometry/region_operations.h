#pragma once

#include "geometry/loop.h"
#include "geometry/path.h"

#include <span>

namespace hasami {

/// All operations work on a grid of 0.1 µm and take coordinates up to 100 m. Results are simple, outer loops
/// have positive area, openings negative. O(n log n) in vertices for usual artwork.

/// The area covered by any of the regions; what runs into each other becomes one. Crossings are resolved by
/// the non-zero rule.
Region unite(std::span<const Region> regions);

/// The same for regions that are simple already, as all results here are: in a fraction of the time.
Region uniteSimple(std::span<const Region> regions);

/// The area that loops, which may cross, enclose by the rule.
Region enclosed(const Region& loops, FillRule rule);

/// The same for closed curves, flattened within `flatteningTolerance`.
Region enclosed(const std::vector<Curve>& curves, FillRule rule);

/// The area that lies in more outer loops than openings, where loops may cross: an opening takes nothing from
/// what is outside of its outer loop.
Region enclosedByOuter(const Region& loops);

/// The region with fewer points, none of those left out farther than `tolerance` from what stays. Parts
/// thinner than that may vanish. O(n log n) for usual shapes.
Region thinned(const Region& region, double tolerance);

/// What both cover.
Region intersection(const Region& a, const Region& b);

/// What becomes of corners that an offset moves out.
enum class CornerForm {
    round, ///< an arc, within 0.01 mm
    sharp, ///< the sides go on until they meet; beyond the limit the corner is flat
    flat,  ///< squared off at the offset's distance
};

struct OffsetCorners {
    CornerForm form = CornerForm::round;
    /// How far a sharp corner may reach, in distances of the offset. REQUIRES: at least 2.
    double limit = 4;

    friend bool operator==(const OffsetCorners&, const OffsetCorners&) = default;
};

/// The region moved out by `distance` (inward where negative); parts that run into each other become one,
/// openings shrink and close. An inward offset may leave nothing.
Region offset(const Region& region, double distance, const OffsetCorners& corners = {});

/// A region that is simple already, moved out, with arcs around corners. Slivers, tips and necks of it have
/// their distance too, however thin they are. REQUIRES: distance > 0.
Region grownSimple(const Region& region, double distance);

/// What the first region covers and the second does not.
Region difference(const Region& region, const Region& taken);

/// The same for regions that are simple already: in a fraction of the time.
Region differenceSimple(const Region& region, const Region& taken);

/// The simple region less what is narrower than `width`. Corners stay where they are, down to some 4 degrees.
Region withoutSlivers(const Region& region, double width);

/// The region with bridges where two of its parts come closer than `width`: there, what lies between them is
/// filled. Parts farther apart, and each part's own bays, stay as they are.
Region bridged(const Region& region, double width);

/// The region with every opening filled, and whatever lay in the openings taken into the whole.
Region withoutOpenings(const Region& region);

} // namespace hasami
