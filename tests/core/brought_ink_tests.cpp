#include "artwork/channel_names.h"
#include "artwork/shared_picture.h"
#include "base/error.h"
#include "raster/half_covered.h"
#include "sticker/brought_ink.h"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace hasami;

namespace {

/// Of 100 x 50 pixels, 50 x 25 mm: a disc of so much ink, 15 pixels in radius.
Grid<std::uint8_t> plate(int amount) {
    Grid<std::uint8_t> cells(100, 50);
    for (int y = 0; y < 50; ++y)
        for (int x = 0; x < 100; ++x) {
            const double inside = 15.5 - std::hypot(x + 0.5 - 50, y + 0.5 - 25);
            cells.at(x, y) = std::uint8_t(std::lround(amount * std::clamp(inside, 0.0, 1.0)));
        }
    return cells;
}

Artwork artwork() {
    Item item;
    item.pixelWidth = 100;
    item.pixelHeight = 50;
    item.place.width = 50;
    item.place.height = 25;
    Artwork artwork;
    artwork.items.push_back(item);
    return artwork;
}

PrintedInk printed(const BroughtInk& brought, double choke = 0, const Sticker& sticker = {}) {
    const BroughtInk all[] = {brought};
    return printBroughtInk(artwork(), sticker, {InkKind::white, InkArea::brought, choke}, all, 0.01);
}

double areaOf(const PrintedInk& ink) {
    double sum = 0;
    for (const Curve& curve : ink.area)
        sum += signedArea(flatten(curve, 0.001));
    return sum;
}

double disc(double radius) {
    return std::numbers::pi * radius * radius;
}

std::string number(std::uint32_t value, int bytes) {
    std::string text;
    for (int i = bytes - 1; i >= 0; --i)
        text += char(value >> (8 * i) & 0xff);
    return text;
}

std::string resource(std::uint32_t which, const std::string& content) {
    return "8BIM" + number(which, 2) + std::string(2, '\0') + number(std::uint32_t(content.size()), 4) +
           content + (content.size() % 2 ? std::string(1, '\0') : std::string());
}

std::vector<ExtraChannel> channelsIn(const std::string& resources) {
    return extraChannels(std::as_bytes(std::span(resources.data(), resources.size())));
}

} // namespace

TEST_CASE("a plate of all or nothing gives an area, choked or as it is") {
    CHECK_FALSE(hasHalfCoveredParts(plate(255)));
    const PrintedInk ink = printed({plate(255)});
    CHECK_FALSE(ink.graded);
    CHECK(areaOf(ink) == Approx(disc(7.5)).epsilon(0.01));
    CHECK(areaOf(printed({plate(255)}, 0.5)) == Approx(disc(7)).epsilon(0.01));
    CHECK(printed({plate(255)}, 10).area.empty());
    CHECK(printed({}).area.empty());
}

TEST_CASE("what is between nothing and all is graded") {
    CHECK(hasHalfCoveredParts(plate(128)));
    const PrintedInk ink = printed({plate(128)}, 0.5);
    REQUIRE(ink.graded);
    CHECK(areaOf(ink) == Approx(disc(7.25)).epsilon(0.03)); // its rim lies half a pixel farther out
    const Affine toCells = inverse(ink.graded->fromPixels);
    const Point middle = toCells(Point{25, 12.5});
    CHECK(ink.graded->amounts.at(int(middle.x), int(middle.y)) == 128);
}

TEST_CASE("what is painted is taken exactly where it is known") {
    const BroughtInk brought{plate(255),
                             enclosed(Region{{{{1, 1}, {11, 1}, {11, 6}, {1, 6}}}}, FillRule::nonZero)};
    CHECK(areaOf(printed(brought)) == Approx(50));
    CHECK(areaOf(printed(brought, 1)) == Approx(24));
    Sticker sticker;
    sticker.within = {shapeAround({{0, 0}, {6, 10}}, {PlainShapeKind::box, 0})};
    CHECK(areaOf(printed(brought, 0, sticker)) == Approx(25));
}

TEST_CASE("channels have names, and are inks or masks") {
    const std::string names = resource(1006, std::string("\5White\7Alpha 1", 14)),
                      kinds =
                          resource(1007, std::string(12, '\0') + "\2" + std::string(13, '\0') + "\1" + '\0');
    const auto channels = channelsIn(resource(1005, "abc") + names + kinds);
    REQUIRE(channels.size() == 2);
    CHECK(channels[0].name == "White");
    CHECK(channels[0].isInk);
    CHECK(channels[1].name == "Alpha 1");
    CHECK_FALSE(channels[1].isInk);
    CHECK(channelsIn(names).back().isInk); // not said
    for (std::size_t length = 0; length < names.size(); ++length)
        CHECK(channelsIn(names.substr(0, length)).size() <= 2); // cut off anywhere
    CHECK(channelsIn("anything else").empty());
}

TEST_CASE("spot plates come through the memory that processes share") {
    Picture picture;
    picture.pixels = Grid<Rgba>(100, 50);
    picture.spotPlates = {{"White", plate(255)}, {"", plate(7)}};
    picture.fine = FineColours(4, 16, 100, 50, FineCell{1000, 2000, 3000, 65'535});
    std::vector<std::byte> room;
    REQUIRE(putShared(picture, [&](std::span<const std::byte> bytes) {
        room.insert(room.end(), bytes.begin(), bytes.end());
        return true;
    }));
    const auto takenFrom = [](std::span<const std::byte> all) {
        return takeShared("picture", [&](std::span<std::byte> to) {
            if (to.size() > all.size())
                return false;
            std::ranges::copy(all.first(to.size()), to.begin());
            all = all.subspan(to.size());
            return true;
        });
    };
    const Picture taken = takenFrom(room);
    REQUIRE(taken.fine);
    CHECK(taken.fine->at(99, 49) == FineCell{1000, 2000, 3000, 65'535});
    REQUIRE(taken.spotPlates.size() == 2);
    CHECK(taken.spotPlates[0].name == "White");
    CHECK(std::ranges::equal(taken.spotPlates[0].amounts.cells(), plate(255).cells()));
    CHECK(taken.spotPlates[1].name.empty());
    CHECK_THROWS_AS(takenFrom(std::span(room).first(room.size() - 1)), InputError);
    room.push_back({});
    CHECK_THROWS_AS(takenFrom(room), InputError);
    CHECK_FALSE(putShared(picture, [](auto) { return false; }));
}
