#include "artwork/arrange.h"
#include "artwork/filled_part.h"
#include "job/job.h"
#include "support/shapes.h"
#include "workshop/make_all.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

Item plainItem() {
    Item item;
    item.pixelWidth = 60;
    item.pixelHeight = 80;
    item.place = {{3, -4}, 6, 8};
    return item;
}

/// With any place, turn, mirroring and crop.
Item randomItem(std::mt19937& random) {
    std::uniform_real_distribution<double> place(-50, 50), size(2, 60), turn(-180, 180);
    Item item = plainItem();
    item.place = {
        {place(random), place(random)}, size(random), size(random), turn(random), random() % 2 == 0};
    if (random() % 2 == 0)
        item.crop = PixelBox{int(random() % 20), int(random() % 20), 10 + int(random() % 20),
                             10 + int(random() % 20)};
    return item;
}

double farthest(const Affine& a, const Affine& b) {
    double most = 0;
    for (const Point p : {Point{0, 0}, Point{60, 0}, Point{0, 80}, Point{60, 80}})
        most = std::max(most, distance(a(p), b(p)));
    return most;
}

/// The letter F, 60 x 80 pixels of a tenth of a mm.
std::shared_ptr<const Picture> letterF(const Asset&, const PictureWish&, const std::stop_token&) {
    return std::make_shared<const Picture>(
        pictureOf(drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); })));
}

Job jobOfF() {
    Job job;
    addDesign(job, {std::make_shared<const Asset>(Asset{std::string(64, 'a'), "f.png", {}}), 60, 80, 10});
    job.designs[0].recipe.lines[0].offset = 0;
    return job;
}

Region edgeOf(const Job& job) {
    Cache cache;
    const Made made = makeAll(job, 1, letterF, cache);
    REQUIRE(made.designs[0].trouble.empty());
    return flatten(made.designs[0].sticker->edge, 0.0005);
}

/// How far a loop's points lie from another one.
double farthest(const Loop& loop, const Loop& from) {
    double most = 0;
    for (const Point p : loop)
        most = std::max(most, distanceToLoop(p, from));
    return most;
}

} // namespace

TEST_CASE("turns, mirrors and scalings of an item are those of the design's plane") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> number(-40, 40), factor(0.2, 5);
    for (int i = 0; i < 500; ++i) {
        const Item item = randomItem(random);
        const Point about{number(random), number(random)};
        const double degrees = i % 5 == 0 ? 90.0 * (i % 4) : number(random) * 9, f = factor(random);
        const Affine to = Affine::translation(about), back = Affine::translation(about * -1);
        const Affine turned = to * Affine::rotation(degrees * std::numbers::pi / 180) * back;
        REQUIRE(farthest(turnedBy(item, degrees, about).fromPixels(), turned * item.fromPixels()) < 1e-9);
        REQUIRE(std::abs(turnedBy(item, degrees, about).place.turn) <= 180);
        const Affine mirror = to * Affine::scaling(-1, 1) * back;
        REQUIRE(farthest(mirroredAt(item, about.x).fromPixels(), mirror * item.fromPixels()) < 1e-9);
        REQUIRE(mirroredAt(mirroredAt(item, about.x), about.x).place.isMirrored == item.place.isMirrored);
        REQUIRE(farthest(scaledBy(item, f, about).fromPixels(),
                         to * Affine::scaling(f, f) * back * item.fromPixels()) < 1e-9);
        REQUIRE(farthest(inverse(item.fromPixels()) * item.fromPixels(), {}) < 1e-8);
    }
    Item quarter = turnedBy(plainItem(), 90, {0, 0});
    CHECK(bounds(quarter).width() == 8); // exactly
    for (int i = 0; i < 3; ++i)
        quarter = turnedBy(quarter, 90, {0, 0});
    CHECK(quarter == plainItem());
}

