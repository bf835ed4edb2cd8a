#include "geometry/affine.h"
#include "geometry/curve.h"
#include "geometry/fit_curves.h"
#include "geometry/region_operations.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr double pi = std::numbers::pi;

Loop square(double left, double top, double side) {
    return {{left, top}, {left + side, top}, {left + side, top + side}, {left, top + side}};
}

Loop backwards(Loop loop) {
    std::reverse(loop.begin(), loop.end());
    return loop;
}

} // namespace

TEST_CASE("area is positive for a loop that runs clockwise on screen, and exact far from the origin") {
    CHECK(signedArea(square(0, 0, 2)) == 4);
    CHECK(signedArea(backwards(square(0, 0, 2))) == -4);
    CHECK(signedArea(square(20'000, 20'000, 0.001)) == Approx(1e-6).epsilon(1e-6));
    CHECK(perimeter(square(3, 4, 2)) == 8);
}

TEST_CASE("a loop cut to a box winds around what lies inside as before") {
    const Box box{{-3, -2}, {4, 5}};
    CHECK(cutTo(square(-1, -1, 2), box) == square(-1, -1, 2));
    CHECK(signedArea(cutTo(square(-100, -100, 200), box)) == Approx(49));
    CHECK(signedArea(cutTo(square(2, 3, 50), box)) == Approx(4));
    CHECK(signedArea(cutTo(square(10, 10, 5), box)) == 0);
    std::mt19937 random(7);
    std::uniform_real_distribution<double> anywhere(-12, 12), inX(-3, 4), inY(-2, 5);
    for (int i = 0; i < 200; ++i) {
        Loop loop; // crosses itself at will
        for (int k = 0; k < 9; ++k)
            loop.push_back({anywhere(random), anywhere(random)});
        const Loop cut = cutTo(loop, box);
        CHECK(box.grownBy(1e-9).holds(bounds(cut)));
        for (int k = 0; k < 20; ++k) {
            const Point p{inX(random), inY(random)};
            CHECK(contains(cut, p) == contains(loop, p));
        }
    }
}

TEST_CASE("maps do the inner one first, and turns go from x towards y") {
    const Affine turn = Affine::rotation(pi / 2);
    CHECK(turn({1, 0}).x == Approx(0).margin(1e-12));
    CHECK(turn({1, 0}).y == Approx(1));
    const Affine both = Affine::translation({10, 0}) * turn;
    CHECK(both({1, 0}).x == Approx(10));
    CHECK(both({1, 0}).y == Approx(1));
    CHECK(turn.determinant() == Approx(1));
}

TEST_CASE("a square moved out has round corners: its area is Steiner's formula") {
    const double side = 20, d = 3;
    const Region moved = offset({{square(5, 5, side)}}, d);
    REQUIRE(moved.loops.size() == 1);
    const double exact = side * side + 4 * side * d + pi * d * d;
    // Arcs may lie up to 5 µm inside: at most their length times that.
    CHECK(area(moved) <= exact + 1e-3);
    CHECK(area(moved) >= exact - 2 * pi * d * 0.006);
    CHECK(bounds(moved).least.x == Approx(2).margin(0.006));
}

TEST_CASE("moved in and out again, a square keeps its sides") {
    const Region in = offset({{square(0, 0, 20)}}, -4);
    CHECK(area(in) == Approx(144).margin(1e-3));
    CHECK(offset({{square(0, 0, 20)}}, -10.01).isEmpty());
}

TEST_CASE("an opening shrinks as its region is moved out, and closes") {
    const Region ring{{square(0, 0, 30), backwards(square(10, 10, 10))}};
    REQUIRE(area(ring) == 800);
    const Region moved = offset(ring, 2);
    REQUIRE(moved.loops.size() == 2);
    CHECK(area(moved) == Approx(900 + 4 * 30 * 2 + pi * 4 - 36).margin(0.1));
    CHECK(offset(ring, 5.01).loops.size() == 1);
    CHECK(withoutOpenings(ring).loops.size() == 1);
    CHECK(area(withoutOpenings(ring)) == Approx(900));
}

