#include "checks/drift.h"
#include "geometry/region_operations.h"
#include "sticker/printed_area.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr double pixel = 25.4 / 1200; // mm

/// A polygon as the curve that it is.
Curve curveOf(const Loop& loop) {
    Curve curve{loop.front(), {}};
    for (std::size_t i = 0; i < loop.size(); ++i)
        curve.segments.push_back(straightSegment(loop[i], loop[(i + 1) % loop.size()]));
    return curve;
}

Sticker stickerOf(const std::vector<Curve>& edge, const Recipe& recipe) {
    return makeSticker({}, edge, recipe, {0.01});
}

Curve square(double side) {
    return curveOf({{0, 0}, {side, 0}, {side, side}, {0, side}});
}

Recipe recipeOf(double offset, double bleed) {
    Recipe recipe;
    recipe.lines.front().offset = offset;
    recipe.bleed.amount = bleed;
    return recipe;
}

/// An area as a print of 1,200 dots an inch has it: a dot is inked where its middle is.
class Raster {
public:
    explicit Raster(const Region& region) : box_(bounds(region).grownBy(8)) {
        const int width = int(box_.width() / pixel), height = int(box_.height() / pixel);
        cells_ = Grid<std::uint8_t>(width, height);
        for (int row = 0; row < height; ++row) {
            const double y = box_.least.y + (row + 0.5) * pixel;
            std::vector<double> crossings;
            for (const Loop& loop : region.loops)
                for (std::size_t i = 0; i < loop.size(); ++i) {
                    const Point a = loop[i], b = loop[(i + 1) % loop.size()];
                    if ((a.y > y) != (b.y > y))
                        crossings.push_back(a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x));
                }
            std::sort(crossings.begin(), crossings.end());
            for (std::size_t k = 0; k + 1 < crossings.size(); k += 2)
                for (int column = std::max(0, int(std::ceil((crossings[k] - box_.least.x) / pixel - 0.5)));
                     column < width && box_.least.x + (column + 0.5) * pixel < crossings[k + 1]; ++column)
                    cells_.at(column, row) = 1;
        }
    }
    bool holds(Point p) const {
        const int column = int(std::floor((p.x - box_.least.x) / pixel)),
                  row = int(std::floor((p.y - box_.least.y) / pixel));
        return column >= 0 && row >= 0 && column < cells_.width() && row < cells_.height() &&
               cells_.at(column, row) != 0;
    }
    /// Middles of the dots that have a neighbour which is not inked.
    std::vector<Point> rim() const {
        std::vector<Point> rim;
        for (int row = 1; row + 1 < cells_.height(); ++row)
            for (int column = 1; column + 1 < cells_.width(); ++column)
                if (cells_.at(column, row) && (!cells_.at(column - 1, row) || !cells_.at(column + 1, row) ||
                                               !cells_.at(column, row - 1) || !cells_.at(column, row + 1)))
                    rim.push_back(
                        {box_.least.x + (column + 0.5) * pixel, box_.least.y + (row + 0.5) * pixel});
        return rim;
    }

private:
    Box box_;
    Grid<std::uint8_t> cells_;
};

/// The least shift at which a dot of `moved` lies on none of `ground`, in steps of half a dot.
double firstLost(const std::vector<Point>& moved, const Raster& ground, Point direction, double most) {
    for (double by = 0; by < most; by += pixel / 2)
        for (const Point p : moved)
            if (!ground.holds(p + direction * by))
                return by;
    return most;
}

} // namespace

TEST_CASE("a rim's distance, hits and inside are those of all its sides") {
    std::mt19937 random(51);
    std::uniform_real_distribution<double> place(-25, 25), angle(0, 2 * std::numbers::pi);
    for (int round = 0; round < rounds(20, 5); ++round) {
        const Region region =
            enclosed({{randomBlob(random, {0, 0}, 15), randomBlob(random, {4, 2}, 4)}}, FillRule::evenOdd);
        const RimGrid grid(region);
        for (int i = 0; i < 200; ++i) {
            const Point p{place(random), place(random)};
            const double turn = angle(random);
            const Point ray{std::cos(turn), std::sin(turn)};
            double nearest = 9;
            std::optional<double> hit;
            bool isInside = false;
            for (const Loop& loop : region.loops) {
                isInside ^= contains(loop, p);
                for (std::size_t k = 0; k < loop.size(); ++k) {
                    const Point a = loop[k], b = loop[(k + 1) % loop.size()];
                    nearest = std::min(nearest, distanceToSegment(p, a, b));
                    const double across = cross(ray, b - a);
                    const double along = cross(a - p, b - a) / across, onSide = cross(a - p, ray) / across;
                    if (along >= 0 && along <= 30 && onSide >= 0 && onSide <= 1)
                        hit = std::min(hit.value_or(along), along);
                }
            }
            REQUIRE(grid.holds(p) == isInside);
            REQUIRE(grid.clearance(p, 9) == Approx(nearest).margin(1e-9));
            const auto found = grid.firstHit(p, ray, 30);
            REQUIRE(found.has_value() == hit.has_value());
            if (hit)
                REQUIRE(*found == Approx(*hit).margin(1e-9));
        }
    }
}

