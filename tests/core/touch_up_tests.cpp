#include "edge/find_edge.h"
#include "edge/touch_changes.h"
#include "geometry/crossings.h"
#include "geometry/region_operations.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;

namespace {

const Box artwork{{0, 0}, {40, 40}};

/// A box of four straight sides, 20 mm, its nodes at the ends of its sides.
EdgeLoop square(double at = 10, double side = 20) {
    const Point corners[] = {{at, at}, {at + side, at}, {at + side, at + side}, {at, at + side}};
    EdgeLoop loop;
    loop.curve.start = corners[0];
    for (int i = 0; i < 4; ++i)
        loop.curve.segments.push_back(straightSegment(corners[i], corners[(i + 1) % 4]));
    loop.facts = {side * side, {corners[0], corners[2]}, 0};
    return loop;
}

EdgeLoop circle(double radius, Point centre = {20, 20}) {
    EdgeLoop loop;
    const Box box{centre - Point{1, 1}, centre + Point{1, 1}};
    loop.curve = shapeAround(box, {PlainShapeKind::ellipse, radius - std::numbers::sqrt2}); // four pieces
    loop.facts = {std::numbers::pi * radius * radius,
                  {centre - Point{radius, radius}, centre + Point{radius, radius}},
                  0};
    return loop;
}

double areaOf(const EdgeLoop& loop) {
    return signedArea(flatten(loop.curve, 0.001));
}

bool isClosed(const Curve& curve) {
    return distance(curve.start, curve.segments.back().end) < 1e-9;
}

/// What is there after the touch-ups of the changed line are stored and laid on a line found again.
EdgeLoop again(const EdgeLoop& found, const EdgeLoop& changed, const EdgeLoop& foundAgain,
               const Box& artworkAgain = artwork) {
    const auto touchUps = touchUpsOf(found, changed, artwork);
    const TouchedLines lines = applyTouchUps(std::vector{foundAgain}, touchUps, artworkAgain);
    for (const auto& loop : lines.loopOf)
        REQUIRE(loop);
    CHECK(isClosed(lines.loops[0].curve));
    return lines.loops[0];
}

} // namespace

TEST_CASE("the nearest place on a curve is found, and its stretches add up") {
    const Curve curve = circle(10).curve;
    for (int i = 0; i < 50; ++i) {
        const double angle = i * 0.37;
        const Point out{20 + 13 * std::cos(angle), 20 + 13 * std::sin(angle)};
        const Point on = pointAt(curve, nearestPlace(curve, out));
        CHECK(distance(on, {20 + 10 * std::cos(angle), 20 + 10 * std::sin(angle)}) < 0.01);
    }
    const CurvePlace a{0, 0.3}, b{2, 0.7};
    const double all = perimeter(flatten(curve, 0.0005));
    CHECK(lengthOf(pointAt(curve, a), stretch(curve, a, b)) +
              lengthOf(pointAt(curve, b), stretch(curve, b, a)) ==
          Approx(all).epsilon(1e-3));
    CHECK(lengthOf(pointAt(curve, a), stretch(curve, a, a)) == Approx(all).epsilon(1e-3));
    const CurveSegment part = partOf(curve.start, curve.segments[0], 0.25, 0.75);
    CHECK(distance(part.end, pointAt(curve.start, curve.segments[0], 0.75)) < 1e-12);
    CHECK(distance(pointAt(pointAt(curve.start, curve.segments[0], 0.25), part, 0.5),
                   pointAt(curve.start, curve.segments[0], 0.5)) < 1e-12);
}

TEST_CASE("a moved corner changes the area by what it sweeps, and comes back from storage") {
    const EdgeLoop found = square();
    const EdgeLoop moved = touch::moved(found, {1}, {6, 6}); // the corner at (30, 30) out to (36, 36)
    CHECK(areaOf(moved) == Approx(400 + 20 * 6));
    CHECK(std::count(moved.byHand.begin(), moved.byHand.end(), true) == 2);
    const EdgeLoop back = again(found, moved, found);
    CHECK(areaOf(back) == Approx(520));
    CHECK(back.curve.points() == 4);
    CHECK(std::count(back.byHand.begin(), back.byHand.end(), true) == 2);
}

TEST_CASE("what was done by hand follows when the size changes") {
    const EdgeLoop found = square();
    const EdgeLoop moved = touch::moved(found, {1}, {6, 6});
    EdgeLoop larger = square(20, 40);
    const EdgeLoop followed = again(found, moved, larger, {{0, 0}, {80, 80}});
    CHECK(areaOf(followed) == Approx(4 * 520));
}

