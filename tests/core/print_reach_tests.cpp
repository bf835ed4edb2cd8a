#include "sheet/keep_out.h"
#include "sticker/sticker.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace hasami;
using namespace hasami::test;

namespace {

/// A picture of 40 x 40 mm, 400 x 400 pixels.
Artwork picture() {
    return {{{"", 400, 400, {{0, 0}, 40, 40}}}};
}

Curve circleAt(double radius, Point centre = {20, 20}) {
    return shapeAround({centre, centre}, {PlainShapeKind::circle, 0, 0, 6, true, 2 * radius, 2 * radius});
}

Region lineArea(const Sticker& sticker) {
    Region all;
    for (const CutLine& line : sticker.lines)
        if (!line.isOpen)
            all.loops.push_back(flatten(line.curve, 0.001));
    return withoutOpenings(enclosed(all, FillRule::nonZero));
}

/// All that may get ink: the artwork's whole box where it is not clipped.
Region inked(const Sticker& sticker) {
    std::vector<Region> parts{regionOf(sticker.artwork)};
    if (!sticker.within.empty())
        parts.front() = intersection(parts.front(), enclosed(sticker.within, FillRule::evenOdd));
    if (sticker.bleed)
        parts.push_back(enclosed(sticker.bleed->area, FillRule::evenOdd));
    if (sticker.border) {
        parts.push_back(enclosed(sticker.border->under, FillRule::evenOdd));
        parts.push_back(enclosed(sticker.border->over, FillRule::evenOdd));
    }
    return uniteSimple(parts);
}

/// mm² of ink outside the lines grown by `amount`, and outside the area that is kept free.
struct Spoilt {
    double beyondBleed, beyondArea;
};
Spoilt spoiltBy(const Sticker& sticker, double amount) {
    constexpr double slack = 0.03; // mm: fits and chords
    const Region ink = inked(sticker);
    return {area(difference(ink, offset(lineArea(sticker), amount + slack))),
            area(difference(ink, offset(keepOutOf(sticker), slack)))};
}

} // namespace

TEST_CASE("nothing is printed farther out than the outermost line and its bleed") {
    const bool hasBorder = GENERATE(false, true), showsBackdrop = GENERATE(false, true);
    const double lineOffset = GENERATE(-3.0, 0.0, 2.0), amount = GENERATE(0.0, 1.0);
    Recipe recipe;
    recipe.border.width = hasBorder ? 1.5 : 0;
    recipe.lines[0].offset = lineOffset;
    recipe.bleed.amount = amount;
    // Two parts; a third that the picture shows has no line, and there may be a backdrop behind all.
    const std::vector<Curve> edge{circleAt(8), circleAt(3, {33, 33})};
    const Sticker sticker =
        makeSticker(picture(), edge, recipe, {0.01, showsBackdrop, showsBackdrop, {}, {}});
    const bool isEaten = lineOffset <= -3 && !hasBorder;
    REQUIRE(sticker.lines.size() == (isEaten ? 1 : 2));
    const double past = hasBorder ? std::max(amount, -lineOffset) : amount;
    const Spoilt spoilt = spoiltBy(sticker, past);
    CHECK(spoilt.beyondBleed == Approx(0).margin(1e-6));
    CHECK(spoilt.beyondArea == Approx(0).margin(1e-6));
}

TEST_CASE("nothing is printed in a gap between parts whose bleeds run together around it") {
    std::vector<Curve> edge;
    for (int i = 0; i < 8; ++i) {
        const double angle = i * std::numbers::pi / 4;
        edge.push_back(circleAt(4, Point{20, 20} + Point{std::cos(angle), std::sin(angle)} * 11));
    }
    Recipe recipe;
    recipe.lines[0].offset = 0;
    const Sticker sticker = makeSticker(picture(), edge, recipe, {0.01});
    REQUIRE(sticker.lines.size() == 8);
    CHECK(spoiltBy(sticker, recipe.bleed.amount).beyondBleed == Approx(0).margin(1e-6));
}

