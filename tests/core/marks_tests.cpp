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
