#include "artwork/arrange.h"
#include "drawing/draw.h"
#include "geometry/region_operations.h"
#include "job/split.h"
#include "sticker/open_lines.h"
#include "workshop/make_all.h"

#include <catch2/catch.hpp>

using namespace hasami;

namespace {

Curve square(double x, double y, double side = 10) {
    return polygonOf(Box{{x, y}, {x + side, y + side}});
}

/// A picture of 100 x 60 mm, 10 pixels a mm.
Job jobOfSheet() {
    Job job;
    auto asset = std::make_shared<Asset>();
    asset->sha256 = std::string(64, 'c');
    asset->name = "sheet.png";
    NewPicture picture{asset, 1000, 600, 10};
    addDesign(job, picture).count = 7;
    return job;
}

const Artwork& artworkOf(const Job& job, std::size_t design) {
    return job.designs[design].artwork;
}

} // namespace

TEST_CASE("parts of artwork are told apart by their distance, in reading order") {
    const std::vector<Curve> edge{square(40, 31), square(0, 30), square(0, 0),
                                  square(14, 1),  square(40, 0), reversed(square(42, 2, 4))};
    const auto apart = partsOf(edge, 0);
    REQUIRE(apart.size() == 5);
    CHECK(bounds(flatten(apart[0].front(), 0.01)).least == Point{0, 0});
    CHECK(bounds(flatten(apart[2].front(), 0.01)).least == Point{40, 0});
    CHECK(bounds(flatten(apart[3].front(), 0.01)).least == Point{0, 30});
    CHECK(partsOf(edge, 3.9).size() == 5);
    const auto together = partsOf(edge, 4.1); // two stand 4 mm apart
    REQUIRE(together.size() == 4);
    CHECK(together[0].size() == 2);
}

TEST_CASE("every outer line is a part of its own where nothing is kept together") {
    std::vector<Curve> edge;
    for (int i = 0; i < 8; ++i)
        edge.push_back(square(30 * (i % 4), 40 * (i / 4), 20));
    CHECK(partsOf(edge, 0).size() == 8);
    CHECK(partsOf(edge, 9.9).size() == 8);
    CHECK(partsOf(edge, 15).size() == 2);
}

TEST_CASE("each part becomes a design with its share, its number, and what the whole had") {
    Job job = jobOfSheet();
    const std::string id = job.designs[0].id;
    job.designs[0].recipe.lines[0].offset = 1.5;
    job.designs[0].recipe.edge.switches = {{{0.1, 0.1}, 0.1, false, false, 0}};
    const auto ids = splitDesign(job, id, {square(5, 5), square(60, 30, 20)}, 0);
    REQUIRE(ids.size() == 2);
    REQUIRE(job.designs.size() == 2);
    const Job& split = job;
    CHECK(split.designs[0].name == "sheet 1");
    CHECK(split.designs[1].name == "sheet 2");
    CHECK(split.designs[1].count == 7);
    CHECK(split.designs[1].recipe.lines[0].offset == 1.5);
    CHECK(split.designs[1].recipe.edge.switches.size() == 1); // a crop moves nothing
    const Item& first = artworkOf(split, 0).items[0];
    REQUIRE(first.crop);
    CHECK(*first.crop == PixelBox{45, 45, 110, 110}); // with half a millimetre of air
    CHECK(first.place.width == 100);
    CHECK(bounds(first).least.x == Approx(0).margin(1e-9));
    CHECK(bounds(artworkOf(split, 1)).width() == Approx(21));
    CHECK(job.find(id) == nullptr);
}

TEST_CASE("lines that were drawn stay where they were, with the part that they lie on") {
    Job job = jobOfSheet();
    const std::string id = job.designs[0].id;
    LineRecipe slit;
    slit.course = LineCourse::drawn;
    slit.drawn.points = {{0.65, 0.4}, {0.75, 0.4}}; // of 100 mm
    job.designs[0].recipe.lines.push_back(slit);
    splitDesign(job, id, {square(5, 5), square(60, 30, 20)}, 0);
    const Job& split = job;
    CHECK(split.designs[0].recipe.lines.size() == 1);
    REQUIRE(split.designs[1].recipe.lines.size() == 2);
    const auto line = drawnLine(split.designs[1].recipe.lines[1], 1, artworkOf(split, 1));
    REQUIRE(line);
    CHECK(distance(line->curve.start, {5.5, 10.5}) < 1e-9); // half a millimetre of air is on top
    CHECK(distance(line->curve.segments[0].end, {15.5, 10.5}) < 1e-9);
}