TEST_CASE("with bleed all round, a cut may be off by as much as the bleed, and without by nothing") {
    for (const double bleed : {0.3, 0.8, 2.0}) {
        const SafeDrift drift = safeDrift(DriftRims(stickerOf({square(20)}, recipeOf(0, bleed))));
        CHECK(drift.least().reach == Approx(bleed).margin(0.03));
        CHECK(drift.least().fault == DriftFault::whiteShows);
        CHECK(drift.holds({0.9 * bleed, 0}));
        CHECK_FALSE(drift.holds({1.1 * bleed, 0}));
        // Bleed's corners are round: towards them it reaches no farther than from side to side.
        CHECK(drift.limits[9].reach >= bleed - 0.03);
    }
    CHECK(safeDrift(DriftRims(stickerOf({square(20)}, recipeOf(0, 0)))).least().reach < 0.05);
}

TEST_CASE("a white margin may be off by its width: then artwork is cut") {
    const SafeDrift drift = safeDrift(DriftRims(stickerOf({square(20)}, recipeOf(2, 1))));
    CHECK(drift.least().reach == Approx(2).margin(0.03));
    for (const DriftLimit& limit : drift.limits)
        CHECK(limit.fault == DriftFault::artworkCut);
    // Only what nothing is cut of is watched: artwork that the line trims is not lost.
    Recipe box = recipeOf(0, 1);
    box.lines.front().course = LineCourse::shape;
    box.lines.front().shape = {PlainShapeKind::box, -3};
    const SafeDrift trimmed = safeDrift(DriftRims(stickerOf({square(20)}, box)));
    CHECK(trimmed.least().reach == Approx(3).margin(0.05));
}

TEST_CASE("the weakest spot is where the margin is narrowest") {
    // A margin of 4 mm, but 1 mm on the right.
    Recipe recipe = recipeOf(0, 0);
    recipe.lines.front().course = LineCourse::shape;
    recipe.lines.front().shape = {PlainShapeKind::box, 1};
    recipe.lines.front().stretch = {3, 3, 0, 3};
    const SafeDrift drift = safeDrift(DriftRims(stickerOf({square(20)}, recipe)));
    CHECK(drift.limits[0].reach == Approx(4).margin(0.03)); // the cut moves right: its left line comes first
    CHECK(drift.limits[36].reach == Approx(1).margin(0.03));
    CHECK(drift.least().reach == Approx(1).margin(0.03));
    CHECK(drift.limits[36].spot.x == Approx(20).margin(0.02));
    CHECK(drift.reachTowards({-1, 0}) == Approx(1).margin(0.03));
    CHECK(drift.reachTowards({0, 1}) == Approx(4).margin(0.03));
}

TEST_CASE("safe drift is what a shifted cut over a print of 1,200 dots an inch shows, for random designs") {
    std::mt19937 random(52);
    std::uniform_real_distribution<double> share(0, 1);
    for (int round = 0; round < rounds(50, 6); ++round) {
        const std::vector<Curve> edge{curveOf(randomBlob(random, {20, 20}, 8 + 5 * share(random)))};
        Recipe recipe = recipeOf(0, 0.3 + share(random));
        const bool isMargin = round % 3 == 2;
        if (isMargin)
            recipe = recipeOf(0.5 + share(random), 1);
        else if (round % 3 == 1)
            recipe.border.width = 0.5 + share(random);
        else
            recipe.lines.front().offset = -0.4 * share(random);
        const Sticker sticker = stickerOf(edge, recipe);
        const SafeDrift drift = safeDrift(DriftRims(sticker));
        const Raster cut(peeledArea(sticker)), printed(printedArea(sticker));
        const std::vector<Point> cutRim = cut.rim();
        const std::vector<Point> artwork = recipe.border.width > 0 || isMargin
                                               ? Raster(enclosed(edge, FillRule::nonZero)).rim()
                                               : std::vector<Point>{};
        for (std::size_t number = 0; number < SafeDrift::directions; number += 9) {
            const Point direction = SafeDrift::direction(number);
            double expected = SafeDrift::most;
            if (!isMargin)
                expected = firstLost(cutRim, printed, direction, expected);
            expected = std::min(expected, firstLost(artwork, cut, direction * -1, expected));
            INFO("design " << round << " towards " << number * 5 << " degrees");
            CHECK(drift.limits[number].reach == Approx(expected).margin(0.05));
        }
    }
}

