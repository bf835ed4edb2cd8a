#include "geometry/region_operations.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

Loop boxLoop(double left, double top, double right, double bottom) {
    return {{left, top}, {right, top}, {right, bottom}, {left, bottom}};
}

Loop opening(Loop loop) {
    std::reverse(loop.begin(), loop.end());
    return loop;
}

/// A blob with an opening of the same kind in its middle.
Region randomRing(std::mt19937& random, Point centre, double radius) {
    return {{randomBlob(random, centre, radius), opening(randomBlob(random, centre, radius * 0.4))}};
}

/// By the even-odd rule over all its loops: for regions free of crossings, what they cover.
bool covers(const Region& region, Point p) {
    bool isInside = false;
    for (const Loop& loop : region.loops)
        isInside = isInside != contains(loop, p);
    return isInside;
}

double distanceToRim(const Region& region, Point p) {
    double least = std::numeric_limits<double>::infinity();
    for (const Loop& loop : region.loops)
        least = std::min(least, distanceToLoop(p, loop));
    return least;
}

} // namespace

TEST_CASE("what two areas cover together, and each alone, adds up to both") {
    std::mt19937 random(31);
    std::uniform_real_distribution<double> away(-25, 25);
    for (int round = 0; round < 60; ++round) {
        const Region a = randomRing(random, {0, 0}, 20);
        const Region b = randomRing(random, {away(random), away(random)}, 12);
        const std::vector<Region> both{a, b};
        const double common = area(intersection(a, b)), whole = area(unite(both));
        CHECK(whole + common == Approx(area(a) + area(b)).margin(0.01));
        CHECK(area(difference(a, b)) + common == Approx(area(a)).margin(0.01));
        CHECK(area(uniteSimple(both)) == Approx(whole).margin(0.01));
        CHECK(area(differenceSimple(b, a)) == Approx(area(b) - common).margin(0.01));
        CHECK(area(intersection(b, a)) == Approx(common).margin(0.01));
    }
}

TEST_CASE("each place is covered as the operation says, off the rims by more than the grid") {
    std::mt19937 random(32);
    std::uniform_real_distribution<double> anywhere(-30, 30), away(-15, 15);
    for (int round = 0; round < test::rounds(20, 6); ++round) {
        const Region a = randomRing(random, {0, 0}, 18);
        const Region b = randomRing(random, {away(random), away(random)}, 15);
        const std::vector<Region> both{a, b};
        const Region together = unite(both), common = intersection(a, b), left = difference(a, b);
        for (int i = 0; i < 200; ++i) {
            const Point p{anywhere(random), anywhere(random)};
            if (distanceToRim(a, p) < 1e-3 || distanceToRim(b, p) < 1e-3)
                continue;
            const bool inA = covers(a, p), inB = covers(b, p);
            CHECK(covers(together, p) == (inA || inB));
            CHECK(covers(common, p) == (inA && inB));
            CHECK(covers(left, p) == (inA && !inB));
        }
    }
}

TEST_CASE("areas that only touch have nothing in common and are one together") {
    const Region left{{boxLoop(0, 0, 10, 10)}}, right{{boxLoop(10, 0, 20, 10)}};
    CHECK(area(intersection(left, right)) == 0);
    const Region together = unite(std::vector<Region>{left, right});
    REQUIRE(together.loops.size() == 1);
    CHECK(area(together) == Approx(200));
    CHECK(area(difference(left, right)) == Approx(100));
    CHECK(intersection(left, {}).isEmpty());
    CHECK(area(difference(left, {})) == Approx(100));
    CHECK(difference({}, left).isEmpty());
}

TEST_CASE("loops that cross enclose by their rule") {
    // A five-pointed star drawn in one go: its middle is wound round twice.
    Loop star;
    for (int i = 0; i < 5; ++i)
        star.push_back(Point{std::cos(i * 4 * std::numbers::pi / 5), std::sin(i * 4 * std::numbers::pi / 5)} *
                       10);
    const double inner = 10 * std::cos(2 * std::numbers::pi / 5) / std::cos(std::numbers::pi / 5);
    const double pentagon = 2.5 * inner * inner * std::sin(2 * std::numbers::pi / 5);
    const double tips =
        5 * inner * std::sin(std::numbers::pi / 5) * (10 - inner * std::cos(std::numbers::pi / 5));
    CHECK(area(enclosed({{star}}, FillRule::nonZero)) == Approx(pentagon + tips).epsilon(1e-5));
    CHECK(area(enclosed({{star}}, FillRule::evenOdd)) == Approx(tips).epsilon(1e-5));
    // Two squares, one in the other, both the same way: an opening by one rule alone.
    const Region nested{{boxLoop(0, 0, 10, 10), boxLoop(3, 3, 7, 7)}};
    CHECK(area(enclosed(nested, FillRule::nonZero)) == Approx(100));
    CHECK(area(enclosed(nested, FillRule::evenOdd)) == Approx(84));
}

