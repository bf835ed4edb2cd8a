#include "sticker/sticker.h"

#include "base/translation.h"
#include "geometry/curve_lengths.h"
#include "geometry/curve_place.h"
#include "geometry/fit_loops.h"
#include "sticker/bleed_area.h"
#include "sticker/open_lines.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace hasami {

namespace {

/// The border reaches this many fit tolerances under the artwork's rim: a pixel and a half.
constexpr double tolerancesUnderRim = 15;

constexpr double leastLine = 0.25; // mm: on less, a knife turns about its own offset
constexpr double coarse = 0.01;    // mm: of the bleed, whose rim is never cut along

/// Loops as they are, in straight pieces.
std::vector<Curve> outlines(const Region& region) {
    std::vector<Curve> curves;
    for (const Loop& loop : region.loops)
        curves.push_back(polygonOf(loop));
    return curves;
}

/// All that a recipe takes from the edge, computed once for its lines, its border and its bleed.
class Rings {
public:
    Rings(const std::vector<Curve>& edge, const Recipe& recipe, double tolerance, const std::stop_token& stop)
        : edge_(edge), recipe_(recipe), tolerance_(tolerance), stop_(stop),
          silhouette_(flatten(edge, flatteningTolerance)) {
        const bool hasOpenings = std::any_of(silhouette_.loops.begin(), silhouette_.loops.end(),
                                             [](const Loop& loop) { return signedArea(loop) < 0; });
        closesOpenings_ = recipe.edge.loops == LoopChoice::outer && !hasOpenings;
        if (recipe.bridge > 0)
            silhouette_ = bridged(silhouette_, recipe.bridge);
    }

    /// Closed lines. REQUIRES: it runs along the edge or a plain shape.
    std::vector<Curve> cutLine(const LineRecipe& line) const {
        if (line.course == LineCourse::shape)
            return withLiftTab({shapeAround(stretchedBox(line.stretch), line.shape)}, line);
        const double out =
            recipe_.border.width + (recipe_.border.width > 0 ? std::max(line.offset, 0.0) : line.offset);
        if (out == 0 && recipe_.bridge == 0)
            return withLiftTab(edge_, line);
        Region course = moved(out, line.offset, line.corners);
        if (out < 0)
            course = withoutRemnants(std::move(course));
        return withLiftTab(fitted(course), line);
    }

    /// What the artwork plainly shows.
    Region shown(const ArtworkFacts& facts) const {
        return facts.printed ? enclosed(flatten(*facts.printed, coarse), FillRule::nonZero)
                             : flatten(edge_, coarse);
    }

    /// The artwork and the border around it.
    Region rim() const {
        return offset(bordered(), recipe_.border.width + hiddenBorder(recipe_),
                      recipe_.lines.front().corners);
    }

    /// The border, wider by the bleed, as far as `reach` goes (empty: all of it).
    PrintedBorder border(const Region& bleed, const Region& reach) const {
        Region band = rim();
        if (!bleed.isEmpty())
            band = uniteSimple(std::vector{band, grownByHair(bleed)});
        const Region artwork = bordered();
        if (!reach.isEmpty() && !difference(band, reach).isEmpty()) {
            band = intersection(band, reach);
            return {recipe_.border.colour, fitted(difference(band, offset(artwork, -underRim()))),
                    fitted(difference(band, artwork))};
        }
        PrintedBorder border{recipe_.border.colour, fitted(band), {}};
        border.over = border.under;
        const auto add = [](std::vector<Curve>& to, const std::vector<Curve>& more) {
            to.insert(to.end(), more.begin(), more.end());
        };
        add(border.under, fitted(offset(artwork, -underRim(), {})));
        add(border.over, recipe_.border.onOpenings && recipe_.bridge == 0 ? edge_ : fitted(artwork));
        return border;
    }

    /// The bleed as it is printed: with a seam under the artwork's rim.
    std::vector<Curve> bleed(const Region& beyond, const Region& printed) const {
        const Region area =
            intersection(offset(beyond, underRim()), uniteSimple(std::vector{grownByHair(beyond), printed}));
        return outlined(area);
    }

