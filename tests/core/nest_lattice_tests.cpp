// Layouts of many copies that nesting begins with: lattices, and courses that need not be like each other.
#include "nesting/first/rows.h"
#include "nesting/lattice/courses.h"
#include "nesting/lattice/lattice.h"
#include "nesting/layout/sound.h"
#include "support/nest_setting.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::nesting;
using namespace hasami::test;

namespace {

constexpr double pi = std::numbers::pi;

constexpr int shapes = test::rounds(4, 1);

Problem onRoll(double width, double gap, Part part) {
    return {{width, {}}, 0, gap, {std::move(part)}};
}

/// What is offered, all of it sound.
std::vector<Start> found(const Setting& setting, const std::function<bool()>& isOver) {
    std::vector<Start> starts;
    findLattices(setting.ground, rows(setting.ground), 1, isOver, [&](const Start& start) {
        CHECK(isSound(setting.ground, start.copies, start.spots));
        starts.push_back(start);
    });
    return starts;
}

std::vector<double> reaches(const Problem& problem) {
    const Setting setting(problem);
    std::vector<double> told;
    for (const Start& start : found(setting, [] { return false; }))
        told.push_back(reachOf(setting.ground, start.spots));
    return told;
}

} // namespace

TEST_CASE("a lattice of shapes whose sides lie flush is sound", "[long]") {
    Problem problem = onRoll(
        600, 2,
        partOf("bracket",
               {{0, 0}, {35, 0}, {35, 10.5}, {10.5, 10.5}, {10.5, 49}, {35, 49}, {35, 59.5}, {0, 59.5}}, 60));
    problem.margin = 5;
    const Setting setting(problem);
    const Start first = rows(setting.ground);
    const std::vector<Start> starts = found(setting, [] { return false; });
    REQUIRE(starts.size() == 2);
    const double lattice = reachOf(setting.ground, starts[0].spots);
    CHECK(reachOf(setting.ground, starts[1].spots) <= lattice);
    // Where the time is over early it is the best of the few patterns tried.
    int asked = 0;
    const std::vector<Start> hasty = found(setting, [&] { return ++asked > 8; });
    REQUIRE(!hasty.empty());
    CHECK(lattice <= reachOf(setting.ground, hasty[0].spots));
    CHECK(reachOf(setting.ground, hasty[0].spots) < reachOf(setting.ground, first.spots));
    CHECK(found(setting, [] { return true; }).empty());
}

TEST_CASE("courses of two kinds fill what one kind would leave over") {
    // Two bars of 40 mm across take 10 mm of a roll of 100 mm, ten bars along it 40 mm: 24 bars take 120 mm
    // of either kind, and 100 mm of both.
    Part bar = partOf("bar", {{0, 0}, {40, 0}, {40, 10}, {0, 10}}, 24);
    bar.rotations = {{0, pi / 2, pi, -pi / 2}};
    const std::vector<double> bars = reaches(onRoll(100, 0, bar));
    REQUIRE(bars.size() == 2);
    CHECK(bars[1] == Approx(100).margin(0.05));
    CHECK(bars[0] > bars[1] + 1);
    // Along a roll as well: 30 mm wide, beside one bar across, or three along, nothing else has room.
    Part bit = partOf("bit", {{0, 0}, {20, 0}, {20, 10}, {0, 10}}, 30);
    bit.rotations = {{0, pi / 2}};
    const std::vector<double> bits = reaches(onRoll(30, 0, bit));
    REQUIRE(bits.size() == 2);
    CHECK(bits[1] == Approx(200).margin(0.1)); // 30 · 200 / 30: no place is left
}

TEST_CASE("courses of shapes that turn freely are sound, and never worse than the lattice") {
    std::mt19937 random(21);
    for (int i = 0; i < shapes; ++i) {
        const Loop outline = i % 2 ? starOf(14 + i, 4 + i, 0.5) : randomBlob(random, {0, 0}, 15 + 3 * i);
        const std::vector<double> told =
            reaches(onRoll(120 + 40 * i, 1, partOf("shape", outline, 9 + 8 * i)));
        REQUIRE(told.size() == 2);
        CHECK(told[1] <= told[0] + 1e-9);
    }
}

TEST_CASE("courses turn parts only as they may be, though half a turn more may not be among that") {
    for (const double odd : {pi / 2, -pi / 2}) {
        Part part = partOf("wedge", {{0, 0}, {30, 0}, {30, 8}, {0, 14}}, 40);
        part.rotations = {{0, odd, pi}};
        const Problem problem = onRoll(130, 1, part);
        const Setting setting(problem);
        const std::vector<Start> starts = found(setting, [] { return false; });
        CHECK(starts.size() == 2);
        for (const Start& start : starts)
            for (const Spot& spot : start.spots.at)
                CHECK(mayTurn(setting.items.front(), spot.pose.rotation));
    }
}

TEST_CASE(
    "courses tell nothing that reaches as far as the bound, or where it is over; thousands of copies do") {
    Part part = partOf("square", {{0, 0}, {10, 0}, {10, 10}, {0, 10}}, 3000);
    part.rotations = {{0.0}};
    const Problem problem = onRoll(300, 0, part);
    const Setting setting(problem);
    const nesting::Item& square = setting.items.front();
    const auto told = [&](double bound, bool isOver) {
        return bestCourses(square, square.shapes.front(), setting.ground, 3000, {}, bound,
                           [&] { return isOver; });
    };
    const Yield free = told(1e300, false);
    REQUIRE(free.poses.size() == 3000);
    CHECK(free.length == Approx(1000).margin(0.5)); // 30 side by side
    CHECK(told(990, false).poses.empty());
    CHECK(told(1e300, true).poses.empty());
}
