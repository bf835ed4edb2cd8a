#include "base/error.h"
#include "nesting/shape/outline.h"
#include "nesting/shape/side_grid.h"
#include "support/nest_setting.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <algorithm>
#include <set>

using namespace hasami;
using namespace hasami::nesting;
using namespace hasami::test;

namespace {

constexpr double pi = std::numbers::pi;

const Loop square{{0, 0}, {10, 0}, {10, 10}, {0, 10}};

Loop backwards(Loop loop) {
    std::reverse(loop.begin(), loop.end());
    return loop;
}

Loop moved(Loop loop, Point by) {
    for (Point& p : loop)
        p = p + by;
    return loop;
}

/// Whether both run through the same points the same way, wherever they begin.
bool isSameRound(Loop one, const Loop& other) {
    if (one.size() != other.size() || one.empty())
        return false;
    const auto first = std::min_element(one.begin(), one.end(), [&](Point a, Point b) {
        return distance(a, other.front()) < distance(b, other.front());
    });
    std::rotate(one.begin(), first, one.end());
    return std::equal(one.begin(), one.end(), other.begin(),
                      [](Point a, Point b) { return distance(a, b) < 1e-9; });
}

std::string refusal(const Loop& loop) {
    try {
        cleaned(loop, false, "outline");
    } catch (const InputError& error) {
        return error.what();
    }
    return "";
}

} // namespace

TEST_CASE("points that say nothing are left out of an outline, whichever way it runs") {
    std::mt19937 random(5);
    for (int round = 0; round < 200; ++round) {
        // No three of a star's points lie on a line.
        const Loop star = moved(starOf(5 + round % 40, 3 + round % 9, 0.55), {round * 3.0, 7});
        const Loop idle = withIdlePoints(star, random);
        CHECK(isSameRound(cleaned(idle, false, "outline"), star));
        CHECK(isSameRound(cleaned(backwards(idle), false, "outline"), star));
        CHECK(isSameRound(cleaned(idle, true, "hole"), backwards(star)));
    }
}

TEST_CASE("outlines that are no area's rim are refused by what is wrong with them") {
    CHECK(refusal({{0, 0}, {10, 10}, {10, 0}, {0, 10}}) == "outline crosses itself");
    CHECK(refusal({{0, 0}, {10, 0}, {20, 0}}) == "outline has no area");
    CHECK(refusal({{3, 3}, {3, 3}, {3, 3}, {3, 3}}) == "outline has no area");
    CHECK(refusal({{0, 0}, {10, 0}, {10, 10}, {10, 20}, {10, 10}, {0, 10}}) ==
          "outline has a spike of no width");
    Loop twice = square;
    twice.insert(twice.end(), square.begin(), square.end());
    CHECK(refusal(twice) == "outline crosses itself");
    CHECK(refusal(square).empty());
}

TEST_CASE("sides that touch don't cross, sides that go through each other do") {
    CHECK_FALSE(sidesCross({square, moved(square, {10, 0})}));
    CHECK_FALSE(sidesCross({square, moved(square, {10, 10})}));
    CHECK_FALSE(sidesCross({square, moved(square, {30, 0})}));
    CHECK(sidesCross({square, moved(square, {9.999, 3})}));
    std::mt19937 random(9);
    std::uniform_real_distribution<double> anywhere(-15, 15);
    int crossing = 0;
    for (int round = 0; round < 300; ++round) {
        const Loop one = moved(starOf(12, 5, 0.4), {anywhere(random), anywhere(random)});
        const Loop other = moved(starOf(9, 4, 0.6), {anywhere(random), anywhere(random)});
        bool isExpected = false;
        for (std::size_t i = 0; i < one.size(); ++i)
            for (std::size_t j = 0; j < other.size(); ++j)
                isExpected = isExpected || segmentsCross(one[i], one[(i + 1) % one.size()], other[j],
                                                         other[(j + 1) % other.size()]);
        CHECK(sidesCross({one, other}) == isExpected);
        crossing += isExpected ? 1 : 0;
    }
    CHECK(crossing > 50);
    CHECK(crossing < 280);
}

TEST_CASE("a hull runs round all points, turns one way only and has no corner but theirs") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> anywhere(-50, 50);
    for (int round = 0; round < 100; ++round) {
        std::vector<Loop> loops(1 + round % 3);
        Loop all;
        for (Loop& loop : loops)
            for (int i = 0; i < 3 + round % 17; ++i) {
                loop.push_back({anywhere(random), anywhere(random)});
                all.push_back(loop.back());
            }
        const Loop hull = hullOf(loops);
        REQUIRE(hull.size() >= 3);
        CHECK(signedArea(hull) > 0);
        for (std::size_t i = 0; i < hull.size(); ++i) {
            CHECK(std::find(all.begin(), all.end(), hull[i]) != all.end());
            const Point a = hull[i], b = hull[(i + 1) % hull.size()];
            for (const Point p : all)
                CHECK(cross(b - a, p - a) >= -1e-9);
        }
    }
    CHECK(isSameRound(hullOf({square, moved(square, {20, 0})}), {{0, 0}, {30, 0}, {30, 10}, {0, 10}}));
}

TEST_CASE("a grown area is Steiner's: its own, its rim by the distance, and the corners' arcs") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> distances(0.1, 4);
    for (int round = 0; round < 40; ++round) {
        const Loop around = hullOf({randomBlob(random, {0, 0}, 8 + round)});
        const double by = distances(random),
                     exact = signedArea(around) + perimeter(around) * by + pi * by * by;
        const std::vector<Loop> more = grown({around}, by);
        REQUIRE(more.size() == 1);
        // Never less than is asked for by more than a micrometre, nor more.
        CHECK(signedArea(more.front()) == Approx(exact).margin(0.002 * (perimeter(around) + 2 * pi * by)));
        for (const Point p : more.front())
            CHECK(distanceToLoop(p, around) == Approx(by).margin(0.002));
    }
}

