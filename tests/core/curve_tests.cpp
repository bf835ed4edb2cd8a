#include "geometry/curve_place.h"
#include "geometry/find_arcs.h"
#include "geometry/find_corners.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr double pi = std::numbers::pi;

Curve circle(Point centre, double radius, bool clockwise = true) {
    const Point start = centre + Point{radius, 0};
    return {start, circlePieces(start, centre, clockwise)};
}

/// Points every so many millimetres along a closed polygon's sides.
Loop walked(const Loop& corners, double step) {
    Loop points;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Point a = corners[i], b = corners[(i + 1) % corners.size()];
        const int count = std::max(1, int(distance(a, b) / step));
        for (int k = 0; k < count; ++k)
            points.push_back(between(a, b, double(k) / count));
    }
    return points;
}

} // namespace

TEST_CASE("a circle's pieces lie on it, are arcs of its sweep and end where it began") {
    for (const double radius : {0.5, 10.0, 400.0})
        for (const bool clockwise : {true, false}) {
            const Curve curve = circle({3, -2}, radius, clockwise);
            CHECK(curve.points() == 6);
            double sweep = 0;
            for (std::size_t i = 0; i < curve.points(); ++i) {
                CHECK(curve.segments[i].isArc());
                sweep += 4 * std::atan(curve.segments[i].bulge);
                for (int k = 0; k <= 20; ++k)
                    CHECK(distance(pointAt(curve, {i, k / 20.0}), {3, -2}) ==
                          Approx(radius).margin(3e-5 * radius));
            }
            CHECK(sweep == Approx(clockwise ? 2 * pi : -2 * pi));
            CHECK(distance(curve.segments.back().end, curve.start) < 1e-9 * radius);
            CHECK(lengthOf(curve.start, curve.segments) == Approx(2 * pi * radius).epsilon(1e-4));
            CHECK(signedArea(flatten(curve, 0.001 * radius)) ==
                  Approx((clockwise ? 1 : -1) * pi * radius * radius).epsilon(2e-3));
        }
}

TEST_CASE("an arc's pieces end where they should, and turn by its sweep in all") {
    std::mt19937 random(41);
    std::uniform_real_distribution<double> anywhere(-50, 50), sweeps(0.2, 5.5);
    for (int round = 0; round < 200; ++round) {
        const Point from{anywhere(random), anywhere(random)}, to{anywhere(random), anywhere(random)};
        const double sweep = sweeps(random) * (round % 2 == 0 ? 1 : -1);
        const std::vector<CurveSegment> pieces = arcPieces(from, to, sweep);
        CHECK(pieces.back().end == to);
        double told = 0;
        for (const CurveSegment& piece : pieces) {
            const double part = 4 * std::atan(piece.bulge);
            CHECK(std::abs(part) <= pi / 3 + 1e-9);
            told += part;
        }
        CHECK(told == Approx(sweep));
        const double radius = distance(from, to) / 2 / std::abs(std::sin(sweep / 2));
        CHECK(lengthOf(from, pieces) == Approx(radius * std::abs(sweep)).epsilon(1e-3));
    }
}

TEST_CASE("points along pieces lie evenly by length, whatever the pieces are") {
    const Curve curve = circle({0, 0}, 20);
    const std::vector<Point> points = pointsAlong(curve.start, curve.segments, 11);
    REQUIRE(points.size() == 11);
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double angle = 2 * pi * double(i + 1) / 12;
        CHECK(distance(points[i], Point{std::cos(angle), std::sin(angle)} * 20) < 0.02);
    }
    // A short straight side and a long one.
    const std::vector<CurveSegment> bent{straightSegment({0, 0}, {1, 0}), straightSegment({1, 0}, {1, 9})};
    const std::vector<Point> four = pointsAlong({0, 0}, bent, 4);
    REQUIRE(four.size() == 4);
    for (std::size_t i = 0; i < four.size(); ++i)
        CHECK(distance(four[i], {1, 2.0 * double(i + 1) - 1}) < 1e-3);
}

TEST_CASE("a segment begins where the one before it ends, the first at the curve's start") {
    const Curve curve = circle({5, 5}, 3);
    CHECK(startOf(curve, 0) == curve.start);
    for (std::size_t i = 1; i < curve.points(); ++i)
        CHECK(startOf(curve, i) == curve.segments[i - 1].end);
}

