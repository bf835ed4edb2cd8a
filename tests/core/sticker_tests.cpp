#include "base/error.h"
#include "sticker/sticker.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;

namespace {

constexpr double tolerance = 0.01;

Curve circle(double radius) {
    return shapeAround({{-radius, -radius}, {radius, radius}},
                       {PlainShapeKind::circle, radius - radius * std::numbers::sqrt2});
}

/// A ring of the radii: an outer line and an opening.
std::vector<Curve> ring(double outer, double inner) {
    return {circle(outer), reversed(circle(inner))};
}

Sticker stickerOf(const std::vector<Curve>& edge, const Recipe& recipe) {
    return makeSticker({}, edge, recipe, {tolerance});
}

double areaOf(const Curve& curve) {
    return signedArea(flatten(curve, 0.001));
}

double discArea(double radius) {
    return std::numbers::pi * radius * radius;
}

/// Area by the even-odd rule of curves that lie in each other.
double evenOddArea(std::vector<Curve> curves) {
    std::vector<double> areas;
    for (const Curve& curve : curves)
        areas.push_back(std::abs(areaOf(curve)));
    std::sort(areas.rbegin(), areas.rend());
    double sum = 0;
    for (std::size_t i = 0; i < areas.size(); ++i)
        sum += i % 2 == 0 ? areas[i] : -areas[i];
    return sum;
}

} // namespace

TEST_CASE("kiss and die lines follow from one edge, kiss first") {
    Recipe recipe;
    recipe.lines = {{LineKind::die, 5, {}}, {LineKind::kiss, 2, {}}};
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    REQUIRE(sticker.lines.size() == 2);
    CHECK(sticker.lines[0].kind == LineKind::kiss);
    CHECK(areaOf(sticker.lines[0].curve) == Approx(discArea(12)).epsilon(2e-3));
    CHECK(sticker.lines[1].kind == LineKind::die);
    CHECK(areaOf(sticker.lines[1].curve) == Approx(discArea(15)).epsilon(2e-3));
    CHECK(sticker.peeled().size() == 1);
    CHECK(sticker.peeledBox.width() == Approx(24).margin(0.03));
    CHECK(sticker.footprint.width() == Approx(30).margin(0.03));
}

TEST_CASE("a sticker that is no longer wanted is stopped while its lines are fitted") {
    std::stop_source stop;
    CHECK_NOTHROW(makeSticker({}, {circle(10)}, {}, {tolerance}, stop.get_token()));
    stop.request_stop();
    CHECK_THROWS_AS(makeSticker({}, {circle(10)}, {}, {tolerance}, stop.get_token()), Stopped);
}

TEST_CASE("where there are die lines alone, they are what is peeled") {
    Recipe recipe;
    recipe.lines = {{LineKind::die, 1, {}}};
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    CHECK(sticker.peeled().size() == 1);
    CHECK(sticker.peeledBox.width() == Approx(22).margin(0.03));
}

TEST_CASE("if one of several lines has nothing left, none is cut") {
    Recipe recipe;
    recipe.lines = {{LineKind::kiss, -12, {}}, {LineKind::die, 3, {}}};
    CHECK(stickerOf({circle(10)}, recipe).isEmpty());
}

TEST_CASE("what an inward line leaves of a part is cut if a knife can follow it") {
    const auto disc = [](double radius, double x) {
        return shapeAround({{x - radius, -radius}, {x + radius, radius}},
                           {PlainShapeKind::circle, 0, 0, 6, true, 2 * radius, 2 * radius});
    };
    Recipe recipe;
    recipe.lines[0].offset = -0.5;
    const std::vector<Curve> edge{disc(10, 0), disc(0.8, 12), disc(0.6, 15)};
    CHECK(stickerOf(edge, recipe).lines.size() == 2);
    recipe.edge.leastSpeck = 0; // asked for
    CHECK(stickerOf(edge, recipe).lines.size() == 3);
}