TEST_CASE("where the line beneath has shifted a little, the ends stay on it") {
    const EdgeLoop found = square();
    const EdgeLoop moved = touch::moved(found, {1}, {6, 6});
    const EdgeLoop shifted = square(9.7, 20.6); // another level: 0.3 mm farther out
    const EdgeLoop followed = again(found, moved, shifted);
    // The untouched sides are those of the line beneath.
    const Box box = bounds(flatten(followed.curve, 0.001));
    CHECK(box.least.x == Approx(9.7));
    CHECK(box.least.y == Approx(9.7));
    CHECK(box.most.x == Approx(36).margin(0.35));
}

TEST_CASE("where the line beneath runs elsewhere by now, it is left out and said so") {
    const EdgeLoop found = square();
    const auto touchUps = touchUpsOf(found, touch::moved(found, {1}, {6, 6}), artwork);
    const EdgeLoop elsewhere = circle(8);
    const TouchedLines lines = applyTouchUps(std::vector{elsewhere}, touchUps, artwork);
    CHECK_FALSE(lines.loopOf.at(0));
    CHECK(areaOf(lines.loops[0]) == Approx(areaOf(elsewhere)));
    CHECK(lines.loops[0].byHand.empty());
    CHECK_FALSE(applyTouchUps({}, touchUps, artwork).loopOf.at(0));
}

TEST_CASE("a touch-up goes to the line it was made for") {
    const EdgeLoop left = circle(5, {8, 20}), right = circle(5, {30, 20});
    const EdgeLoop changed = touch::moved(right, {0}, {0, 3});
    const TouchedLines lines =
        applyTouchUps(std::vector{left, right}, touchUpsOf(right, changed, artwork), artwork);
    CHECK(lines.loopOf.at(0) == std::size_t{1});
    CHECK(lines.loops[0].curve == left.curve);
}

TEST_CASE("a node can be added without changing the line, and removed with little change") {
    const EdgeLoop found = circle(10);
    const EdgeLoop more = touch::withNode(found, {1, 0.4});
    CHECK(more.curve.points() == found.curve.points() + 1);
    CHECK(areaOf(more) == Approx(areaOf(found)).epsilon(1e-4));
    const EdgeLoop fewer = touch::withoutNodes(more, {1});
    CHECK(fewer.curve.points() == found.curve.points());
    CHECK(areaOf(fewer) == Approx(areaOf(found)).epsilon(2e-3));
    CHECK(touch::withoutNodes(found, {0, 1, 2, 3}).curve.points() == 2); // a line keeps two
    CHECK(areaOf(touch::withoutNodes(square(), {1})) == Approx(200));    // half the square is left
}

TEST_CASE("corners become smooth and smooth nodes corners") {
    const EdgeLoop smooth = touch::withSmooth(square(), {1});
    CHECK(touch::isSmooth(smooth.curve, 1));
    CHECK_FALSE(touch::isSmooth(smooth.curve, 2));
    CHECK(touch::isSmooth(circle(10).curve, 1));
    CHECK_FALSE(touch::isSmooth(touch::withCorners(circle(10), {1}).curve, 1));
}

TEST_CASE("at a smooth node both handles stay in line") {
    const EdgeLoop changed = touch::withHandle(circle(10), 1, true, {5, 18});
    CHECK(touch::isSmooth(changed.curve, 1));
    CHECK(changed.curve.segments[1].control2 == Point{5, 18});
    const EdgeLoop corner = touch::withHandle(square(), 1, false, {28, 32});
    CHECK(corner.curve.segments[1].straight); // the other side of a corner stays as it is
    CHECK_FALSE(corner.curve.segments[2].straight);
}

TEST_CASE("the shorter way between two nodes is straightened or spanned") {
    const EdgeLoop straight = touch::straightened(circle(10), 0, 1);
    CHECK(straight.curve.points() == 4);
    CHECK(
        areaOf(straight) ==
        Approx(std::numbers::pi * 100 - (std::numbers::pi * 25 - 50)).epsilon(1e-3)); // less a quarter's cap
    CHECK(areaOf(touch::straightened(circle(10), 1, 0)) == Approx(areaOf(straight)).epsilon(1e-4));
    const EdgeLoop spanned = touch::spanned(circle(10), 0, 1);
    CHECK(touch::isSmooth(spanned.curve, 0)); // the piece made by hand comes first
}

TEST_CASE("a stretch drawn anew replaces the shorter way between its ends") {
    const EdgeLoop found = square();
    std::vector<Point> drawn; // a bay of 5 mm depth in the upper side, from right to left
    for (int i = 0; i <= 40; ++i)
        drawn.push_back(
            {25 - i * 0.25, 10 + 5 * std::sin(std::numbers::pi * i / 40) + (i % 2 ? 0.01 : -0.01)});
    const EdgeLoop redrawn = touch::redrawn(found, drawn, 0.05);
    CHECK(areaOf(redrawn) == Approx(400 - 10 * 5 * 2 / std::numbers::pi).margin(0.6));
    CHECK(redrawn.curve.points() < 14);
    CHECK(areaOf(again(found, redrawn, found)) == Approx(areaOf(redrawn)).epsilon(1e-4));
}