    /// In straight pieces: nothing is cut along it.
    static std::vector<Curve> outlined(const Region& area) { return outlines(thinned(area, coarse)); }

    /// Closer than the edge was found, so that lines keep their distance from it.
    std::vector<Curve> fitted(const Region& region) const {
        const double tolerance = std::min(tolerance_, 0.015); // mm
        std::vector<Loop> loops = region.loops;
        std::erase_if(loops, [&](const Loop& loop) { // openings that the offset has almost closed
            const double area = signedArea(loop);
            return area < 0 && -area < recipe_.edge.leastOpening;
        });
        std::vector<Curve> curves = fitLoops(loops, {tolerance, 0, 2 * tolerance}, stop_);
        std::erase_if(curves, [](const Curve& curve) { return curve.segments.empty(); });
        return curves;
    }

private:
    double underRim() const { return tolerancesUnderRim * tolerance_; }

    static Region grownByHair(const Region& region) {
        constexpr double hair = 0.01; // mm, so that neighbours run into each other
        return offset(region, hair);
    }

    /// What an inward line leaves of narrow places is too small to be cut.
    Region withoutRemnants(Region region) const {
        constexpr double remnant = 0.1; // mm²: a third of a millimetre across
        const double least = std::min(remnant, recipe_.edge.leastSpeck);
        std::erase_if(region.loops, [&](const Loop& loop) { return std::abs(signedArea(loop)) < least; });
        return region;
    }

    Region bordered() const { return recipe_.border.onOpenings ? silhouette_ : withoutOpenings(silhouette_); }

    Box stretchedBox(const Stretch& by) const {
        const Box box = bounds(silhouette_).grownBy(recipe_.border.width);
        return {box.least - Point{by.left, by.top}, box.most + Point{by.right, by.bottom}};
    }

    /// The lines with an ear where they lie farthest in its direction.
    std::vector<Curve> withLiftTab(std::vector<Curve> lines, const LineRecipe& line) const {
        if (line.liftTab.size <= 0 || lines.empty())
            return lines;
        const double angle = line.liftTab.at * std::numbers::pi / 180, radius = line.liftTab.size / 2;
        const Point way{std::cos(angle), std::sin(angle)};
        const Region area = flatten(lines, flatteningTolerance);
        Point farthest = area.loops.front().front();
        for (const Loop& loop : area.loops)
            for (const Point p : loop)
                if (dot(p, way) > dot(farthest, way))
                    farthest = p;
        // A round end on a neck as wide, from well inside the line to a radius outside of it.
        const Region ear = offset({{{farthest - way * radius, farthest + way * (radius / 2),
                                     farthest + way * (radius / 2) + Point{-way.y, way.x} * 0.001}}},
                                  radius);
        return fitted(uniteSimple(std::vector{area, ear}));
    }

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