TEST_CASE("a border's finished width is the width typed, whatever the inward offset takes") {
    const double offset = GENERATE(0.0, -0.5, -2.0);
    Recipe recipe;
    recipe.border.width = 3;
    recipe.lines[0].offset = offset;
    recipe.bleed.amount = 0;
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    REQUIRE(sticker.lines.size() == 1);
    CHECK(areaOf(sticker.lines[0].curve) == Approx(discArea(13)).epsilon(2e-3));
    REQUIRE(sticker.border);
    const double rim = 13 - offset;
    CHECK(evenOddArea(sticker.border->over) == Approx(discArea(rim) - discArea(10)).epsilon(3e-3));
    CHECK(sticker.footprint.width() == Approx(2 * rim).margin(0.03));
    // It reaches under the artwork's rim, so that no white shows between.
    CHECK(evenOddArea(sticker.border->under) > evenOddArea(sticker.border->over) + 1);

    recipe.bleed.amount = 2.5; // past the line, so that the rim moves out by what the inward offset leaves
    const double bled = std::max(rim, 13 + 2.5);
    const Sticker wider = stickerOf({circle(10)}, recipe);
    CHECK(areaOf(wider.lines[0].curve) == Approx(discArea(13)).epsilon(2e-3));
    CHECK(evenOddArea(wider.border->over) == Approx(discArea(bled) - discArea(10)).epsilon(3e-3));
    CHECK_FALSE(wider.bleed); // the border's own colour goes on
}

TEST_CASE("an outward offset leaves a white margin around the border") {
    Recipe recipe;
    recipe.border.width = 3;
    recipe.lines[0].offset = 1;
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    CHECK(sticker.peeledBox.width() == Approx(28).margin(0.03));
    CHECK(evenOddArea(sticker.border->over) == Approx(discArea(13) - discArea(10)).epsilon(3e-3));
}

TEST_CASE("a ring has an even band on both sides, or on the outside alone") {
    Recipe recipe;
    recipe.edge.loops = LoopChoice::openings;
    recipe.border.width = 2;
    recipe.lines[0].offset = -0.25;
    recipe.bleed.amount = 0;
    const auto openingOf = [](const Sticker& sticker) {
        REQUIRE(sticker.lines.size() == 2);
        const CutLine& opening = sticker.lines[areaOf(sticker.lines[0].curve) < 0 ? 0 : 1];
        CHECK(opening.role == LineRole::opening);
        return std::sqrt(-areaOf(opening.curve) / std::numbers::pi);
    };
    const Sticker both = stickerOf(ring(20, 10), recipe);
    CHECK(openingOf(both) == Approx(8).margin(0.02));
    CHECK(both.peeledBox.width() == Approx(44).margin(0.03));
    CHECK(evenOddArea(both.border->over) ==
          Approx(discArea(22.25) - discArea(20) + discArea(10) - discArea(7.75)).epsilon(5e-3));

    recipe.border.onOpenings = false;
    const Sticker outside = stickerOf(ring(20, 10), recipe);
    CHECK(openingOf(outside) == Approx(10.25).margin(0.02)); // inward from the edge, as without a border
    CHECK(outside.peeledBox.width() == Approx(44).margin(0.03));
    CHECK(evenOddArea(outside.border->over) == Approx(discArea(22.25) - discArea(20)).epsilon(5e-3));
}

TEST_CASE("an opening closes when the band fills it") {
    Recipe recipe;
    recipe.edge.loops = LoopChoice::openings;
    recipe.border.width = 6;
    const Sticker sticker = stickerOf(ring(20, 5), recipe);
    CHECK(sticker.lines.size() == 1);
}

TEST_CASE("offset out and back in gives a convex shape back, and never crosses itself") {
    std::mt19937 random(7);
    for (int i = 0; i < test::rounds(40, 8); ++i) {
        const Loop blob = test::randomBlob(random, {0, 0}, 20);
        const Region out = offset({{blob}}, 3);
        const Region back = offset(out, -3);
        // Closing only fills bays: it never leaves the shape, and never reaches beyond what moved out.
        CHECK(area(back) >= area({{blob}}) * 0.9999);
        CHECK(area(difference({{blob}}, back)) < 0.05);
        for (const Loop& loop : out.loops) {
            CHECK(test::isSimple(loop));
            for (const Point p : loop)
                if (std::abs(test::distanceToLoop(p, blob) - 3) > 0.01)
                    FAIL("a point of the offset is " << test::distanceToLoop(p, blob) << " mm away");
        }
    }
}

TEST_CASE("a difference is what the first covers alone") {
    const auto square = [](double left, double right) {
        return Region{{{{left, 0}, {right, 0}, {right, 10}, {left, 10}}}};
    };
    CHECK(area(difference(square(0, 10), square(4, 20))) == Approx(40));
    CHECK(difference(square(0, 10), square(-1, 11)).isEmpty());
}