TEST_CASE("one stretch is put back and the others stay") {
    const EdgeLoop found = square();
    EdgeLoop both = touch::withNode(found, {0, 0.5});
    both = touch::moved(both, {0}, {0, -4});
    both = touch::withNode(both, {3, 0.5}); // the lower side's middle
    both = touch::moved(both, {3}, {0, 4});
    CHECK(areaOf(both) == Approx(400 + 2 * 40));
    REQUIRE(touchUpsOf(found, both, artwork).size() == 2);
    const EdgeLoop one = touch::putBack(both, found, {0});
    CHECK(areaOf(one) == Approx(440));
    CHECK(areaOf(touch::putBack(one, found, {0, 1, 2, 3, 4})) == Approx(400));
}

TEST_CASE("a whole line done by hand is kept") {
    const EdgeLoop found = circle(10);
    const EdgeLoop moved = touch::moved(found, {0, 1, 2, 3}, {1, 0});
    CHECK(touchUpsOf(found, moved, artwork).size() == 1);
    const Box box = bounds(flatten(again(found, moved, found).curve, 0.001));
    CHECK(box.least.x == Approx(11).margin(0.01));
    CHECK(box.most.x == Approx(31).margin(0.01));
}

TEST_CASE("a line that was made to cross itself is cut along what lies inside") {
    const EdgeLoop crossed = touch::moved(square(), {1}, {-25, 0}); // pulled over the opposite side
    const auto parts = untangled(crossed.curve, 0.005);
    REQUIRE(parts.size() >= 2);
    double sum = 0;
    for (const Curve& part : parts) {
        CHECK(test::isSimple(flatten(part, 0.01)));
        sum += std::abs(signedArea(flatten(part, 0.001)));
    }
    CHECK(sum > std::abs(areaOf(crossed)));
    CHECK(untangled(square().curve, 0.005).size() == 1);
}

TEST_CASE(
    "a line that was pulled over another becomes one with it, an opening beyond its rim takes nothing") {
    const EdgeLoop left = square(), right = square(31, 8);
    EdgeLoop opening = square(15, 4);
    opening.curve = reversed(opening.curve);
    opening.facts.area = -16;
    const std::vector<EdgeLoop> found{left, right, opening};
    EdgeOptions options;
    options.loops = LoopChoice::all;
    options.leastOpening = 0;
    CHECK(edgeOf(found, options, artwork).size() == 3);

    std::vector<EdgeLoop> pulled = found;
    pulled[0] = touch::moved(left, {1}, {12, 8}); // a corner into the right one
    std::vector<Curve> edge = edgeOf(pulled, options, artwork);
    CHECK(crossingsOf(edge).empty());
    CHECK(edge.size() == 2);
    CHECK(area(flatten(edge, 0.001)) < areaOf(pulled[0]) + 64 - 16 - 1);

    pulled = found;
    pulled[2] = touch::moved(opening, {0}, {-10, 0}); // over the left one's rim
    edge = edgeOf(pulled, options, artwork);
    CHECK(crossingsOf(edge).empty());
    const Region whole = flatten(edge, 0.001);
    CHECK(bounds(whole).least.x == Approx(10).margin(0.01));
    CHECK(area(whole) > 400 + 64 - std::abs(areaOf(pulled[2])));
}

TEST_CASE("random changes by hand survive storage, stay closed and follow a larger size") {
    std::mt19937 random(11);
    for (int round = 0; round < 60; ++round) {
        const EdgeLoop found = circle(12);
        EdgeLoop line = found;
        for (int step = 0; step < 5; ++step) {
            const std::size_t n = line.curve.segments.size();
            const std::size_t a = random() % n, b = random() % n;
            const Point by{double(random() % 100) / 50 - 1, double(random() % 100) / 50 - 1};
            switch (random() % 5) {
            case 0:
                line = touch::moved(line, {a}, by);
                break;
            case 1:
                line = touch::withNode(line, {a, 0.3});
                break;
            case 2:
                line = touch::withoutNodes(line, {a});
                break;
            case 3:
                line = touch::withHandle(line, a, round % 2 == 0, line.curve.segments[a].end + by);
                break;
            default:
                if (a != b && n > 2)
                    line = touch::straightened(line, a, b);
            }
            REQUIRE(isClosed(line.curve));
            REQUIRE((line.byHand.empty() || line.byHand.size() == line.curve.segments.size()));
        }
        const EdgeLoop back = again(found, line, found);
        CHECK(areaOf(back) == Approx(areaOf(line)).margin(0.02));
        const EdgeLoop large = again(found, line, circle(24, {40, 40}), {{0, 0}, {80, 80}});
        CHECK(areaOf(large) == Approx(4 * areaOf(line)).margin(0.4));
    }
}
