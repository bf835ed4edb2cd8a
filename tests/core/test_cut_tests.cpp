#include "machine/test_cut.h"

#include <catch2/catch.hpp>

using namespace hasami;

TEST_CASE("a test cut is a row of drops in rings around the kiss cut's force") {
    Tool tool;
    tool.force = 200;
    const TestCut cut = testCutAt({50, 60}, tool);
    REQUIRE(cut.drops.size() == 5);
    CHECK(cut.drops[0].force == 140);
    CHECK(cut.drops[2].force == 200);
    CHECK(cut.drops[4].force == 260);
    Box all;
    for (const TestDrop& drop : cut.drops) {
        REQUIRE(drop.paths.size() == 2);
        for (const auto& path : drop.paths) {
            CHECK(distance(path.front(), path.back()) < 1e-9);
            for (const Point p : path)
                all.add(p);
        }
        // The drop lies inside its ring, clear of it.
        for (const Point p : drop.paths[0])
            CHECK(distance(p, drop.centre) < 4);
        for (const Point p : drop.paths[1])
            CHECK(distance(p, drop.centre) == Approx(5));
    }
    const Box room = testCutBox({50, 60});
    CHECK(room.holds(all));
    CHECK(testCutAt({0, 0}, {}).drops[2].force == TestCut::usualForce);
}

TEST_CASE("a test cut finds the free place farthest back, or none") {
    Sheet sheet;
    sheet.length = 200;
    const Box usable{{10, 5}, {190, 145}};
    const auto free = placeForTestCut(sheet, usable, {});
    REQUIRE(free);
    CHECK(usable.holds(testCutBox(*free)));
    CHECK(testCutBox(*free).most.x > 187);
    // Work takes the back; the row lies before it.
    const std::vector<Box> work{{{60, 0}, {200, 150}}};
    const auto before = placeForTestCut(sheet, usable, work);
    REQUIRE(before);
    CHECK_FALSE(testCutBox(*before).meets(work[0]));
    // Not in a mark's quiet zone.
    MarkScheme scheme;
    scheme.size = 6;
    scheme.quiet = 30;
    sheet.marks = {markAlone(1, {30, 75}, scheme)};
    const auto beside = placeForTestCut(sheet, usable, work);
    if (beside)
        CHECK(distance(*beside, {30, 75}) > 36);
    const std::vector<Box> full{{{0, 0}, {200, 150}}};
    CHECK_FALSE(placeForTestCut(sheet, usable, full));
}
