#include "machine/print_pixels.h"

#include <catch2/catch.hpp>

#include <cstdlib>
#include <random>

using namespace hasami;

namespace {

/// Colours that change smoothly, with black bars: as a print has them.
Rgb printedAt(int column, int row) {
    if (column % 400 < 12 || row % 500 < 9)
        return {0, 0, 0};
    return {std::uint8_t(column / 7 % 256), std::uint8_t(row / 9 % 256),
            std::uint8_t((column + row) / 13 % 256)};
}

} // namespace

TEST_CASE("a print's pixels are those that were set, and what is not printed takes no room") {
    PrintPixels pixels(1000, 700); // no whole tiles
    CHECK(pixels.at(999, 699) == Rgb{255, 255, 255});
    CHECK(pixels.bytes() < 20'000);
    pixels.setColumns(0, 640, printedAt);
    pixels.setColumns(640, 360, printedAt);
    for (int row = 0; row < 700; row += 3)
        for (int column = 0; column < 1000; column += 3)
            REQUIRE(pixels.at(column, row) == printedAt(column, row));
    pixels.set(999, 699, {1, 2, 3});
    CHECK(pixels.at(999, 699) == Rgb{1, 2, 3});
    CHECK(pixels.at(998, 699) == printedAt(998, 699));
    const PrintPixels copy = pixels;
    pixels.set(5, 400, {9, 9, 9});
    CHECK(copy.at(5, 400) == printedAt(5, 400));
    const PrintPixels part = copy.firstColumns(100);
    CHECK(part.width() == 100);
    CHECK(part.height() == 700);
    CHECK(part.at(99, 650) == printedAt(99, 650));
}

TEST_CASE("of a very large print light is kept as it is, and colour closely, in half the room") {
    PrintPixels pixels(20'000, 9'000);
    const auto grey = [](int column, int row) {
        const auto light = std::uint8_t((column * 31 + row * 17) % 256);
        return Rgb{light, light, light};
    };
    pixels.setColumns(0, 128, grey);
    pixels.setColumns(128, 128, printedAt);
    for (int row = 0; row < 9'000; row += 37)
        for (int column = 0; column < 128; ++column)
            REQUIRE(pixels.at(column, row) == grey(column, row));
    int worst = 0;
    for (int row = 16; row < 500; ++row) // beside the bars, where colours change slowly
        for (int column = 128; column < 256; ++column)
            for (std::size_t i = 0; i < 3; ++i)
                worst = std::max(worst, std::abs(pixels.at(column, row)[i] - printedAt(column, row)[i]));
    CHECK(worst <= 4);
    CHECK(pixels.bytes() < std::size_t(256) * 9'100 * 3 / 2 + 2'000'000);
}