TEST_CASE("an item is stretched until its box is as wide or as high as wanted") {
    std::mt19937 random(6);
    std::uniform_real_distribution<double> size(1, 90);
    int done = 0;
    for (int i = 0; i < 300; ++i) {
        const Item item = randomItem(random);
        const double wanted = size(random);
        for (const bool isWidth : {true, false})
            if (const auto now = isWidth ? stretchedToWidth(item, wanted) : stretchedToHeight(item, wanted)) {
                ++done;
                const Box box = bounds(*now);
                REQUIRE((isWidth ? box.width() : box.height()) == Approx(wanted).margin(1e-9));
                REQUIRE(distance(box.centre(), bounds(item).centre()) < 1e-9);
            }
    }
    CHECK(done > 300);
    Item askew = turnedBy(plainItem(), 30, {0, 0});
    CHECK_FALSE(stretchedToWidth(askew, 0.1)); // its height alone is wider
}

TEST_CASE("a crop keeps what is shown where it is") {
    std::mt19937 random(7);
    for (int i = 0; i < 200; ++i) {
        Item item = randomItem(random);
        const Affine before = item.fromPixels();
        const PixelBox now = item.shown();
        const Item less = cropped(item, {now.left + 2, now.top + 3, now.width - 5, now.height - 4});
        REQUIRE(farthest(less.fromPixels() * Affine::translation({-2, -3}), before) < 1e-9);
    }
    Item item = plainItem();
    CHECK(partIn(item, {{4, -3}, {6, 2}}) == PixelBox{10, 10, 20, 50});
    CHECK(partIn(item, {{-100, -100}, {100, 100}}) == PixelBox{0, 0, 60, 80});
    CHECK_FALSE(partIn(item, {{4, -3}, {4.2, 2}}));
    CHECK(partIn(mirroredAt(item, 6), {{4, -3}, {6, 2}}) == PixelBox{30, 10, 20, 50});
    CHECK(partIn(cropped(item, {10, 10, 20, 20}), {{-100, -100}, {100, 100}}) == PixelBox{10, 10, 20, 20});
    CHECK_FALSE(cropped(cropped(item, {1, 1, 9, 9}), {0, 0, 60, 80}).crop);
}

TEST_CASE("a move snaps to sides and middles of others and to guides, within reach alone") {
    const Box box{{0, 0}, {10, 20}};
    const std::vector<Box> others{{{100, 100}, {120, 140}}};
    const Snap left = snapped(box, {100.4, 50}, others, {}, 0.5);
    CHECK(left.move == Point{100, 50});
    CHECK(left.x == 100);
    CHECK_FALSE(left.y);
    CHECK(distance(snapped(box, {105.3, 110.2}, others, {}, 0.5).move, {105, 110}) < 1e-9); // both middles
    CHECK(snapped(box, {100.6, 50}, others, {}, 0.5).move == Point{100.6, 50});
    CHECK(distance(snapped(box, {30.3, 0}, {}, {{true, 40}}, 0.5).move, {30, 0}) < 1e-9); // its right side
    CHECK(snapped(box, {0, 7.8}, {}, {{false, 18}}, 0.5).move.y == Approx(8));            // its middle
}

TEST_CASE("margins are found, transparent or plain") {
    Picture clear = pictureOf(drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); }));
    CHECK(filledPart(clear) == PixelBox{10, 10, 40, 60});
    Picture plain = clear;
    for (Rgba& pixel : plain.pixels.cells())
        pixel = pixel.coverage > 127 ? Rgba{20, 90, 30, 255} : Rgba{250, 248, 252, 255};
    CHECK(filledPart(plain) == PixelBox{10, 10, 40, 60});
    plain.pixels.at(59, 79) = {0, 0, 0, 255};
    CHECK_FALSE(filledPart(plain)); // the corners show two backdrops
    CHECK_FALSE(filledPart(pictureOf(Grid<std::uint8_t>(9, 9, 0))));
}

TEST_CASE("the edge of a turned, mirrored item is the edge turned and mirrored, run the same way") {
    Job job = jobOfF();
    const Region upright = edgeOf(job);
    Item& item = job.designs[0].artwork.items[0];
    item = mirroredAt(turnedBy(item, 33, {5, 5}), 17);
    const Region turned = edgeOf(job);
    REQUIRE(turned.loops.size() == 1);
    CHECK(signedArea(turned.loops[0]) == Approx(signedArea(upright.loops[0])).epsilon(1e-4));
    Loop wanted = upright.loops[0];
    for (Point& p : wanted)
        p = item.toDesign()(p);
    CHECK(farthest(turned.loops[0], wanted) < 0.001);
}