TEST_CASE("without trimming nothing is printed outside the area that is kept free") {
    Recipe recipe;
    recipe.bleed.trims = false;
    recipe.border.width = GENERATE(0.0, 1.5);
    const Sticker sticker = makeSticker(picture(), {circleAt(8)}, recipe, {0.01});
    CHECK(sticker.within.empty());
    CHECK(spoiltBy(sticker, 1).beyondArea == Approx(0).margin(1e-6));
}

TEST_CASE("a plain shape smaller than the artwork clips what it shows, and its border") {
    Recipe recipe;
    recipe.border.width = GENERATE(0.0, 2.0);
    recipe.lines[0].course = LineCourse::shape;
    recipe.lines[0].shape = {PlainShapeKind::circle, 0, 0, 6, true, 16, 16};
    const Sticker sticker = makeSticker(picture(), {circleAt(15)}, recipe, {0.01});
    const Spoilt spoilt = spoiltBy(sticker, recipe.bleed.amount);
    CHECK(spoilt.beyondBleed == Approx(0).margin(1e-6));
    CHECK(spoilt.beyondArea == Approx(0).margin(1e-6));
    CHECK(sticker.footprint.width() == Approx(18).margin(0.05));
}

TEST_CASE("the bleed's seam under the artwork's rim stays within the bleed") {
    Recipe recipe;
    recipe.lines[0].course = LineCourse::shape;
    recipe.lines[0].shape = {PlainShapeKind::circle, 0, 0, 6, true, 16, 16};
    // Two parts that reach out of the circle on both sides, of coarse pixels.
    const Sticker sticker =
        makeSticker(picture(), {circleAt(8, {11, 20}), circleAt(8, {29, 20})}, recipe, {0.05});
    REQUIRE(sticker.bleed);
    CHECK(spoiltBy(sticker, recipe.bleed.amount).beyondBleed == Approx(0).margin(1e-6));
}

TEST_CASE("a line that holds nothing of what was found still keeps the backdrop inside") {
    Recipe recipe;
    recipe.lines[0].course = LineCourse::shape;
    recipe.lines[0].shape = {PlainShapeKind::circle, 0, 0, 6, true, 8, 8};
    // Two parts, and the circle between them.
    const Sticker sticker = makeSticker(picture(), {circleAt(5, {8, 20}), circleAt(5, {32, 20})}, recipe,
                                        {0.01, true, true, {}, {}});
    const Spoilt spoilt = spoiltBy(sticker, recipe.bleed.amount);
    CHECK(spoilt.beyondBleed == Approx(0).margin(1e-6));
    CHECK(spoilt.beyondArea == Approx(0).margin(1e-6));
}

TEST_CASE("a line that is not cut, a plain shape and a fold print the border no wider") {
    Recipe recipe;
    recipe.border.width = 2;
    LineRecipe other = recipe.lines[0];
    other.offset = -3;
    other.isCut = false;
    CHECK(hiddenBorder(recipe) == 0);
    recipe.lines.push_back(other);
    other.isCut = true;
    other.course = LineCourse::shape;
    recipe.lines.push_back(other);
    other.course = LineCourse::fold;
    recipe.lines.push_back(other);
    CHECK(hiddenBorder(recipe) == 0);
    other.course = LineCourse::edge;
    recipe.lines.push_back(other);
    CHECK(hiddenBorder(recipe) == 3);
}

TEST_CASE("more lines than areas are worked out for print no farther than the box around them") {
    Recipe recipe;
    std::vector<Curve> edge;
    for (int i = 0; i < 10'100; ++i)
        edge.push_back(circleAt(0.05, {10 + 0.15 * (i % 100), 10 + 0.15 * (i / 100)}));
    recipe.lines[0].offset = 0;
    const Sticker sticker = makeSticker(picture(), edge, recipe, {0.01});
    REQUIRE(sticker.within.size() == 1);
    CHECK(bounds(flatten(sticker.within[0], 0.01)).width() < 18);
    CHECK(sticker.footprint.holds(bounds(flatten(sticker.within[0], 0.01))));
}