TEST_CASE("a thinned area has fewer points, and none that is left out lies far from it") {
    std::mt19937 random(33);
    for (const double tolerance : {0.01, 0.05, 0.2}) {
        const Region ring = randomRing(random, {3, 4}, 30);
        const Region thin = thinned(ring, tolerance);
        REQUIRE(thin.loops.size() == 2);
        std::size_t before = 0, after = 0;
        for (std::size_t k = 0; k < 2; ++k) {
            before += ring.loops[k].size();
            after += thin.loops[k].size();
            CHECK(farthestFrom(ring.loops[k], thin.loops[k]) <= tolerance + 1e-4); // of the grid
            for (const Point p : thin.loops[k]) // they are points of the ring
                CHECK(std::any_of(ring.loops[k].begin(), ring.loops[k].end(),
                                  [&](Point q) { return distance(p, q) < 1e-4; }));
        }
        CHECK(after < before / 2);
        CHECK(area(thin) == Approx(area(ring)).margin(tolerance * 300));
    }
}

TEST_CASE("offsets add up on convex areas, and inward ones undo them") {
    std::mt19937 random(34);
    for (int round = 0; round < 10; ++round) {
        const Region blob = offset({{boxLoop(0, 0, 10 + round, 20)}}, 1);
        const double once = area(offset(blob, 3));
        CHECK(area(offset(offset(blob, 1), 2)) == Approx(once).margin(0.5));
        CHECK(area(offset(offset(blob, 3), -3)) == Approx(area(blob)).margin(0.5));
        CHECK(area(offset(offset(blob, -0.5), 0.5)) == Approx(area(blob)).margin(0.5));
    }
}

TEST_CASE("an offset far from the origin is as exact as one near to it") {
    const Region near{{boxLoop(0, 0, 30, 20)}};
    const Region far{{boxLoop(20'000, 15'000, 20'030, 15'020)}};
    CHECK(area(offset(far, 2.5)) == Approx(area(offset(near, 2.5))).margin(1e-3));
    CHECK(bounds(offset(far, 2.5)).least.x == Approx(19'997.5).margin(0.006));
    CHECK(bounds(offset(far, -2.5)).width() == Approx(25).margin(1e-3));
}

TEST_CASE("a simple area that is grown is what its offset is") {
    std::mt19937 random(35);
    for (int round = 0; round < 40; ++round) {
        const Region ring = randomRing(random, {5, 9}, 12 + round);
        const double by = 0.1 + round * 0.2;
        const Region grown = grownSimple(ring, by), expected = offset(ring, by);
        CHECK(grown.loops.size() == expected.loops.size());
        CHECK(area(grown) == Approx(area(expected)).margin(0.01));
        CHECK(area(difference(grown, expected)) < 0.01);
        CHECK(area(difference(expected, grown)) < 0.01);
    }
}

TEST_CASE("thin tips, needles and necks have their distance when grown, thinner than the grid as well") {
    std::mt19937 random(36);
    std::uniform_real_distribution<double> turns(0, 2 * std::numbers::pi), magnitudes(-9, -2);
    for (int round = 0; round < 200; ++round) {
        const double thin = std::pow(10, magnitudes(random)), by = 0.5 + round % 7;
        const double c = std::cos(turns(random)), s = std::sqrt(1 - c * c);
        const auto turned = [&](Loop loop) {
            for (Point& p : loop)
                p = {c * p.x - s * p.y, s * p.x + c * p.y};
            return loop;
        };
        // A box with a spike; a needle; two boxes with a neck between.
        const Loop spiked =
            turned({{0, 0}, {20, 0}, {20, 5}, {45, 5 + thin / 2}, {20, 5 + thin}, {20, 12}, {0, 12}});
        const Loop needle = turned({{0, 0}, {60, thin}, {60, 0}});
        const Loop necked = turned({{0, 0},
                                    {10, 0},
                                    {10, 5},
                                    {30, 5},
                                    {30, 0},
                                    {40, 0},
                                    {40, 10},
                                    {30, 10},
                                    {30, 5 + thin},
                                    {10, 5 + thin},
                                    {10, 10},
                                    {0, 10}});
        for (const Loop& loop : {spiked, needle, necked}) {
            const Region grown = grownSimple({{loop}}, by);
            REQUIRE(!grown.isEmpty());
            for (std::size_t i = 0; i < loop.size(); ++i)
                for (int k = 0; k < 8; ++k) {
                    const Point p = between(loop[i], loop[(i + 1) % loop.size()], k / 8.0);
                    CHECK(covers(grown, p));
                    CHECK(distanceToRim(grown, p) >= by - 0.012); // arcs are of chords
                }
        }
    }
}