TEST_CASE("a die line may be a plain shape around the edge, with each side drawn out") {
    Recipe recipe;
    LineRecipe die;
    die.kind = LineKind::die;
    die.course = LineCourse::shape;
    die.shape = {PlainShapeKind::box, 3};
    recipe.lines.push_back(die);
    CHECK(areaOf(stickerOf({circle(10)}, recipe).lines[1].curve) == Approx(26 * 26).epsilon(1e-3));
    recipe.lines[1].stretch = {1, 2, 3, 4};
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    const Box box = bounds(flatten(sticker.lines[1].curve, 0.01));
    CHECK(box.least.x == Approx(-14).margin(0.01));
    CHECK(box.least.y == Approx(-15).margin(0.01));
    CHECK(box.most.x == Approx(16).margin(0.01));
    CHECK(box.most.y == Approx(17).margin(0.01));
    recipe.border.width = 2; // around the border's rim
    CHECK(bounds(flatten(stickerOf({circle(10)}, recipe).lines[1].curve, 0.01)).width() ==
          Approx(2 * 12 + 6 + 4).margin(0.02));
    recipe.lines[1].isCut = false;
    CHECK(stickerOf({circle(10)}, recipe).lines.size() == 1);
}

TEST_CASE("a lift tab stands out from the die line where it is put, and nowhere else") {
    Recipe recipe;
    LineRecipe die;
    die.kind = LineKind::die;
    die.offset = 3;
    die.liftTab = {6, 90}; // below
    recipe.lines.push_back(die);
    const Sticker sticker = stickerOf({circle(10)}, recipe);
    REQUIRE(sticker.lines.size() == 2);
    const Box box = bounds(flatten(sticker.lines[1].curve, 0.01));
    CHECK(box.least.x == Approx(-13).margin(0.03));
    CHECK(box.least.y == Approx(-13).margin(0.03));
    CHECK(box.most.y == Approx(13 + 4.5).margin(0.05)); // a neck of half its width, and its round end
    CHECK(areaOf(sticker.lines[1].curve) > discArea(13) + 15);
    CHECK(sticker.peeledBox.width() == Approx(24).margin(0.03)); // it comes off with the backing alone
}

TEST_CASE("a fold runs straight across what is cut, open at both ends, after the kiss lines") {
    Recipe recipe;
    LineRecipe fold, die;
    fold.kind = LineKind::crease;
    fold.course = LineCourse::fold;
    fold.fold.at = 25;
    die.kind = LineKind::die;
    die.offset = 4;
    recipe.lines = {die, fold, LineRecipe{}};
    Sticker sticker = stickerOf({circle(10)}, recipe);
    REQUIRE(sticker.lines.size() == 3);
    CHECK(sticker.lines[0].kind == LineKind::kiss);
    const CutLine& crease = sticker.lines[1];
    CHECK(crease.kind == LineKind::crease);
    CHECK(crease.isOpen);
    const Subpath run = crease.whole();
    CHECK(run.start.x == Approx(-7).margin(0.01)); // a quarter of the way through 28 mm
    CHECK(distance(run.start, run.segments[0].end) == Approx(2 * std::sqrt(14.0 * 14 - 7 * 7)).margin(0.02));
    recipe.lines[1].fold.isAcross = true;
    sticker = stickerOf({circle(10)}, recipe);
    CHECK(sticker.lines[1].whole().start.y == Approx(-7).margin(0.01));
}

TEST_CASE("a perforated line has its tabs, and says so where too few hold") {
    Recipe recipe;
    LineRecipe line;
    line.kind = LineKind::perforated;
    line.offset = 3;
    recipe.lines.push_back(line);
    Sticker sticker = stickerOf({circle(10)}, recipe);
    REQUIRE(sticker.lines.size() == 2);
    CHECK(sticker.lines[1].tabs.size() == 5);
    CHECK(sticker.remarks.empty());
    Profile profile = startProfile();
    CHECK(strokesOf(sticker.lines[1], profile).size() == 1); // the machine makes them
    profile.cutter.makesTabs = false;
    CHECK(strokesOf(sticker.lines[1], profile).size() == 5);
    CHECK(strokesOf(sticker.lines[0], profile).size() == 1);
    recipe.lines[1].tabs.length = 20;
    sticker = stickerOf({circle(1)}, recipe);
    CHECK(sticker.lines[1].tabs.size() < 3);
    CHECK(sticker.remarks.size() == 1);
}

TEST_CASE("lines that the artwork brings stand in place of all lines of the recipe, folds too") {
    Recipe recipe;
    LineRecipe fold;
    fold.kind = LineKind::crease;
    fold.course = LineCourse::fold;
    recipe.lines.push_back(fold);
    ArtworkFacts facts{tolerance};
    facts.brought = {{LineKind::die, LineRole::outer, circle(12)}};
    const Sticker sticker = makeSticker({}, {circle(10)}, recipe, facts);
    REQUIRE(sticker.lines.size() == 1);
    CHECK(sticker.lines[0].kind == LineKind::die);
}
