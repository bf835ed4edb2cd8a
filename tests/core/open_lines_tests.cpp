#include "checks/inspect.h"
#include "geometry/curve_lengths.h"
#include "sheet/keep_out.h"
#include "sticker/open_lines.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;

namespace {

constexpr double tolerance = 0.01;

Curve boxOf(double left, double top, double right, double bottom) {
    return shapeAround({{left, top}, {right, bottom}}, {PlainShapeKind::box, 0});
}

LineRecipe drawnAs(LineKind kind, const std::vector<Point>& points) {
    LineRecipe line;
    line.kind = kind;
    line.course = LineCourse::drawn;
    line.drawn.points = points;
    return line;
}

LineRecipe around(LineKind kind, double offset) {
    LineRecipe line;
    line.kind = kind;
    line.offset = offset;
    return line;
}

Artwork artworkOf(double width, double height) {
    Item item;
    item.pixelWidth = 400;
    item.pixelHeight = 200;
    item.place.width = width;
    item.place.height = height;
    Artwork artwork;
    artwork.items.push_back(item);
    return artwork;
}

Sticker stickerOf(const std::vector<LineRecipe>& lines, const ArtworkFacts& facts = {tolerance}) {
    Recipe recipe;
    recipe.lines = lines;
    recipe.bleed.amount = 0;
    return makeSticker(artworkOf(40, 20), {boxOf(0, 0, 40, 20)}, recipe, facts);
}

double length(const std::vector<Subpath>& runs) {
    double sum = 0;
    for (const Subpath& run : runs)
        sum += lengthOf(run.start, run.segments);
    return sum;
}

} // namespace

TEST_CASE(
    "a drawn line is cut as it was drawn, in mm of the artwork's longer side, before what goes around it") {
    const auto kiss = around(LineKind::kiss, 2), die = around(LineKind::die, 4);
    const Sticker sticker =
        stickerOf({kiss, die, drawnAs(LineKind::kiss, {{0.25, 0.25}, {0.5, 0.25}, {0.5, 0.375}}),
                   drawnAs(LineKind::die, {{0, 0}, {0.1, 0}})});
    REQUIRE(sticker.lines.size() == 4);
    const CutLine& slit = sticker.lines[0];
    CHECK(slit.kind == LineKind::kiss);
    CHECK(slit.isOpen);
    CHECK(slit.recipe == 2);
    const Subpath run = slit.whole();
    CHECK_FALSE(run.isClosed);
    CHECK(run.start == Point{10, 10});
    REQUIRE(run.segments.size() == 2); // an L
    CHECK(run.segments[0].end == Point{20, 10});
    CHECK(run.segments[1].end == Point{20, 15});
    CHECK(cutLength(slit) == Approx(15));
    CHECK_FALSE(sticker.lines[1].isOpen);
    CHECK(sticker.lines[2].isOpen);
    CHECK(sticker.lines[2].kind == LineKind::die);
    CHECK(sticker.peeled().size() == 1); // nothing of it is filled, or peeled
    CHECK(sticker.peeledArea == Approx(44 * 24).epsilon(0.01));
}

TEST_CASE("a drawn line goes with its artwork, and with none other") {
    const LineRecipe slit = drawnAs(LineKind::die, {{0.25, 0.25}, {0.5, 0.25}});
    Artwork artwork = artworkOf(40, 20);
    const auto place = [&] {
        const auto line = drawnLine(slit, 0, artwork);
        REQUIRE(line);
        return std::pair(line->curve.start, line->curve.segments.back().end);
    };
    artwork.items.push_back(movedBy(artwork.items.front(), {100, -50})); // another one beside it
    CHECK(place() == std::pair(Point{10, 10}, Point{20, 10}));
    artwork.items.front() = movedBy(artwork.items.front(), {5, 1});
    CHECK(place() == std::pair(Point{15, 11}, Point{25, 11}));
    artwork.items.front().place.width *= 2;
    artwork.items.front().place.height *= 2;
    CHECK(distance(place().first, place().second) == Approx(20));
    CHECK(itemToDrawOn(artwork, {110, -40}) == 1);
    CHECK(itemToDrawOn(artwork, {10, 10}) == 0);
    CHECK(itemToDrawOn(artwork, {500, 500}) == 0);
    LineRecipe lost = slit;
    lost.drawn.item = 2;
    CHECK_FALSE(drawnLine(lost, 0, artwork));

    Design design;
    design.artwork = artwork;
    design.recipe.lines = {around(LineKind::kiss, 2), slit};
    restackItem(design, 0, 1);
    CHECK(design.recipe.lines[1].drawn.item == 1);
    removeItem(design, 0);
    CHECK(design.recipe.lines[1].drawn.item == 0);
    CHECK(design.recipe.lines[1].drawn.isThere());
    removeItem(design, 0);
    CHECK_FALSE(design.recipe.lines[1].drawn.isThere());
}