TEST_CASE("a part of a segment runs through the same points") {
    const Point from{2, 1};
    const CurveSegment cubic{{10, -20}, {30, 40}, {25, 5}, false};
    const CurveSegment arc = circlePieces({10, 0}, {0, 0}, true).front();
    for (const auto& [begin, end] : {std::pair{0.0, 1.0}, {0.2, 0.7}, {0.5, 0.55}, {0.0, 0.1}}) {
        const CurveSegment part = partOf(from, cubic, begin, end);
        const Point at = pointAt(from, cubic, begin);
        for (int k = 0; k <= 10; ++k)
            CHECK(distance(pointAt(at, part, k / 10.0),
                           pointAt(from, cubic, begin + (end - begin) * k / 10)) < 1e-9);
        const CurveSegment bent = partOf({10, 0}, arc, begin, end);
        const Point bentAt = pointAt({10, 0}, arc, begin);
        for (int k = 0; k <= 10; ++k)
            CHECK(length(pointAt(bentAt, bent, k / 10.0)) == Approx(10).margin(1e-3));
    }
}

TEST_CASE("the last part of a segment ends exactly where the segment ends") {
    // Rounding would leave a closed curve open by its last bit.
    const Point from{0.3412, 0.0739};
    const CurveSegment cubic{{0.149586, 0.358903}, {-0.1576, 0.3015}, {-0.2305, -0.0332}, false};
    for (const CurveSegment& whole : {cubic, straightSegment(from, cubic.end)})
        for (const double begin : {0.0, 0.1, 1 / 3.0, 0.5, 0.7})
            CHECK(partOf(from, whole, begin, 1).end == whole.end);
}

TEST_CASE("a rim stays an outer one when its map mirrors, and its area follows the map") {
    std::mt19937 random(43);
    std::uniform_real_distribution<double> number(-3, 3);
    const Curve rim = circle({4, 1}, 6), hole = circle({4, 1}, 2, false);
    for (int round = 0; round < 100; ++round) {
        const Affine by{number(random), number(random), number(random), number(random), number(random), 7};
        if (std::abs(by.determinant()) < 0.1)
            continue;
        const double scale = std::abs(by.determinant());
        CHECK(signedArea(flatten(mapRim(rim, by), 0.001)) ==
              Approx(scale * signedArea(flatten(rim, 0.0001))).epsilon(2e-3));
        CHECK(signedArea(flatten(mapRim(hole, by), 0.001)) < 0);
        const Loop line = flatten(map(rim, by), 0.001);
        CHECK((signedArea(line) > 0) == (by.determinant() > 0));
        const Box around = boundsOfMapped({{-2, -5}, {10, 7}}, by);
        CHECK(around.grownBy(0.01).holds(bounds(line)));
    }
}

TEST_CASE("the box of a mapped box is that of its mapped corners") {
    std::mt19937 random(44);
    std::uniform_real_distribution<double> number(-9, 9);
    for (int round = 0; round < 200; ++round) {
        const Affine by{number(random), number(random), number(random),
                        number(random), number(random), number(random)};
        Box box, expected;
        box.add(Point{number(random), number(random)});
        box.add(Point{number(random), number(random)});
        for (const Point corner :
             {box.least, box.most, Point{box.least.x, box.most.y}, Point{box.most.x, box.least.y}})
            expected.add(by(corner));
        const Box told = boundsOfMapped(box, by);
        CHECK(distance(told.least, expected.least) < 1e-9);
        CHECK(distance(told.most, expected.most) < 1e-9);
    }
}

TEST_CASE("maps are undone by their inverse") {
    std::mt19937 random(45);
    std::uniform_real_distribution<double> number(-5, 5);
    for (int round = 0; round < 200; ++round) {
        const Affine by{number(random), number(random), number(random),
                        number(random), number(random), number(random)};
        if (std::abs(by.determinant()) < 0.05)
            continue;
        const Point p{number(random), number(random)};
        CHECK(distance(inverse(by)(by(p)), p) < 1e-9);
        CHECK(distance((inverse(by) * by)(p), p) < 1e-9);
        CHECK((by * inverse(by)).determinant() == Approx(1));
    }
}

TEST_CASE("corners of a polygon are found where its sides meet, and none on a circle") {
    const Loop corners{{0, 0}, {40, 0}, {40, 30}, {20, 12}, {0, 30}};
    const std::vector<Corner> found = findCorners(Course(walked(corners, 0.2)), 0.2);
    REQUIRE(found.size() == corners.size());
    for (const Point corner : corners)
        CHECK(std::any_of(found.begin(), found.end(),
                          [&](const Corner& one) { return distance(one.place, corner) < 0.02; }));
    for (std::size_t i = 1; i < found.size(); ++i)
        CHECK(found[i - 1].at < found[i].at);
    CHECK(findCorners(Course(flatten(circle({0, 0}, 30), 0.001)), 0.2).empty());
}