    const std::vector<Curve>& edge_;
    const Recipe& recipe_;
    double tolerance_;
    std::stop_token stop_;
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

Recipe startingFor(StickerUse use, Recipe recipe, double longestSide) {
    const auto isThrough = [](const LineRecipe& line) {
        return line.kind == LineKind::die || line.kind == LineKind::perforated;
    };
    std::erase_if(recipe.lines, isThrough);
    if (recipe.lines.empty())
        recipe.lines.push_back({});
    recipe.bleed.amount = longestSide < 300 ? 1 : longestSide < 1000 ? 2 : 5; // large work drifts more
    std::erase_if(recipe.inks, [](const InkLayer& layer) { return layer.area != InkArea::brought; });
    recipe.isMirrored = use == StickerUse::lightCloth || use == StickerUse::window;
    recipe.use = use;
    LineRecipe& first = recipe.lines.front();
    const double outermost = std::max(first.offset, 0.0) + 3;
    switch (use) {
    case StickerUse::stickers:
    case StickerUse::darkCloth:
    case StickerUse::wall:
        break;
    case StickerUse::labels:
        first.offset = 0;
        recipe.bleed.amount = std::max(recipe.bleed.amount, 1.5);
        break;
    case StickerUse::popOut:
        recipe.lines.push_back({LineKind::perforated, outermost, first.corners});
        break;
    case StickerUse::lightCloth:
        first.offset = 0.5;
        break;
    case StickerUse::window:
        if (std::ranges::find(recipe.inks, InkKind::white, &InkLayer::ink) == recipe.inks.end())
            recipe.inks.push_back({});
        break;
    case StickerUse::magnet:
        first.kind = LineKind::die;
        first.offset = 0;
        recipe.bleed.amount = std::max(recipe.bleed.amount, 2.0);
        break;
    }
    return recipe;
}

double hiddenBorder(const Recipe& recipe) {
    double hidden = 0;
    for (const LineRecipe& line : recipe.lines)
        if (line.isCut && line.course == LineCourse::edge)
            hidden = std::max(hidden, -line.offset);
    return hidden;
}

std::string_view roleName(LineRole role) {
    return role == LineRole::outer ? "outer" : "opening";
}

double cutLength(const CutLine& line) {
    double sum = 0;
    for (const Subpath& run : line.cut())
        sum += lengthOf(run.start, run.segments);
    return sum;
}

Path strokesOf(const CutLine& line, const Profile& profile) {
    return profile.cutter.makesTabs ? Path{line.whole()} : line.cut();
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

std::vector<LineKind> Sticker::kinds() const {
    std::vector<LineKind> some;
    std::copy_if(lineKinds.begin(), lineKinds.end(), std::back_inserter(some),
                 [&](LineKind kind) { return has(kind); });
    return some;
}

std::vector<CutLine> Sticker::peeled() const {
    const auto only = [&](auto isWanted) {
        std::vector<CutLine> some;
        std::copy_if(lines.begin(), lines.end(), std::back_inserter(some),
                     [&](const CutLine& line) { return !line.isOpen && isWanted(line.kind); });
        return some;
    };
    const std::vector<CutLine> kiss = only([](LineKind kind) { return kind == LineKind::kiss; });
    return kiss.empty() ? only([](LineKind kind) { return kind != LineKind::crease; }) : kiss;
}

namespace {

/// Puts a sticker together, line after line in the order of the work.
class Assembly {
public:
    Assembly(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
             const ArtworkFacts& facts, const std::stop_token& stop)
        : artwork_(artwork), recipe_(recipe), facts_(facts), rings_(edge, recipe, facts.tolerance, stop) {
        sticker_.artwork = bounds(artwork);
        sticker_.edge = edge;
        sticker_.printed = facts.printed.value_or(edge);
    }

    Sticker make() {
        for (const LineKind kind : lineKinds) {
            if (facts_.bringsAllLines())
                addBrought(kind);
            else if (!addLines(kind)) {
                sticker_.lines.clear();
                return sticker_; // half of what was asked for would be cut in silence
            }
        }
        addOpen();
        for (const CutLine& line : sticker_.peeled()) {
            const Loop outline = flatten(line.curve, flatteningTolerance);
            sticker_.peeledBox.add(bounds(outline));
            sticker_.peeledArea += signedArea(outline);
        }
        addPrint();
        return std::move(sticker_);
    }

private:
    void remark(FindingCode code, RecipeStep step, std::string text) {
        sticker_.remarks.push_back({code, step, std::move(text)});
    }

    static Box boundsOf(const CutLine& line) {
        Box box = bounds(flatten(line.curve, flatteningTolerance));
        box.add(line.curve.segments.back().end); // which a closed line's area does without
        return box;
    }

    void addBrought(LineKind kind) {
        for (const CutLine& line : facts_.brought)
            if (line.kind == kind && !line.isOpen) {
                sticker_.footprint.add(boundsOf(line));
                sticker_.lines.push_back(line);
            }
    }

    /// False if one of them has nothing left.
    bool addLines(LineKind kind) {
        for (std::size_t i = 0; i < recipe_.lines.size(); ++i) {
            const LineRecipe& line = recipe_.lines[i];
            if (line.kind != kind || line.course == LineCourse::fold)
                continue;
            if (line.course == LineCourse::drawn) {
                if (auto cut = drawnLine(line, i, artwork_); cut && !line.isCut)
                    sticker_.leftOut.push_back(std::move(*cut));
                continue;
            }
            std::vector<Curve> curves = rings_.cutLine(line);
            std::erase_if(curves, [](const Curve& curve) { return CurveLengths(curve).whole() < leastLine; });
            if (!line.isCut) {
                for (Curve& curve : curves)
                    sticker_.leftOut.push_back({kind, LineRole::outer, std::move(curve), false, {}, i});
                continue;
            }
            if (curves.empty())
                return false;
            addCurves(std::move(curves), line, i);
        }
        return true;
    }

    void addCurves(std::vector<Curve> curves, const LineRecipe& line, std::size_t recipe) {
        std::vector<std::vector<Tab>> tabs(curves.size());
        if (line.kind == LineKind::perforated) {
            tabs = placeTabs(curves, line.tabs, sticker_.artwork);
            if (const auto sentence = whyLoose(tabs, tabsAskedFor(curves, line.tabs)))
                remark(FindingCode::fewTabs, RecipeStep::cutLines, *sentence);
        }
        for (std::size_t i = 0; i < curves.size(); ++i) {
            const Loop loop = flatten(curves[i], flatteningTolerance);
            sticker_.footprint.add(bounds(loop));
            sticker_.lines.push_back({line.kind, signedArea(loop) > 0 ? LineRole::outer : LineRole::opening,
                                      std::move(curves[i]), false, std::move(tabs[i]), recipe});
        }
    }

    /// Each before the closed lines of its kind, which what it lies in may come loose by.
    void addOpen() {
        Region inside;
        for (const CutLine& line : sticker_.lines)
            inside.loops.push_back(flatten(line.curve, flatteningTolerance));
        if (inside.isEmpty())
            return;
        std::vector<CutLine> open;
        if (!facts_.bringsAllLines())
            open = openLines(recipe_, artwork_, withoutOpenings(inside));
        std::ranges::copy_if(facts_.brought, std::back_inserter(open), &CutLine::isOpen);
        for (CutLine& line : open) {
            sticker_.footprint.add(boundsOf(line));
            const auto place = std::ranges::find_if(sticker_.lines, [&](const CutLine& other) {
                return other.kind >= line.kind && !other.isOpen;
            });
            sticker_.lines.insert(place, std::move(line));
        }
    }

    /// The areas inside the lines that follow from each of the recipe's, or of each kind that is brought.
    std::vector<Region> cutAreas() const {
        std::map<std::pair<std::size_t, LineKind>, std::vector<Curve>> byRecipe;
        for (const CutLine& line : sticker_.lines)
            if (!line.isOpen && line.kind != LineKind::crease)
                byRecipe[{line.recipe, line.kind}].push_back(line.curve);
        std::vector<Region> areas;
        areas.reserve(byRecipe.size());
        for (const auto& [which, curves] : byRecipe)
            areas.push_back(enclosed(flatten(curves, coarse), FillRule::nonZero));
        return areas;
    }

    void addPrint() {
        constexpr std::size_t mostParts = 10'000; // more than any sticker has: offsets of them take minutes
        if (sticker_.printed.size() > mostParts || sticker_.lines.size() > mostParts) {
            addPrintOfMany();
            return;
        }
        const std::vector<Region> cuts = cutAreas();
        const Region shown = rings_.shown(facts_);
        Region printed = recipe_.border.width > 0 ? rings_.rim() : shown;
        const bool isFromLine = recipe_.bleed.source == BleedSource::cutLine && recipe_.border.width == 0;
        if (isFromLine)
            printed = intersection(printed, peeledArea());
        const double amount = recipe_.bleed.amount;
        if (const Box& box = sticker_.peeledBox;
            !box.isEmpty() && amount > std::max(box.width(), box.height()))
            remark(FindingCode::bleedWide, RecipeStep::bleed,
                   translated("The bleed is wider than the sticker itself: make it narrower"));
        const Region beyond = amount > 0 && !cuts.empty() ? bleedBeyond(printed, cuts, amount) : Region{};
        const Region reach = recipe_.bleed.trims ? reachOf(cuts) : Region{};
        const Region seen = reach.isEmpty() ? shown : intersection(shown, reach);
        if (recipe_.border.width > 0) {
            addBorder(beyond, reach);
        } else if (!beyond.isEmpty()) {
            sticker_.bleed = isFromLine
                                 ? PrintedBleed{Rings::outlined(beyond), true, Rings::outlined(printed)}
                                 : PrintedBleed{rings_.bleed(beyond, seen), facts_.rimIsMixed};
            addTo(sticker_.footprint, sticker_.bleed->area);
        }
        if (reach.isEmpty())
            sticker_.footprint.add(sticker_.artwork); // it may be printed up to there
        else
            trim(cuts, beyond, reach, seen, !difference(shown, reach).isEmpty());
    }

    Region peeledArea() const {
        std::vector<Curve> curves;
        for (const CutLine& line : sticker_.peeled())
            curves.push_back(line.curve);
        return enclosed(flatten(curves, coarse), FillRule::nonZero);
    }

    /// Their areas are not computed: what lies in the box around the lines and the bleed is printed.
    void addPrintOfMany() {
        if (recipe_.border.width > 0)
            addBorder({}, {});
        else if (recipe_.bleed.amount > 0)
            remark(
                FindingCode::bleedLeftOut, RecipeStep::bleed,
                translated("It has too many parts for a bleed, so none is printed: close small openings and "
                           "leave out specks, or move the line inside"));
        if (recipe_.bleed.trims)
            sticker_.within = {shapeAround(sticker_.footprint, {PlainShapeKind::box, recipe_.bleed.amount})};
        sticker_.footprint.add(recipe_.bleed.trims ? sticker_.footprint.grownBy(recipe_.bleed.amount)
                                                   : sticker_.artwork);
    }

    /// Whether the artwork's box, in which it may show anything, reaches out of an area.
    bool showsMore(const Region& area) const {
        const Box& artwork = sticker_.artwork;
        return !artwork.isEmpty() && (!bounds(area).grownBy(coarse).holds(artwork) ||
                                      !difference(regionOf(artwork), offset(area, coarse)).isEmpty());
    }

    void addBorder(const Region& bleed, const Region& reach) {
        sticker_.border = rings_.border(bleed, reach);
        addTo(sticker_.footprint, sticker_.border->over);
    }

    /// How far anything is printed at most: the bleed past the outermost lines, or what an inward line takes
    /// of a border. Openings are those between lines that run together when grown.
    Region reachOf(const std::vector<Region>& cuts) const {
        const double hidden = recipe_.border.width > 0 ? hiddenBorder(recipe_) : 0;
        const double past = std::max(recipe_.bleed.amount, hidden);
        std::vector<Region> reach;
        reach.reserve(cuts.size());
        for (const Region& cut : cuts)
            reach.push_back(
                offset(withoutOpenings(cut), past + coarse)); // as far as chords may lie inside their arcs
        return uniteSimple(reach);
    }

    /// Past the lines nothing is printed but what reaches up to there plainly, and that up to the bleed: no
    /// backdrop, no loose bits that are not cut around, nothing too faint for the edge.
    /// `seen`: what the artwork plainly shows within `reach`; `reachesFar`: it would show more.
    void trim(const std::vector<Region>& cuts, const Region& beyond, const Region& reach, const Region& seen,
              bool reachesFar) {
        if (facts_.showsBackdrop)
            sticker_.within = reachesFar ? rings_.fitted(seen) : sticker_.printed;
        if (sticker_.within.empty()) { // of a backdrop: nothing of what was found lies within the lines
            std::vector<Region> parts = cuts;
            parts.push_back(seen);
            parts.push_back(beyond); // over which the artwork's half-covered rim lies
            const Region within = intersection(withoutOpenings(uniteSimple(parts)), reach);
            if (showsMore(within))
                sticker_.within = Rings::outlined(within);
        }
        if (!seen.isEmpty())
            sticker_.footprint.add(bounds(seen));
    }

    const Artwork& artwork_;
    const Recipe& recipe_;
    const ArtworkFacts& facts_;
    Rings rings_;
    Sticker sticker_;
};

} // namespace

Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    const ArtworkFacts& facts, const std::stop_token& stop) {
    if (edge.empty()) {
        Sticker sticker;
        sticker.artwork = bounds(artwork);
        return sticker;
    }
    return Assembly(artwork, edge, recipe, facts, stop).make();
}

} // namespace hasami
