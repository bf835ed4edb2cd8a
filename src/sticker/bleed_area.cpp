#include "sticker/bleed_area.h"

#include "geometry/region_operations.h"

#include <span>

namespace hasami {

namespace {

constexpr double rim = 0.02;      // mm: the part of a cut area that counts as its line
constexpr double atLine = 0.05;   // mm that the print may stay away from a line and still reach it
constexpr double thinnest = 0.02; // mm: thinner slivers come of rounding

/// Without what is thinner than twice `width`.
Region opened(const Region& region, double width) {
    return region.isEmpty() ? region : offset(offset(region, -width), width);
}

} // namespace

Region bleedBeyond(const Region& printed, const std::vector<Region>& cuts, double amount) {
    const Region reached = offset(printed, atLine);
    std::vector<Region> parts;
    for (const Region& cut : cuts) {
        const Region along = intersection(difference(cut, offset(cut, -rim)), reached);
        if (!along.isEmpty())
            parts.push_back(difference(offset(along, amount), cut));
    }
    if (parts.empty())
        return {};
    return opened(difference(parts.size() == 1 ? parts.front() : uniteSimple(parts), printed), thinnest);
}

} // namespace hasami
