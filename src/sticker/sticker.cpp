#include "sticker/sticker.h"

#include "geometry/fit_curves.h"

#include <algorithm>

namespace hasami {

namespace {

std::vector<Curve> movedOut(const std::vector<Curve>& edge, const Recipe& recipe, double tolerance) {
    if (recipe.kissOffset == 0 && recipe.bridge == 0)
        return edge;
    Region region = flatten(edge, flatteningTolerance);
    if (recipe.bridge > 0)
        region = bridged(region, recipe.bridge);
    if (recipe.kissOffset != 0)
        region = offset(region, recipe.kissOffset, recipe.corners);
    const bool hasOpenings = std::any_of(edge.begin(), edge.end(), [](const Curve& curve) {
        return signedArea(flatten(curve, flatteningTolerance)) < 0;
    });
    if (recipe.edge.loops == LoopChoice::outer && !hasOpenings)
        region = withoutOpenings(region); // parts that join may enclose new ones
    std::vector<Curve> curves;
    for (const Loop& loop : region.loops) {
        if (const double area = signedArea(loop); area < 0 && -area < recipe.edge.leastOpening)
            continue; // an opening that the offset has all but closed
        Curve curve = fitCurve(loop, {tolerance, 0, 2 * tolerance});
        if (!curve.segments.empty())
            curves.push_back(std::move(curve));
    }
    return curves;
}

} // namespace

std::string_view kindName(LineKind) {
    return "kiss";
}

std::string_view roleName(LineRole role) {
    return role == LineRole::outer ? "outer" : "opening";
}

std::size_t Sticker::points() const {
    std::size_t sum = 0;
    for (const CutLine& line : lines)
        sum += line.curve.points();
    return sum;
}

Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    double tolerance) {
    Sticker sticker;
    sticker.artwork = bounds(artwork);
    sticker.edge = edge;
    sticker.footprint = bounds(flatten(edge, flatteningTolerance));
    for (Curve& curve : movedOut(edge, recipe, tolerance)) {
        const Loop loop = flatten(curve, flatteningTolerance);
        const LineRole role = signedArea(loop) > 0 ? LineRole::outer : LineRole::opening;
        sticker.footprint.add(bounds(loop));
        sticker.lines.push_back({LineKind::kiss, role, std::move(curve)});
    }
    return sticker;
}

} // namespace hasami