TEST_CASE("what is cropped away has no edge, and a switched line stays switched") {
    Job job = jobOfF();
    Item& item = job.designs[0].artwork.items[0];
    item.crop = PixelBox{0, 0, 60, 25};
    const Box box = bounds(edgeOf(job));
    CHECK(box.most.y == Approx(2.5).margin(0.02)); // F begins a mm down and is cut off at 2.5 mm
    CHECK(box.least.x == Approx(1).margin(0.02));
    item.crop.reset();
    Cache cache;
    const Made made = makeAll(job, 1, letterF, cache);
    EdgeOptions& options = job.designs[0].recipe.edge;
    switchLoop(options, made.designs[0].loops[0]->front().facts, item.wholeBox(), false, 0);
    item = mirroredAt(turnedBy(item, 33, {5, 5}), 17);
    CHECK(makeAll(job, 2, letterF, cache).designs[0].sticker->isEmpty());
    options.switches[0].item = 1; // of another item
    CHECK_FALSE(makeAll(job, 3, letterF, cache).designs[0].sticker->isEmpty());
}

TEST_CASE("items are added, taken out and restacked, and what was done to each goes along") {
    Job job = jobOfF();
    const NewPicture other{std::make_shared<const Asset>(Asset{std::string(64, 'b'), "g.png", {}}), 600, 600,
                           10};
    addItem(job, job.designs[0].id, other);
    Design& design = job.designs[0];
    REQUIRE(design.artwork.items.size() == 2);
    CHECK(bounds(design.artwork.items[1]).width() == Approx(6)); // no larger than what was there
    CHECK(distance(bounds(design.artwork.items[1]).centre(), {3, 4}) < 1e-9);
    CHECK(job.assets->contains(std::string(64, 'b')));
    design.recipe.edge.switches = {{{0.1, 0.1}, 0.5, false, false, 0}, {{0.2, 0.2}, 0.5, false, false, 1}};
    restackItem(design, 0, 1);
    CHECK(design.artwork.items[0].name == "g.png");
    CHECK(design.recipe.edge.switches[0].item == 1);
    CHECK(design.recipe.edge.switches[1].item == 0);
    removeItem(design, 0);
    REQUIRE(design.artwork.items.size() == 1);
    CHECK(design.artwork.items[0].name == "f.png");
    REQUIRE(design.recipe.edge.switches.size() == 1);
    CHECK(design.recipe.edge.switches[0].item == 0);
    CHECK(design.recipe.edge.switches[0].centre == Point{0.1, 0.1});
}

TEST_CASE("each alignment brings one side or middle of a box to the other's, and moves no other way") {
    std::mt19937 random(61);
    std::uniform_real_distribution<double> anywhere(-40, 40), size(1, 30);
    for (int round = 0; round < 100; ++round) {
        Box box, within;
        const Point at{anywhere(random), anywhere(random)}, there{anywhere(random), anywhere(random)};
        box = {at, at + Point{size(random), size(random)}};
        within = {there, there + Point{size(random), size(random)}};
        const auto aligned = [&](Alignment alignment) {
            return box.movedBy(alignmentMove(box, within, alignment));
        };
        CHECK(aligned(Alignment::left).least.x == Approx(within.least.x).margin(1e-9));
        CHECK(aligned(Alignment::middle).centre().x == Approx(within.centre().x).margin(1e-9));
        CHECK(aligned(Alignment::right).most.x == Approx(within.most.x).margin(1e-9));
        CHECK(aligned(Alignment::top).least.y == Approx(within.least.y).margin(1e-9));
        CHECK(aligned(Alignment::centre).centre().y == Approx(within.centre().y).margin(1e-9));
        CHECK(aligned(Alignment::bottom).most.y == Approx(within.most.y).margin(1e-9));
        for (const Alignment across : {Alignment::left, Alignment::middle, Alignment::right})
            CHECK(alignmentMove(box, within, across).y == 0);
        for (const Alignment along : {Alignment::top, Alignment::centre, Alignment::bottom})
            CHECK(alignmentMove(box, within, along).x == 0);
    }
}
