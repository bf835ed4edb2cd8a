#include "geometry/loop.h"
#include "sheet/marks.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <set>

using namespace hasami;

TEST_CASE("four dots stand outside the work's corners, with the radius and the quiet zone of the scheme") {
    const Box work{{10, 20}, {110, 70}};
    const MarkScheme scheme{6, 8, 4};
    const std::vector<Mark> marks = marksAround(work, scheme);
    REQUIRE(marks.size() == 4);
    std::set<int> ids;
    Box around;
    for (const Mark& mark : marks) {
        ids.insert(mark.id);
        const Loop ink = flatten(mark.ink.at(0), 0.0005), quiet = flatten(mark.quiet.at(0), 0.0005);
        CHECK(signedArea(ink) == Approx(9 * std::numbers::pi).epsilon(1e-3));
        CHECK(signedArea(quiet) == Approx(49 * std::numbers::pi).epsilon(1e-3));
        CHECK(distance(bounds(ink).centre(), mark.centre) < 1e-3);
        CHECK_FALSE(bounds(quiet).meets(work));
        around.add(bounds(ink));
    }
    CHECK(ids == std::set<int>{1, 2, 3, 4});
    CHECK(around.least.x == Approx(work.least.x - roomForMarks(scheme)));
    CHECK(around.most.y == Approx(work.most.y + roomForMarks(scheme)));
}

TEST_CASE("a mark is a dot where its ink is a circle around its centre, and nothing else is") {
    Mark mark = marksAround({{0, 0}, {1, 1}}, {6, 8, 4}).front();
    CHECK(dotRadius(mark) == Approx(3));
    Mark moved = mark;
    moved.centre.x += 0.5;
    CHECK_FALSE(dotRadius(moved));
    Mark squashed = mark;
    squashed.ink = {map(mark.ink.front(), Affine::translation(mark.centre) * Affine::scaling(1, 0.8) *
                                              Affine::translation(mark.centre * -1))};
    CHECK_FALSE(dotRadius(squashed));
    Mark square = mark;
    const Point c = mark.centre;
    square.ink = {{c + Point{3, 0}, {}}};
    for (const Point p : {Point{0, 3}, Point{-3, 0}, Point{0, -3}, Point{3, 0}}) {
        Curve& rim = square.ink.front();
        const Point from = rim.segments.empty() ? rim.start : rim.segments.back().end;
        rim.segments.push_back(straightSegment(from, c + p));
    }
    CHECK_FALSE(dotRadius(square));
}

namespace {

constexpr MarkShape shapes[] = {MarkShape::dot, MarkShape::bracket, MarkShape::cross, MarkShape::square};

double areaOf(const std::vector<Curve>& curves) {
    double area = 0;
    for (const Curve& curve : curves)
        area += signedArea(flatten(curve, 0.0005));
    return area;
}

} // namespace

TEST_CASE("each shape has the ink that its size and line width say") {
    const Box work{{10, 20}, {110, 70}};
    MarkScheme scheme{6, 12, 3};
    scheme.lineWidth = 1;
    const auto inkOf = [&](MarkShape shape) {
        scheme.shape = shape;
        return areaOf(marksAround(work, scheme).at(1).ink);
    };
    CHECK(inkOf(MarkShape::dot) == Approx(9 * std::numbers::pi).epsilon(1e-3));
    CHECK(inkOf(MarkShape::cross) == Approx(6 + 6 - 1));
    CHECK(inkOf(MarkShape::bracket) == Approx(6 + 6 - 1));
    CHECK(inkOf(MarkShape::square) == Approx(36));
    scheme.isOutlined = true;
    CHECK(inkOf(MarkShape::square) == Approx(36 - 16));
}

TEST_CASE(
    "marks of each shape stand on the frame, keep their quiet zones out of the work and off each other") {
    for (const MarkShape shape : shapes)
        for (const Box& work : {Box{{10, 20}, {110, 70}}, Box{{10, 20}, {12, 21}}, Box{{0, 0}, {3, 400}}})
            for (const double quiet : {0.0, 2.0, 5.0}) {
                MarkScheme scheme{8, 0, quiet, shape};
                scheme.distance = leastDistance(scheme) + 0.001;
                const Box frame = work.grownBy(scheme.distance),
                          room = work.grownBy(roomForMarks(scheme) + 1e-9);
                const std::vector<Mark> marks = marksAround(work, scheme);
                REQUIRE(marks.size() == 4);
                for (std::size_t i = 0; i < marks.size(); ++i) {
                    const Mark& mark = marks[i];
                    INFO(int(shape) << ", quiet " << quiet << ", mark " << mark.id);
                    CHECK((mark.centre.x == frame.least.x || mark.centre.x == frame.most.x));
                    CHECK((mark.centre.y == frame.least.y || mark.centre.y == frame.most.y));
                    CHECK(areaOf(mark.ink) > 0); // also of a hole, outlines run as outlines do
                    CHECK(areaOf(mark.quiet) >= areaOf(mark.ink));
                    const Loop quietRim = flatten(mark.quiet.at(0), 0.001);
                    for (const Point p : quietRim)
                        CHECK_FALSE((p.x > work.least.x && p.x < work.most.x && p.y > work.least.y &&
                                     p.y < work.most.y));
                    for (const Curve& ink : mark.ink)
                        for (const Point p : flatten(ink, 0.001)) {
                            CHECK((p.x >= room.least.x && p.x <= room.most.x && p.y >= room.least.y &&
                                   p.y <= room.most.y));
                            for (std::size_t j = 0; j < marks.size(); ++j)
                                if (j != i)
                                    CHECK_FALSE(contains(flatten(marks[j].quiet.at(0), 0.001), p));
                        }
                }
            }
}

TEST_CASE("three marks leave the last one out, and none takes no room") {
    const Box work{{10, 20}, {110, 70}};
    MarkScheme scheme{6, 12, 3};
    scheme.corners = 3;
    const std::vector<Mark> three = marksAround(work, scheme);
    REQUIRE(three.size() == 3);
    for (const Mark& mark : three)
        CHECK_FALSE((mark.centre.x > work.most.x && mark.centre.y > work.most.y));
    scheme.corners = 0;
    CHECK(marksAround(work, scheme).empty());
    CHECK(roomForMarks(scheme) == 0);
}
