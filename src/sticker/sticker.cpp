#include "sticker/sticker.h"

#include "geometry/fit_curves.h"

#include <algorithm>

namespace hasami {

namespace {

/// The border reaches this many fit tolerances under the artwork's rim: a pixel and a half.
constexpr double tolerancesUnderRim = 15;

/// All that a recipe takes from the edge, worked out once for its lines and its border.
class Rings {
public:
    Rings(const std::vector<Curve>& edge, const Recipe& recipe, double tolerance)
        : edge_(edge), recipe_(recipe), tolerance_(tolerance),
          silhouette_(flatten(edge, flatteningTolerance)) {
        const bool hasOpenings = std::any_of(silhouette_.loops.begin(), silhouette_.loops.end(),
                                             [](const Loop& loop) { return signedArea(loop) < 0; });
        closesOpenings_ = recipe.edge.loops == LoopChoice::outer && !hasOpenings;
        if (recipe.bridge > 0)
            silhouette_ = bridged(silhouette_, recipe.bridge);
    }

    std::vector<Curve> cutLine(const LineRecipe& line) const {
        const double out =
            recipe_.border.width + (recipe_.border.width > 0 ? std::max(line.offset, 0.0) : line.offset);
        if (out == 0 && recipe_.bridge == 0)
            return edge_;
        return fitted(moved(out, line.offset, line.corners));
    }

    PrintedBorder border() const {
        const double hidden = hiddenBorder(recipe_);
        const OffsetCorners& corners = recipe_.lines.front().corners;
        const Region artwork = recipe_.border.onOpenings ? silhouette_ : withoutOpenings(silhouette_);
        const std::vector<Curve> rim = fitted(offset(artwork, recipe_.border.width + hidden, corners));
        PrintedBorder border{recipe_.border.colour, rim, rim};
        const auto add = [](std::vector<Curve>& to, const std::vector<Curve>& more) {
            to.insert(to.end(), more.begin(), more.end());
        };
        add(border.under, fitted(offset(artwork, -tolerancesUnderRim * tolerance_, {})));
        add(border.over, recipe_.border.onOpenings && recipe_.bridge == 0 ? edge_ : fitted(artwork));
        return border;
    }

private:
    /// Out by a distance; openings that have no border by their own.
    Region moved(double out, double ofOpenings, const OffsetCorners& corners) const {
        Region region;
        if (recipe_.border.width > 0 && !recipe_.border.onOpenings) {
            const Region outside = withoutOpenings(silhouette_);
            const Region openings = offset(difference(outside, silhouette_), -ofOpenings, corners);
            region = difference(offset(outside, out, corners), openings);
        } else {
            region = out == 0 ? silhouette_ : offset(silhouette_, out, corners);
        }
        return closesOpenings_ ? withoutOpenings(region) : region; // parts that join may enclose new ones
    }

    std::vector<Curve> fitted(const Region& region) const {
        std::vector<Curve> curves;
        for (const Loop& loop : region.loops) {
            if (const double area = signedArea(loop); area < 0 && -area < recipe_.edge.leastOpening)
                continue; // an opening that the offset has all but closed
            Curve curve = fitCurve(loop, {tolerance_, 0, 2 * tolerance_});
            if (!curve.segments.empty())
                curves.push_back(std::move(curve));
        }
        return curves;
    }

    const std::vector<Curve>& edge_;
    const Recipe& recipe_;
    double tolerance_;
    Region silhouette_;
    bool closesOpenings_ = false;
};

void addTo(Box& footprint, const std::vector<Curve>& curves) {
    for (const Curve& curve : curves)
        footprint.add(bounds(flatten(curve, flatteningTolerance)));
}

} // namespace

void cutEveryDetail(Recipe& recipe) {
    recipe.edge.loops = LoopChoice::all;
    for (LineRecipe& line : recipe.lines)
        if (line.kind == LineKind::kiss)
            line.offset = 0;
}

double hiddenBorder(const Recipe& recipe) {
    double hidden = 0;
    for (const LineRecipe& line : recipe.lines)
        hidden = std::max(hidden, -line.offset);
    return hidden;
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

bool Sticker::has(LineKind kind) const {
    return std::any_of(lines.begin(), lines.end(), [&](const CutLine& line) { return line.kind == kind; });
}

std::vector<CutLine> Sticker::peeled() const {
    std::vector<CutLine> kiss;
    std::copy_if(lines.begin(), lines.end(), std::back_inserter(kiss),
                 [](const CutLine& line) { return line.kind == LineKind::kiss; });
    return kiss.empty() ? lines : kiss;
}

namespace {

void addLine(Sticker& sticker, LineKind kind, Curve curve) {
    const Loop loop = flatten(curve, flatteningTolerance);
    const LineRole role = signedArea(loop) > 0 ? LineRole::outer : LineRole::opening;
    sticker.footprint.add(bounds(loop));
    if (kind == lineKinds.front() || sticker.peeledBox.isEmpty())
        sticker.peeledBox.add(bounds(loop));
    sticker.lines.push_back({kind, role, std::move(curve)});
}

} // namespace

Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    double tolerance, const std::vector<CutLine>& brought) {
    Sticker sticker;
    sticker.artwork = bounds(artwork);
    sticker.edge = edge;
    addTo(sticker.footprint, edge);
    if (edge.empty())
        return sticker;
    const Rings rings(edge, recipe, tolerance);
    if (recipe.border.width > 0) {
        sticker.border = rings.border();
        addTo(sticker.footprint, sticker.border->over);
    }
    for (const LineKind kind : lineKinds) {
        for (const CutLine& line : brought)
            if (line.kind == kind)
                addLine(sticker, kind, line.curve);
        for (const LineRecipe& line : recipe.lines) {
            if (line.kind != kind || !brought.empty())
                continue;
            std::vector<Curve> curves = rings.cutLine(line);
            if (curves.empty()) {
                sticker.lines.clear();
                return sticker; // half of what was asked for would be cut in silence
            }
            for (Curve& curve : curves)
                addLine(sticker, kind, std::move(curve));
        }
    }
    return sticker;
}

} // namespace hasami
