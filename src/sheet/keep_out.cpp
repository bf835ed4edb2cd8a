#include "sheet/keep_out.h"

#include "geometry/stroke.h"

#include <algorithm>
#include <map>

namespace hasami {

namespace {

constexpr double smallestOpening = 4;      // mm across: nothing that is cut fits in there
constexpr std::size_t mostCurves = 10'000; // more than any sticker has: to unite them takes minutes

/// The areas inside the lines of each kind that follow from each of the recipe's.
std::vector<Region> cutAreas(const Sticker& sticker) {
    std::map<std::pair<std::size_t, LineKind>, std::vector<Curve>> byRecipe;
    for (const CutLine& line : sticker.lines)
        if (!line.isOpen)
            byRecipe[{line.recipe, line.kind}].push_back(line.curve);
    std::vector<Region> areas;
    areas.reserve(byRecipe.size());
    for (const auto& [which, curves] : byRecipe)
        areas.push_back(enclosed(curves, FillRule::nonZero));
    return areas;
}

/// Around the lines that are cut open, which may reach out of the others.
Region areaOfSlits(const Sticker& sticker) {
    StrokeStyle thin;
    thin.width = 0.1; // mm
    Path slits;
    for (const CutLine& line : sticker.lines)
        if (line.isOpen)
            slits.push_back(line.whole());
    return enclosed(Region{strokeLoops(slits, thin, 0.01)}, FillRule::nonZero);
}

} // namespace

Region keepOutOf(const Sticker& sticker) {
    if (sticker.isEmpty() || sticker.footprint.isEmpty())
        return {};
    if (sticker.lines.size() > mostCurves || sticker.printed.size() > mostCurves)
        return regionOf(sticker.footprint);
    std::vector<Region> parts = cutAreas(sticker);
    if (Region slits = areaOfSlits(sticker); !slits.isEmpty())
        parts.push_back(std::move(slits));
    if (sticker.bleed)
        parts.push_back(enclosed(sticker.bleed->area, FillRule::evenOdd));
    if (sticker.border)
        parts.push_back(enclosed(sticker.border->over, FillRule::evenOdd));
    Region printed = enclosed(sticker.printed, FillRule::evenOdd);
    parts.push_back(sticker.within.empty()
                        ? std::move(printed)
                        : intersection(printed, enclosed(sticker.within, FillRule::evenOdd)));
    Region all = uniteSimple(parts);
    constexpr double nothing = 0.05; // mm
    if (!bounds(all).grownBy(nothing).holds(sticker.footprint)) {
        // The artwork may be printed as far as it reaches, whatever it shows there.
        const std::vector<Region> both{std::move(all), regionOf(sticker.footprint)};
        all = uniteSimple(both);
    }
    std::erase_if(all.loops, [](const Loop& loop) {
        const Box box = bounds(loop);
        return signedArea(loop) < 0 && std::min(box.width(), box.height()) < smallestOpening;
    });
    return all;
}

} // namespace hasami