TEST_CASE("one that is not drawn yet, or not cut, is left out; alone it makes no sticker") {
    LineRecipe off = drawnAs(LineKind::kiss, {{0, 0}, {1, 0}});
    off.isCut = false;
    const auto kiss = around(LineKind::kiss, 2);
    const Sticker sticker =
        stickerOf({kiss, off, drawnAs(LineKind::die, {}), drawnAs(LineKind::die, {{0, 0}})});
    CHECK(sticker.lines.size() == 1);
    REQUIRE(sticker.leftOut.size() == 1);
    CHECK(sticker.leftOut[0].isOpen);
    CHECK(stickerOf({drawnAs(LineKind::kiss, {{0, 0}, {1, 0}})}).isEmpty());
}

TEST_CASE("a slit that reaches out of the sticker keeps others away, along itself alone") {
    const auto kiss = around(LineKind::kiss, 0);
    const Sticker within = stickerOf({kiss, drawnAs(LineKind::die, {{0.1, 0.25}, {0.9, 0.25}})}),
                  beyond = stickerOf({kiss, drawnAs(LineKind::die, {{0.5, 0.25}, {1.25, 0.25}})});
    CHECK(area(keepOutOf(within)) == Approx(800).margin(0.5));
    const Region region = keepOutOf(beyond);
    CHECK(area(region) == Approx(800 + 10 * 0.1).margin(0.5));
    CHECK(bounds(region).most.x == Approx(50).margin(0.01));
    CHECK(beyond.footprint.most.x == Approx(50));
}

TEST_CASE("a perforated one is cut in whole periods that begin and end with a cut") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> part(0.5, 12), far(0.5, 100);
    for (int i = 0; i < 200; ++i) {
        TabRule rule;
        rule.cut = part(random);
        rule.length = part(random);
        const double whole = far(random);
        const Curve line{{0, 0}, {straightSegment({0, 0}, {whole, 0})}};
        const std::vector<Tab> tabs = tabsOnOpenLine(line, rule);
        const auto cut = betweenTabs(line, tabs, true);
        REQUIRE(cut.size() == tabs.size() + 1);
        CHECK(cut.front().start == Point{0, 0});
        CHECK(cut.back().segments.back().end.x == Approx(whole));
        CHECK(length(cut) + double(tabs.size()) * rule.length == Approx(whole));
        const double each = length({cut.front()});
        for (const Subpath& run : cut)
            CHECK(length({run}) == Approx(each));
        if (whole > 4 * (rule.cut + rule.length)) {
            CHECK(each > rule.cut * 0.4);
            CHECK(each < rule.cut * 1.8);
        }
    }
    const auto kiss = around(LineKind::kiss, 2);
    LineRecipe tear = drawnAs(LineKind::perforated, {{0, 0.25}, {1, 0.25}});
    tear.tabs.cut = 4;
    tear.tabs.length = 1;
    const Sticker sticker = stickerOf({kiss, tear});
    REQUIRE(sticker.lines.size() == 2);
    Profile profile = startProfile();
    profile.cutter.makesTabs = false;
    CHECK(strokesOf(sticker.lines[1], profile).size() == sticker.lines[1].tabs.size() + 1);
    profile.cutter.makesTabs = true;
    CHECK(strokesOf(sticker.lines[1], profile).size() == 1);
}

TEST_CASE("slits that a file brings go beside the recipe's lines, or beside the file's") {
    ArtworkFacts facts{tolerance};
    const CutLine slit{LineKind::die, LineRole::outer, {{5, 5}, {straightSegment({5, 5}, {15, 5})}}, true, {},
                       ofFile};
    facts.brought = {slit};
    Sticker sticker = stickerOf({around(LineKind::kiss, 2)}, facts);
    REQUIRE(sticker.lines.size() == 2);
    CHECK_FALSE(sticker.lines[0].isOpen);
    CHECK(sticker.lines[1] == slit);
    facts.brought.push_back({LineKind::kiss, LineRole::outer, boxOf(1, 1, 30, 10), false, {}, ofFile});
    sticker = stickerOf({around(LineKind::kiss, 2)}, facts);
    REQUIRE(sticker.lines.size() == 2);
    CHECK(sticker.lines[0].recipe == ofFile);
    CHECK(sticker.lines[1] == slit);
}