TEST_CASE("regions that overlap become one, an opening that another covers is filled") {
    const Region a{{square(0, 0, 10)}}, b{{square(5, 5, 10)}};
    const std::vector<Region> both{a, b};
    const Region united = unite(both);
    REQUIRE(united.loops.size() == 1);
    CHECK(area(united) == Approx(175));

    const Region ring{{square(0, 0, 30), backwards(square(10, 10, 10))}};
    const std::vector<Region> covered{ring, {{square(12, 12, 4)}}, {{square(9, 9, 5)}}};
    CHECK(area(unite(covered)) == Approx(800 + 25 - 9 + 16 - 4));
}

TEST_CASE("slivers go, and corners stay where they are") {
    const Region taken = differenceSimple({{square(0, 0, 20)}}, {{square(5, 0, 10)}});
    CHECK(area(taken) == Approx(300));
    // Two slits of 2 µm beside the square that is taken, and a needle of some 10 degrees.
    const Region left = differenceSimple({{square(0, 0, 20)}}, {{square(0.002, 0.002, 20)}});
    CHECK(!left.isEmpty());
    CHECK(withoutSlivers(left, 0.004).isEmpty());
    const Region needle{{{{0, 0}, {30, 0}, {0, 5}}}};
    const Region kept = withoutSlivers(needle, 0.004);
    REQUIRE(kept.loops.size() == 1);
    for (const Point p : needle.loops.front())
        CHECK(std::any_of(kept.loops.front().begin(), kept.loops.front().end(),
                          [&](Point q) { return distance(p, q) < 0.002; }));
}

TEST_CASE("what lies in an opening goes when the opening is closed") {
    const Region target{{square(0, 0, 30), backwards(square(5, 5, 20)), square(10, 10, 10)}};
    const Region closed = withoutOpenings(target);
    REQUIRE(closed.loops.size() == 1);
    CHECK(area(closed) == Approx(900));
}

TEST_CASE("an offset of random shapes lies at its distance, simple and free of crossings") {
    std::mt19937 random(7);
    for (int round = 0; round < test::rounds(12, 4); ++round) {
        const Loop blob = randomBlob(random, {50, 50}, 30);
        const double d = 0.5 + round * 0.4;
        const Region moved = offset({{blob}}, d);
        REQUIRE(moved.loops.size() == 1);
        const Loop& line = moved.loops.front();
        CHECK(isSimple(line));
        for (const Point p : line)
            REQUIRE(distanceToLoop(p, blob) == Approx(d).margin(0.006));
    }
}

TEST_CASE("flattening keeps within its tolerance and starts at the nodes") {
    const Curve curve{{0, 0}, {{{0, 30}, {40, 30}, {40, 0}, false}, straightSegment({40, 0}, {0, 0})}};
    for (const double tolerance : {0.1, 0.01, 0.001}) {
        const Loop loop = flatten(curve, tolerance);
        CHECK(loop.front() == Point{0, 0});
        for (int i = 0; i <= 1000; ++i)
            REQUIRE(distanceToLoop(pointAt({0, 0}, curve.segments[0], i / 1000.0), loop) <= tolerance);
    }
    CHECK(flatten(reversed(curve), 0.01).size() == flatten(curve, 0.01).size());
    CHECK(signedArea(flatten(reversed(curve), 0.01)) == Approx(-signedArea(flatten(curve, 0.01))));
}

TEST_CASE("a circle of many points becomes a smooth curve of a few") {
    Loop circle;
    for (int i = 0; i < 2000; ++i)
        circle.push_back(Point{std::cos(i * pi / 1000), std::sin(i * pi / 1000)} * 25);
    const Curve curve = fitCurve(circle, {0.01, 0, 0.05});
    CHECK(curve.points() <= 12);
    const Loop fitted = flatten(curve, 0.0005);
    for (const Point p : fitted)
        REQUIRE(length(p) == Approx(25).margin(0.0115));
    CHECK(signedArea(fitted) > 0);
}

TEST_CASE("a square keeps its corners exactly and its sides straight") {
    for (const double side : {1.0, 20.0, 500.0}) {
        const Curve curve = fitCurve(square(3, 4, side), {0.005, 0, 0.02});
        REQUIRE(curve.points() == 4);
        for (const CurveSegment& s : curve.segments)
            CHECK(s.straight);
        for (const Point corner : square(3, 4, side)) {
            const Loop nodes = flatten(curve, 0.001);
            CHECK(
                std::any_of(nodes.begin(), nodes.end(), [&](Point p) { return distance(p, corner) < 1e-6; }));
        }
    }
}

