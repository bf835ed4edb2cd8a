#include "sticker/bleed_area.h"

#include "geometry/region_operations.h"

#include <cmath>
#include <optional>
#include <span>

namespace hasami {

namespace {

constexpr double rim = 0.02;      // mm: the part of a cut area that counts as its line
constexpr double atLine = 0.05;   // mm that the print may stay away from a line and still reach it
constexpr double widestGap = 0.3; // mm between parts of the print that are looked through
constexpr double thinnest = 0.03; // mm: thinner slivers come of rounding
constexpr double tolerance = 0.01;

/// Without parts that are thinner than can be meant, by their area and their perimeter.
Region withoutSlivers(Region region) {
    std::erase_if(region.loops, [](const Loop& loop) {
        return std::abs(signedArea(loop)) < thinnest * perimeter(loop) / 2;
    });
    return region;
}

} // namespace

Region bleedBeyond(const Region& printed, const std::vector<Region>& cuts, double amount) {
    const Region reached = offset(printed, atLine);
    std::optional<Region> reachedOverGaps;
    std::vector<Region> parts;
    for (const Region& cut : cuts) {
        const Region line = difference(cut, offset(cut, -rim));
        Region along = intersection(line, reached);
        if (along.isEmpty())
            continue;
        const bool isAllRound = difference(line, reached).isEmpty(); // the usual case, and far quicker
        if (!isAllRound) {
            if (!reachedOverGaps)
                reachedOverGaps = offset(offset(printed, widestGap / 2), atLine - widestGap / 2);
            along = intersection(line, *reachedOverGaps);
        }
        parts.push_back(difference(offset(isAllRound ? cut : along, amount), cut));
    }
    if (parts.empty())
        return {};
    const Region beyond = difference(parts.size() == 1 ? parts.front() : uniteSimple(parts), printed);
    return withoutSlivers(thinned(beyond, tolerance));
}

} // namespace hasami