TEST_CASE("where another part reaches into the crop, the share is shown inside its own outline") {
    Job job = jobOfSheet();
    const Curve angle = polygonOf(std::vector<Point>{{5, 5}, {50, 5}, {50, 10}, {10, 10}, {10, 50}, {5, 50}});
    const auto ids = splitDesign(job, job.designs[0].id, {angle, square(20, 20)}, 0);
    REQUIRE(ids.size() == 2);
    const Item& outer = artworkOf(job, 0).items[0];
    REQUIRE(outer.own());
    const auto& fill = std::get<PictureFill>(outer.own()->fill);
    CHECK(fill.file.asset == std::string(64, 'c'));
    CHECK(outer.place.at.x + fill.place.at.x == Approx(-5)); // the whole picture lies as it lay
    CHECK(area(enclosed(outer.own()->drawing->drawing->areas[0].rims, FillRule::nonZero)) ==
          Approx(45 * 5 + 40 * 5));
    CHECK(artworkOf(job, 1).items[0].crop); // the square has its surroundings for itself
}

TEST_CASE("own artwork of several parts is split into figures of their outlines, with its fill") {
    Job job;
    OwnArtwork own;
    Figure figure;
    figure.kind = FigureKind::outline;
    figure.width = 60;
    figure.height = 10;
    const auto bar = [](double from, double to) {
        const std::vector<Point> corners{{from, 0}, {to, 0}, {to, 1}, {from, 1}};
        Curve curve{corners[0], {}};
        for (std::size_t i = 0; i < 4; ++i)
            curve.segments.push_back(straightSegment(corners[i], corners[(i + 1) % 4]));
        return curve;
    };
    figure.outline = {bar(0, 0.25), bar(0.5, 1)};
    own.what = figure;
    own.fill = PaintColour{{10, 20, 30, 255}};
    const auto nothing = [](const auto&) { return nullptr; };
    const std::string id = addDesign(job, newItem(own, "bars", nothing, nothing)).id;
    Cache cache;
    job.designs.front().recipe.bleed.amount = 0;
    const Made made = makeAll(job, 1, {}, cache);
    splitDesign(job, id, made.designs[0].sticker->edge, 0);
    REQUIRE(job.designs.size() == 2);
    const double widths[] = {15, 30};
    for (std::size_t i = 0; i < 2; ++i) {
        const Item& item = std::as_const(job.designs)[i].artwork.items.front();
        CHECK(item.place.width == Approx(widths[i]).margin(0.01));
        CHECK(item.place.height == Approx(10).margin(0.01));
        CHECK(std::get<PaintColour>(item.own()->fill).shown.green == 20);
    }
}

TEST_CASE("artwork in one part is not split, and items stay with the part they belong to") {
    Job job = jobOfSheet();
    CHECK(splitDesign(job, job.designs[0].id, {square(5, 5)}, 0).empty());
    CHECK(job.designs.size() == 1);
    Item second = artworkOf(job, 0).items[0];
    second = movedBy(second, {200, 0});
    job.designs[0].artwork.items.push_back(second);
    splitDesign(job, job.designs[0].id, {square(5, 5), square(210, 10)}, 0);
    REQUIRE(job.designs.size() == 2);
    CHECK(artworkOf(job, 0).items.size() == 1);
    CHECK(artworkOf(job, 1).items.size() == 1);
}

TEST_CASE("designs that are gathered lie side by side in one, with what was done to their lines") {
    Job job = jobOfSheet();
    const std::string id = job.designs[0].id;
    const std::string other = duplicateDesign(job, id).id;
    job.find(other)->recipe.edge.switches = {{{0.1, 0.1}, 0.1, false, false, 0}};
    gatherDesigns(job, id, {other});
    REQUIRE(job.designs.size() == 1);
    REQUIRE(artworkOf(job, 0).items.size() == 2);
    CHECK(bounds(artworkOf(job, 0).items[1]).least.x - bounds(artworkOf(job, 0).items[0]).most.x ==
          Approx(5));
    CHECK(std::as_const(job).designs[0].recipe.edge.switches.at(0).item == 1);
}