TEST_CASE("a fitted random shape lies within the tolerance both ways and joins smoothly") {
    std::mt19937 random(11);
    for (int round = 0; round < test::rounds(20, 6); ++round) {
        const Loop blob = randomBlob(random, {0, 0}, 20 + round);
        const Curve curve = fitCurve(blob, {0.01, 0, 0.02});
        const Loop fitted = flatten(curve, 0.0005);
        CHECK(farthestFrom(blob, fitted) <= 0.011);
        // Between points, the polygon itself lies some µm inside the shape it was taken from.
        CHECK(farthestFrom(fitted, blob) <= 0.02);
        CHECK(curve.points() < 80);
        for (std::size_t i = 0; i < curve.points(); ++i) {
            const CurveSegment& a = curve.segments[i];
            const CurveSegment& b = curve.segments[(i + 1) % curve.points()];
            const Point in = a.end - a.control2, out = b.control1 - a.end;
            REQUIRE(std::abs(std::atan2(cross(in, out), dot(in, out))) < 0.5 * pi / 180);
        }
    }
}

TEST_CASE("polygons without area or with repeated points do no harm") {
    CHECK(fitCurve(Loop{}, {}).segments.empty());
    CHECK(fitCurve(Loop{{1, 1}, {1, 1}, {1, 1}}, {}).segments.empty());
    CHECK(fitCurve(Loop{{0, 0}, {1, 0}}, {}).segments.empty());
    Loop doubled;
    for (const Point p : square(0, 0, 10)) {
        doubled.push_back(p);
        doubled.push_back(p);
    }
    CHECK(fitCurve(doubled, {}).points() == 4);
    CHECK(offset({}, 2).isEmpty());
    CHECK(unite({}).isEmpty());
    CHECK(offset({{{{0, 0}, {5, 0}}}}, -1).isEmpty());
}

TEST_CASE("sharp corners reach as far as their limit, flat ones end at the offset's distance") {
    const Region box{{{{0, 0}, {20, 0}, {20, 10}, {0, 10}}}};
    CHECK(area(offset(box, 2, {CornerForm::sharp, 4})) == Approx(24 * 14));
    CHECK(bounds(offset(box, 2, {CornerForm::sharp, 4})).least == Point{-2, -2});
    const double round = 24 * 14 - (4 - std::numbers::pi) * 4,
                 cut = area(offset(box, 2, {CornerForm::flat, 4}));
    CHECK(area(offset(box, 2)) == Approx(round).epsilon(1e-3));
    CHECK(cut > round);
    CHECK(cut < 24 * 14);
    // A tip of 36 degrees reaches 1 / sin 18 degrees = 3.24 offsets: a limit below that cuts it.
    const double half = 10 * std::tan(18 * std::numbers::pi / 180);
    const Region spike{{{{0, -half}, {10, 0}, {0, half}}}};
    CHECK(bounds(offset(spike, 1, {CornerForm::sharp, 4})).most.x == Approx(10 + 3.236).margin(0.001));
    CHECK(bounds(offset(spike, 1, {CornerForm::sharp, 2.5})).most.x < 10 + 2.5);
    const Loop corner = offset(box, 2, {CornerForm::flat, 4}).loops.front();
    double farthest = 0;
    for (const Point p : corner)
        farthest = std::max(farthest, distance(p, {10, 5}) - distance({20, 10}, {10, 5}));
    CHECK(farthest < 2.4);
}

TEST_CASE("a bridge joins parts that are close, and leaves bays and far parts alone") {
    const auto boxAt = [](double x, double y, double side) {
        return Loop{{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}};
    };
    // A bay of 1 mm in the first part, a gap of 1 mm to the second, one of 5 mm to the third.
    const Loop withBay{{0, 0}, {10, 0}, {10, 4}, {3, 4}, {3, 5}, {10, 5}, {10, 10}, {0, 10}};
    const Region region{{withBay, boxAt(0, 11, 10), boxAt(15, 0, 5)}};
    const double before = area(region);
    const Region joined = bridged(region, 2);
    CHECK(joined.loops.size() == 2);
    CHECK(area(joined) == Approx(before + 10).margin(1)); // the gap alone is filled
    CHECK(bridged(region, 0.5).loops.size() == 3);
    CHECK(area(bridged(region, 0.5)) == Approx(before));
    CHECK(bridged({}, 3).isEmpty());
}