TEST_CASE("a piece far from the middle moves more when the sheet is turned or stretched") {
    const Sticker sticker = stickerOf({square(20)}, recipeOf(0, 1));
    std::map<std::string, std::shared_ptr<const DriftRims>> rims;
    rims["a"] = std::make_shared<const DriftRims>(sticker);
    Sheet sheet;
    for (const double x : {0.0, 200.0, 400.0})
        sheet.pieces.push_back({"a", Affine::translation({x, 0})});
    sheet.work = {{0, 0}, {420, 20}};
    const SafeDrift still = safeDrift(sheet, rims, {});
    CHECK(still.least().reach == Approx(1).margin(0.03));
    CutDrift drift;
    drift.stretchAlong = 0.004; // 0.84 mm at the outer sides
    const SafeDrift stretched = safeDrift(sheet, rims, drift);
    CHECK(stretched.limits[0].reach == Approx(0.16).margin(0.04));
    CHECK(stretched.limits[36].reach == Approx(0.16).margin(0.04));
    CHECK(stretched.limits[18].reach == Approx(std::sqrt(1 - 0.84 * 0.84)).margin(0.6));
    CHECK(stretched.limits[0].piece == 2);
    CHECK(stretched.limits[36].piece == 0);
    drift.stretchAlong = 0.006;
    CHECK(safeDrift(sheet, rims, drift).least().reach == 0);
    // The same by a look at one drift alone.
    const Affine by = CutDrift{{0.1, 0}, 0, 0.004, 0}.about(sheet.work.centre());
    CHECK_FALSE(rims["a"]->faultOf(sheet.pieces[1].place, by));
    CHECK_FALSE(rims["a"]->faultOf(sheet.pieces[2].place, by));
    const Affine farther = CutDrift{{0.3, 0}, 0, 0.004, 0}.about(sheet.work.centre());
    const auto fault = rims["a"]->faultOf(sheet.pieces[2].place, farther);
    REQUIRE(fault);
    CHECK(fault->spot.x == Approx(20).margin(0.1));
    CHECK_FALSE(rims["a"]->faultOf(sheet.pieces[0].place, farther));
    drift = {};
    drift.turn = 0.3; // 1.1 mm at the ends
    CHECK(safeDrift(sheet, rims, drift).least().reach == 0);
    drift.turn = 0.1;
    CHECK(safeDrift(sheet, rims, drift).least().reach ==
          Approx(1 - 210 * 0.1 * std::numbers::pi / 180).margin(0.06));
}

TEST_CASE("a piece that is turned on its sheet is weak in another direction") {
    Recipe recipe = recipeOf(0, 0);
    recipe.lines.front().course = LineCourse::shape;
    recipe.lines.front().shape = {PlainShapeKind::box, 1};
    recipe.lines.front().stretch = {3, 3, 0, 3};
    std::map<std::string, std::shared_ptr<const DriftRims>> rims;
    rims["a"] = std::make_shared<const DriftRims>(stickerOf({square(20)}, recipe));
    Sheet sheet;
    sheet.pieces = {{"a", Affine::rotation(std::numbers::pi / 2)}};
    sheet.work = {{0, 0}, {30, 30}};
    const SafeDrift drift = safeDrift(sheet, rims, {});
    CHECK(drift.limits[54].reach == Approx(1).margin(0.03)); // what was right is below: the cut moves up
    CHECK(drift.limits[18].reach == Approx(4).margin(0.03));
}

TEST_CASE("where a line runs from the print on to the bare medium, the white beside it is meant") {
    // The line's right half lies on the medium: only where it cuts the print does white show.
    Recipe recipe = recipeOf(0, 0.6);
    recipe.lines.front().course = LineCourse::shape;
    recipe.lines.front().shape = {PlainShapeKind::box, -5};
    recipe.lines.front().stretch = {0, 0, 15, 0};
    const SafeDrift drift = safeDrift(DriftRims(stickerOf({square(20)}, recipe)));
    CHECK(drift.least().reach >= 0.55);
}
