#include "drawing/drawn_loops.h"

#include "base/error.h"
#include "edge/found_loops.h"
#include "edge/line_fits.h"
#include "geometry/box_sets.h"
#include "geometry/region_operations.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace hasami {

namespace {

constexpr double flatteningOfDrawings = 0.002; // mm
constexpr double sameLoop = 0.0005;            // mm: Clipper's grid moves points by less

/// The drawing's outlines in mm of the item, and flattened.
struct Outlines {
    std::vector<Curve> curves;
    std::vector<Loop> loops;
    std::vector<Box> boxes;
};

/// The outline that the loop is, as it was drawn: as large and in the same box.
const Curve* outlineOf(const FoundLoop& found, const Outlines& outlines) {
    for (std::size_t i = 0; i < outlines.loops.size(); ++i) {
        const Box &box = outlines.boxes[i], &other = found.facts.box;
        if (std::max({std::abs(box.least.x - other.least.x), std::abs(box.least.y - other.least.y),
                      std::abs(box.most.x - other.most.x), std::abs(box.most.y - other.most.y)}) > sameLoop)
            continue;
        if (std::abs(signedArea(outlines.loops[i]) - found.facts.area) <=
            sameLoop * perimeter(outlines.loops[i]))
            return &outlines.curves[i];
    }
    return nullptr;
}

Outlines outlinesOf(const Item& item, std::vector<std::size_t>& areaOf) {
    const Drawing& drawing = *item.own()->drawing->drawing;
    const Affine scale =
        Affine::scaling(item.place.width / drawing.width, item.place.height / drawing.height);
    Outlines outlines;
    for (std::size_t area = 0; area < drawing.areas.size(); ++area)
        for (const Curve& rim : drawing.areas[area].rims) {
            outlines.curves.push_back(mapRim(rim, scale));
            outlines.loops.push_back(flatten(outlines.curves.back(), flatteningOfDrawings));
            outlines.boxes.push_back(bounds(outlines.loops.back()));
            areaOf.push_back(area);
        }
    return outlines;
}

/// Everything that is painted as one. Letters apart are resolved apart, which is faster by far.
std::vector<Loop> unitedLoops(const Outlines& outlines, const std::vector<std::size_t>& areaOf,
                              const std::stop_token& stop) {
    const std::vector<std::size_t> sets = setsOf(outlines.boxes);
    std::map<std::size_t, std::map<std::size_t, Region>> regions; // by set and area
    for (std::size_t i = 0; i < sets.size(); ++i)
        regions[sets[i]][areaOf[i]].loops.push_back(outlines.loops[i]);
    std::vector<Loop> loops;
    for (const auto& [set, byArea] : regions) {
        throwIfStopped(stop);
        std::vector<Region> areas;
        for (const auto& [area, region] : byArea)
            areas.push_back(enclosed(region, FillRule::nonZero));
        const Region whole = areas.size() == 1 ? std::move(areas.front()) : uniteSimple(areas);
        loops.insert(loops.end(), whole.loops.begin(), whole.loops.end());
    }
    return loops;
}

} // namespace

std::vector<EdgeLoop> findDrawnLoops(const Item& item, const EdgeOptions& options,
                                     const std::stop_token& stop) {
    std::vector<std::size_t> areaOf;
    const Outlines outlines = outlinesOf(item, areaOf);
    const std::vector<FoundLoop> found = sifted(unitedLoops(outlines, areaOf, stop), options);
    std::vector<EdgeLoop> loops;
    std::vector<FoundLoop> rest;
    for (const FoundLoop& one : found) {
        const Curve* drawn = options.smoothing > 0 ? nullptr : outlineOf(one, outlines);
        if (drawn)
            loops.push_back({one.facts, *drawn, {}, {}});
        else
            rest.push_back(one);
    }
    const double tolerance =
        std::max(fitTolerance(item, options) - flatteningOfDrawings, flatteningOfDrawings);
    const FitOptions fit{tolerance, scatterOfBumps * options.smoothing,
                         std::max(2 * tolerance, options.smoothing)};
    for (EdgeLoop& one : fittedLoops(std::move(rest), std::span(&fit, 1), stop))
        loops.push_back(std::move(one));
    std::stable_sort(loops.begin(), loops.end(), [](const EdgeLoop& a, const EdgeLoop& b) {
        return std::abs(a.facts.area) > std::abs(b.facts.area);
    });
    return loops;
}

} // namespace hasami
