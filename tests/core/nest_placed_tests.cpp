// Whether placed shapes touch: found from few of their sides, and by those that crossed before.
#include "nesting/shape/placed.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace hasami;
using namespace hasami::nesting;

namespace {

std::vector<std::pair<Point, Point>> sidesOf(const Placed& placed) {
    std::vector<std::pair<Point, Point>> sides;
    placed.eachSide([&](Point a, Point b) { sides.emplace_back(a, b); });
    return sides;
}

bool doCross(Point a, Point b, Point c, Point e) {
    const auto turn = [](Point from, Point to, Point p) {
        return (to.x - from.x) * (p.y - from.y) - (to.y - from.y) * (p.x - from.x);
    };
    const auto meet = [](double a, double b, double c, double d) {
        return std::max(std::min(a, b), std::min(c, d)) <= std::min(std::max(a, b), std::max(c, d));
    };
    return meet(a.x, b.x, c.x, e.x) && meet(a.y, b.y, c.y, e.y) && turn(a, b, c) * turn(a, b, e) <= 0 &&
           turn(c, e, a) * turn(c, e, b) <= 0;
}

/// Each side of the one with each of the other, and whether one holds the other.
bool touchPlainly(const Placed& one, const Placed& other) {
    const auto own = sidesOf(one), others = sidesOf(other);
    for (const auto& [a, b] : own)
        for (const auto& [c, e] : others)
            if (doCross(a, b, c, e))
                return true;
    return one.contains(others.front().first) || other.contains(own.front().first);
}

Loop rectangleOf(double width, double height) {
    return {{0, 0}, {width, 0}, {width, height}, {0, height}};
}

} // namespace

TEST_CASE("shapes touch where any side crosses any other's, or one holds the other") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> place(-14, 14), turn(-std::numbers::pi, std::numbers::pi);
    int touching = 0, apart = 0;
    for (int i = 0; i < test::rounds(40, 20); ++i) {
        Placed one({test::randomBlob(random, {0, 0}, 10)}, {}),
            other({test::randomBlob(random, {0, 0}, 3 + i % 8)}, {});
        one.place({0, 0, turn(random), false});
        Placed::Hint hint;
        for (int step = 0; step < 20; ++step) {
            other.place({place(random), place(random), turn(random), false});
            const bool touches = touchPlainly(one, other);
            CHECK(one.touches(other, hint) == touches);
            CHECK(other.touches(one) == touches);
            ++(touches ? touching : apart);
        }
    }
    CHECK(touching > test::rounds(50, 20));
    CHECK(apart > test::rounds(50, 20));
}

TEST_CASE("sides along each other touch, wherever the shapes lie") {
    std::mt19937 random(8);
    for (int i = 0; i < test::rounds(400, 30); ++i) {
        const double size = 10 + double(random() % 1000) / 7, x = double(random() % 100'000) / 3,
                     y = double(random() % 100'000) / 7;
        Placed one({rectangleOf(size, size)}, {}), other({rectangleOf(size, size / 2)}, {});
        one.place({x, y, 0, false});
        other.place({x + size / 3, y, 0, false}); // inside as far as both go, one side along the other's
        CHECK(one.touches(other));
        CHECK(other.touches(one));
        other.place({x + size * 1.01, y, 0, false});
        CHECK(!one.touches(other));
    }
}

TEST_CASE("sides that crossed are told to cross for as long as they do, and of other shapes never wrongly") {
    Placed square({rectangleOf(10, 10)}, {}), bar({rectangleOf(20, 2)}, {});
    square.place({});
    bar.place({5, 4, 0, false});
    Placed::Hint hint;
    CHECK(!bar.touchesAt(square, hint)); // nothing known
    REQUIRE(bar.touches(square, hint));
    CHECK(bar.touchesAt(square, hint));
    bar.place({9, 5, 0, false});
    CHECK(bar.touchesAt(square, hint));
    bar.place({11, 5, 0, false});
    CHECK(!bar.touchesAt(square, hint));
    // Side 5 of a ring of two squares would lead from one loop to the other: there is none.
    Placed ring({rectangleOf(10, 10), {{3, 3}, {3, 7}, {7, 7}, {7, 3}}}, {});
    ring.place({});
    Placed dash({{{0, 1}, {6, 1}, {6, 2.5}, {0, 2.5}}}, {});
    dash.place({1, 0.1, 0, false});
    for (std::uint32_t own = 1; own < 5; ++own)
        CHECK(!dash.touchesAt(ring, {own, 5}));
    CHECK(!dash.touchesAt(ring, {1, 99}));
}
