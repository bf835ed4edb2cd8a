#include "sheet/keep_out.h"
#include "sticker/sticker.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;

namespace {

Curve circle(double radius) {
    return shapeAround({{-radius, -radius}, {radius, radius}},
                       {PlainShapeKind::circle, radius - radius * std::numbers::sqrt2});
}

double discArea(double radius) {
    return std::numbers::pi * radius * radius;
}

Region keepOut(const std::vector<Curve>& edge, const Recipe& recipe) {
    return keepOutOf(makeSticker({}, edge, recipe, {0.01}));
}

} // namespace

TEST_CASE("nothing enters the area inside the outermost cut line") {
    Recipe recipe;
    recipe.lines = {{LineKind::kiss, 2, {}}, {LineKind::die, 5, {}}};
    const Region region = keepOut({circle(20)}, recipe);
    REQUIRE(region.loops.size() == 1);
    CHECK(area(region) == Approx(discArea(25)).epsilon(1e-3));
}

TEST_CASE("others may lie in an opening that is cut, less what its line takes; not in a small one") {
    Recipe recipe;
    recipe.lines[0].offset = 2;
    const Region wide = keepOut({circle(40), reversed(circle(20))}, recipe);
    CHECK(wide.loops.size() == 2);
    CHECK(area(wide) == Approx(discArea(42) - discArea(18)).epsilon(1e-3));
    const Region narrow = keepOut({circle(40), reversed(circle(3.5))}, recipe); // 3 mm across, for the knife
    CHECK(narrow.loops.size() == 1);
    CHECK(area(narrow) == Approx(discArea(42)).epsilon(1e-3));
    recipe.lines.push_back({LineKind::die, 30, {}}); // which closes it
    CHECK(keepOut({circle(40), reversed(circle(20))}, recipe).loops.size() == 1);
}

TEST_CASE("where the bleed reaches farther than the line, it is kept out of others' cuts") {
    Recipe recipe;
    recipe.lines[0].offset = 0;
    recipe.bleed.amount = 1.5;
    CHECK(area(keepOut({circle(20)}, recipe)) == Approx(discArea(21.5)).epsilon(2e-3));
    const Region ring = keepOut({circle(40), reversed(circle(20))}, recipe);
    CHECK(area(ring) == Approx(discArea(41.5) - discArea(18.5)).epsilon(2e-3));
    recipe.bleed.amount = 0;
    CHECK(area(keepOut({circle(20)}, recipe)) == Approx(discArea(20)).epsilon(1e-3));
}

TEST_CASE("print that reaches past an inward line counts too, and so does a border") {
    Recipe recipe;
    recipe.lines[0].offset = -3;
    recipe.bleed.amount = 0;
    recipe.bleed.trims = false;
    CHECK(area(keepOut({circle(20)}, recipe)) == Approx(discArea(20)).epsilon(1e-3));
    recipe.lines[0].offset = 0;
    recipe.border = {4, {{0, 0, 0, 255}}, true};
    CHECK(area(keepOut({circle(20)}, recipe)) >= discArea(24) * (1 - 2e-3));
}

TEST_CASE("an empty sticker keeps nothing out") {
    CHECK(keepOutOf(Sticker{}).isEmpty());
    Recipe recipe;
    recipe.lines[0].offset = -30;
    CHECK(keepOut({circle(20)}, recipe).isEmpty());
}