TEST_CASE("an opening closes as its part grows, and opens as it shrinks") {
    const std::vector<Loop> ring{moved(square, {0, 0}), backwards({{4, 4}, {6, 4}, {6, 6}, {4, 6}})};
    const std::vector<Loop> more = grown(ring, 0.5);
    REQUIRE(more.size() == 2);
    double whole = 0;
    for (const Loop& loop : more)
        whole += signedArea(loop);
    CHECK(whole == Approx(100 + 40 * 0.5 + pi * 0.25 - 1).margin(0.05));
    CHECK(grown(ring, 1.01).size() == 1);
    double less = 0;
    for (const Loop& loop : grown(ring, -0.5))
        less += signedArea(loop);
    CHECK(less == Approx(81 - 9));
}

TEST_CASE("moved corners carry their sides along, and no tip goes farther than half as much again") {
    const std::vector<Loop> out = cornersMoved({square}, 2);
    CHECK(isSameRound(out.front(), {{-2, -2}, {12, -2}, {12, 12}, {-2, 12}}));
    CHECK(isSameRound(cornersMoved({square}, -3).front(), {{3, 3}, {7, 3}, {7, 7}, {3, 7}}));
    CHECK(isSameRound(cornersMoved({backwards(square)}, 3).front(),
                      backwards({{3, 3}, {7, 3}, {7, 7}, {3, 7}})));
    for (const double waist : {0.2, 0.5, 0.8})
        for (const double by : {-0.4, 0.3, 1.0}) {
            const Loop star = starOf(10, 6, waist);
            const Loop now = cornersMoved({star}, by).front();
            REQUIRE(now.size() == star.size());
            for (std::size_t i = 0; i < star.size(); ++i) {
                CHECK(distance(now[i], star[i]) <= 1.5 * std::abs(by) + 1e-9);
                CHECK(distance(now[i], star[i]) >= std::abs(by) - 1e-9);
            }
        }
}

TEST_CASE("an area that is told by fewer points is never less, and little more") {
    std::mt19937 random(21);
    for (int round = 0; round < 30; ++round) {
        const Loop blob = randomBlob(random, {5, -3}, 10 + round);
        const std::vector<Loop> fewer = simplifiedOutward({blob}, {40, 0.02, 0.5});
        REQUIRE(fewer.size() == 1);
        CHECK(fewer.front().size() <= 40);
        CHECK(signedArea(fewer.front()) >= signedArea(blob) - 1e-6);
        CHECK(signedArea(fewer.front()) <= signedArea(blob) * 1.21);
        for (const Point p : blob)
            CHECK((contains(fewer.front(), p) || distanceToLoop(p, fewer.front()) < 1e-6));
    }
}

TEST_CASE("a grid of sides finds each that a segment meets, also outside of it, along it and at their ends") {
    std::mt19937 random(23);
    std::uniform_real_distribution<double> inside(0, 40), outside(-60, 100), small(-1, 1);
    for (int round = 0; round < 60; ++round) {
        std::vector<std::pair<Point, Point>> sides;
        double whole = 0;
        for (int i = 0; i < 5 + round * 4; ++i) {
            const Point a =
                i % 5 == 4 ? Point{outside(random), outside(random)} : Point{inside(random), inside(random)};
            Point b = a + Point{small(random), small(random)};
            if (i % 7 == 0)
                b = {inside(random), inside(random)};
            if (i % 11 == 0)
                b.y = a.y;
            if (i % 13 == 0)
                b.x = a.x;
            sides.emplace_back(a, b);
            whole += distance(a, b);
        }
        SideGrid grid({{0, 0}, {40, 40}}, sides.size(), whole);
        for (std::size_t i = 0; i < sides.size(); ++i)
            grid.add(sides[i].first, sides[i].second, std::uint32_t(i));
        for (int k = 0; k < 40; ++k) {
            const auto& other = sides[random() % sides.size()];
            const Point a = k % 4 == 0 ? other.first : Point{outside(random), outside(random)};
            const Point b = k % 4 == 1 ? other.second : Point{outside(random), outside(random)};
            std::set<std::uint32_t> found;
            CHECK_FALSE(grid.any(a, b, [&](std::uint32_t side) {
                found.insert(side);
                return false;
            }));
            for (std::size_t i = 0; i < sides.size(); ++i) {
                const auto [c, d] = sides[i];
                const bool isMet = segmentsCross(a, b, c, d) || c == a || d == a || c == b || d == b;
                CHECK((!isMet || found.count(std::uint32_t(i)) == 1));
            }
        }
    }
}

TEST_CASE("of a grid, what is not near is not asked for, and asking ends with the first that is met") {
    SideGrid grid({{0, 0}, {100, 100}}, 400, 2000);
    for (std::uint32_t i = 0; i < 400; ++i) {
        const Point a{double(i % 20) * 5, double(i / 20) * 5};
        grid.add(a, a + Point{3, 3}, i);
    }
    int asked = 0;
    CHECK_FALSE(grid.any({51, 51}, {53, 53}, [&](std::uint32_t) {
        ++asked;
        return false;
    }));
    CHECK(asked >= 1);
    CHECK(asked < 20);
    asked = 0;
    CHECK(grid.any({0, 0}, {100, 100}, [&](std::uint32_t) { return ++asked == 3; }));
    CHECK(asked == 3);
}
