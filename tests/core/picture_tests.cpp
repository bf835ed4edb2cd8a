#include "artwork/colour_text.h"
#include "artwork/picture.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Each pixel unlike all others.
Picture numbered(int width, int height) {
    Picture picture;
    picture.pixels = Grid<Rgba>(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            picture.pixels.at(x, y) = {std::uint8_t(x), std::uint8_t(y), std::uint8_t(x * y), 255};
    return picture;
}

Picture upright(Picture picture, int orientation) {
    turnUpright(picture, orientation);
    return picture;
}

bool areAlike(const Picture& one, const Picture& other) {
    return one.pixels.width() == other.pixels.width() && one.pixels.height() == other.pixels.height() &&
           std::equal(one.pixels.cells().begin(), one.pixels.cells().end(), other.pixels.cells().begin());
}

} // namespace

TEST_CASE("a colour's text gives the colour back, in either case") {
    std::mt19937 random(51);
    for (int i = 0; i < 500; ++i) {
        const Rgba colour{std::uint8_t(random()), std::uint8_t(random()), std::uint8_t(random()), 255};
        std::string text = colourText(colour);
        REQUIRE(text.size() == 7);
        CHECK(parseColour(text) == colour);
        for (char& c : text)
            c = char(std::tolower(c));
        CHECK(parseColour(text) == colour);
    }
    CHECK(colourText({0, 127, 255, 3}) == "#007FFF");
}

TEST_CASE("what is no colour's text is not taken for one") {
    for (const char* text : {"", "#", "#12345", "#1234567", "123456", "#12345g", "#+12345", "#-12345",
                             "# 12345", "#0x1234", "red"})
        CHECK_FALSE(parseColour(text));
}

TEST_CASE("a picture of more pixels than a number holds is refused as too large") {
    const char* tooLarge = faultOfSize(10'001, 10'000);
    REQUIRE(tooLarge);
    CHECK(faultOfSize(10'000, 10'000) == nullptr);
    CHECK(faultOfSize(2'880'131'413, 4'278'190'590) == tooLarge); // of a damaged TIFF
    CHECK(faultOfSize(2, 4'294'967'295) == tooLarge);
    CHECK(faultOfSize(3, 10) != tooLarge);
    CHECK(faultOfSize(3, 10) != nullptr);
}

TEST_CASE("a picture is turned upright as its map says, whatever its orientation") {
    const Picture stored = numbered(7, 4);
    for (int orientation = 1; orientation <= 8; ++orientation) {
        const Picture seen = upright(stored, orientation);
        const bool isTurned = orientation >= 5;
        REQUIRE(seen.pixels.width() == (isTurned ? 4 : 7));
        REQUIRE(seen.pixels.height() == (isTurned ? 7 : 4));
        const Affine map = orientationMap(orientation);
        CHECK(std::abs(map.determinant()) == 1);
        for (int y = 0; y < 4; ++y)
            for (int x = 0; x < 7; ++x) {
                const Point at = map({(x + 0.5) / 7, (y + 0.5) / 4});
                CHECK(seen.pixels.at(int(at.x * seen.pixels.width()), int(at.y * seen.pixels.height())) ==
                      stored.pixels.at(x, y));
            }
    }
}

TEST_CASE("orientations are what EXIF says: the corner that was first ends where it names") {
    const Picture stored = numbered(5, 3);
    const Rgba first = stored.pixels.at(0, 0), next = stored.pixels.at(1, 0);
    struct Expected {
        int orientation, x, y, nextX, nextY;
    };
    for (const Expected& e : {Expected{1, 0, 0, 1, 0},
                              {2, 4, 0, 3, 0},
                              {3, 4, 2, 3, 2},
                              {4, 0, 2, 1, 2},
                              {5, 0, 0, 0, 1},
                              {6, 2, 0, 2, 1},
                              {7, 2, 4, 2, 3},
                              {8, 0, 4, 0, 3}}) {
        const Picture seen = upright(stored, e.orientation);
        CHECK(seen.pixels.at(e.x, e.y) == first);
        CHECK(seen.pixels.at(e.nextX, e.nextY) == next);
    }
}

TEST_CASE("turning four times, or mirroring twice, gives the picture back") {
    const Picture stored = numbered(6, 5);
    Picture turned = stored;
    for (int i = 0; i < 4; ++i) {
        turned = upright(turned, 6);
        CHECK(areAlike(turned, stored) == (i == 3));
    }
    for (const int mirroring : {2, 4, 5, 7})
        CHECK(areAlike(upright(upright(stored, mirroring), mirroring), stored));
    CHECK(areAlike(upright(upright(stored, 6), 8), stored));
    CHECK(areAlike(upright(stored, 0), stored)); // no orientation
}

TEST_CASE("a part of a picture holds its pixels, and the coverage is each pixel's own") {
    Picture picture = numbered(9, 8);
    picture.pixels.at(4, 3).coverage = 17;
    picture.hasCoverage = true;
    const Picture part = partOf(picture, {2, 1, 5, 6});
    REQUIRE(part.pixels.width() == 5);
    REQUIRE(part.pixels.height() == 6);
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 5; ++x)
            CHECK(part.pixels.at(x, y) == picture.pixels.at(x + 2, y + 1));
    const Grid<std::uint8_t> coverage = coverageOf(part);
    CHECK(coverage.at(2, 2) == 17);
    CHECK(coverage.at(0, 0) == 255);
}

TEST_CASE("fine colours are shown as the nearest of eight bits") {
    FineColours grey(1, 16, 3, 1);
    grey.set(1, 0, {32'896, 0, 0, 0}); // 128 of 255
    grey.set(2, 0, {65'535, 0, 0, 0});
    CHECK(grey.samples().size() == 6);
    CHECK(grey.shown(0) == Rgba{0, 0, 0, 255});
    CHECK(grey.shown(1) == Rgba{128, 128, 128, 255});
    CHECK(grey.shown(2) == Rgba{255, 255, 255, 255});
    FineColours inks(4, 8, 3, 1);
    inks.set(1, 0, {255, 0, 0, 0});    // cyan takes the red
    inks.set(2, 0, {10, 20, 30, 255}); // black takes all
    CHECK(inks.samples().size() == 12);
    CHECK(inks.shown(0) == Rgba{255, 255, 255, 255}); // the paper
    CHECK(inks.shown(1) == Rgba{0, 255, 255, 255});
    CHECK(inks.shown(2) == Rgba{0, 0, 0, 255});
}
