#include "machine/route.h"
#include "machine/tool_path.h"
#include "support/rounds.h"
#include "support/shapes.h"
#include "support/spanning_tree.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

RouteLine square(LineKind kind, std::size_t piece, Point centre, double half) {
    Subpath run{centre + Point{-half, -half}, {}, true};
    Point from = run.start;
    for (const Point corner :
         {Point{half, -half}, Point{half, half}, Point{-half, half}, Point{-half, -half}}) {
        run.segments.push_back(straightSegment(from, centre + corner));
        from = centre + corner;
    }
    return {kind, piece, 0, {run}};
}

} // namespace

TEST_CASE("kinds are cut in the order of the work, inner lines before those around them") {
    std::vector<RouteLine> lines;
    for (std::size_t piece = 0; piece < 5; ++piece) {
        const Point centre{20.0 + 40 * double(piece), 30};
        lines.push_back(square(LineKind::die, piece, centre, 15));
        lines.push_back(square(LineKind::kiss, piece, centre, 12));
        lines.push_back(square(LineKind::perforated, piece, centre, 14));
        lines.push_back(square(LineKind::kiss, piece, centre, 4));
    }
    const auto routed = route(lines);
    REQUIRE(routed.size() == 20);
    CHECK(std::is_sorted(routed.begin(), routed.end(),
                         [](const RouteLine& a, const RouteLine& b) { return a.kind < b.kind; }));
    for (std::size_t i = 0; i < 10; i += 2) {
        CHECK(routed[i].piece == routed[i + 1].piece);
        CHECK(perimeter(flatten(routed[i].runs[0], 0.01)) == Approx(32));
        CHECK(perimeter(flatten(routed[i + 1].runs[0], 0.01)) == Approx(96));
    }
    for (const RouteLine& line : routed) { // they begin elsewhere, and are the same lines
        CHECK(line.runs[0].isClosed);
        CHECK(distance(line.runs[0].segments.back().end, line.runs[0].start) < 1e-9);
    }
}

TEST_CASE(
    "the way over 200 random stickers is at most a quarter longer than the tree that spans their starts") {
    for (const unsigned seed : {1u, 2u, 3u}) {
        std::mt19937 random(seed);
        std::uniform_real_distribution<double> along(0, 3000), across(0, 600), size(5, 20);
        std::vector<RouteLine> lines;
        for (std::size_t i = 0; i < 200; ++i)
            lines.push_back(square(LineKind::kiss, i, {along(random), across(random)}, size(random)));
        const auto routed = route(lines);
        std::vector<Point> starts{{0, 0}};
        std::vector<bool> seen(200, false);
        for (const RouteLine& line : routed) {
            starts.push_back(line.runs[0].start);
            seen[line.piece] = true;
        }
        CHECK(std::all_of(seen.begin(), seen.end(), [](bool s) { return s; }));
        CHECK(travelOf(routed) <= 1.25 * spanningTree(starts));
        CHECK(travelOf(routed) < travelOf(lines));
        CHECK(travelOf(route(lines)) == travelOf(routed)); // the same every time
    }
}

TEST_CASE("a line gets no more than one point of its own, where it begins") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> along(0, 900), across(0, 300), size(5, 20);
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < 60; ++i)
        lines.push_back(square(LineKind::kiss, i, {along(random), across(random)}, size(random)));
    lines.push_back(square(LineKind::kiss, 60, {450, 150}, 600));
    const RouteLine around = square(LineKind::die, 61, {450, 150}, 620);
    auto routed = route(lines);
    cutLast(routed, around);
    for (const RouteLine& line : routed) {
        CHECK(line.runs[0].segments.size() <= 5);
        const RouteLine& given = line.piece == 61 ? around : lines[line.piece];
        CHECK(perimeter(flatten(line.runs[0], 0.01)) == Approx(perimeter(flatten(given.runs[0], 0.01))));
    }
}

TEST_CASE("many lines of one piece are cut along a short way, each after those inside of it") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> along(20, 280), across(20, 180), size(1, 4);
    std::vector<RouteLine> lines{square(LineKind::kiss, 0, {150, 100}, 160)};
    for (int i = 0; i < 160; ++i) {
        const Point centre{along(random), across(random)};
        const double half = size(random);
        lines.push_back(square(LineKind::kiss, 0, centre, half));
        if (i % 4 == 0)
            lines.push_back(square(LineKind::kiss, 0, centre, half / 2));
    }
    for (std::size_t i = 0; i < lines.size(); ++i)
        lines[i].line = i;
    const auto routed = route(lines);
    REQUIRE(routed.size() == lines.size());
    std::vector<Point> starts{{0, 0}};
    for (std::size_t i = 0; i < routed.size(); ++i) {
        starts.push_back(routed[i].runs[0].start);
        for (std::size_t k = 0; k < i; ++k) { // what was cut before lies around nothing cut later
            const auto earlier = flatten(lines[routed[k].line].runs[0], 0.01),
                       later = flatten(lines[routed[i].line].runs[0], 0.01);
            CHECK_FALSE(std::ranges::all_of(later, [&](Point p) { return contains(earlier, p); }));
        }
    }
    CHECK(travelOf(routed) <= 1.35 * spanningTree(starts));
}

TEST_CASE("a line that begins close to a node begins there, without a piece too short for the knife") {
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < 12; ++i) // seen from the origin, a corner is nearest, give or take
        lines.push_back(square(LineKind::kiss, i, {30 + 0.003 * double(i), 30 + 25 * double(i)}, 10));
    for (RouteLine& line : lines) // bent by a hair, so that the nearest place is somewhere on them
        for (CurveSegment& s : line.runs[0].segments)
            s = {s.control1, s.control2 + Point{1e-7, 1e-7}, s.end};
    for (const RouteLine& line : route(lines)) {
        Point from = line.runs[0].start;
        for (const CurveSegment& s : line.runs[0].segments) {
            CHECK(distance(from, s.end) >= 0.02);
            from = s.end;
        }
        CHECK(from == line.runs[0].start);
    }
}

TEST_CASE("a short path visits every point once from the first, and finds the obvious one") {
    std::vector<Point> row;
    for (const int i : {0, 7, 2, 9, 4, 1, 8, 3, 6, 5})
        row.push_back({double(i), 0});
    const auto order = shortPath(row);
    for (std::size_t i = 0; i < order.size(); ++i)
        CHECK(row[order[i]].x == double(i));
    CHECK(shortPath({{0, 0}}) == std::vector<std::size_t>{0});
    CHECK(shortPath({}).empty());
}

TEST_CASE("an open line is cut from its nearer end, and a line with tabs run after run") {
    const Subpath crease{{100, 0}, {straightSegment({100, 0}, {10, 0})}, false};
    const auto routed = route({{LineKind::crease, 0, 0, {crease}}});
    CHECK(routed[0].runs[0].start.x == 10);
    CHECK(routed[0].runs[0].segments.back().end.x == 100);
    const Subpath far{{50, 50}, {straightSegment({50, 50}, {60, 50})}, false},
        near{{5, 5}, {straightSegment({5, 5}, {5, 20})}, false};
    const auto tabbed = route({{LineKind::perforated, 0, 0, {far, near}}});
    CHECK(tabbed[0].runs[0].start == Point{5, 5});
    CHECK(tabbed[0].runs.size() == 2);
    CHECK(travelOf(tabbed) == Approx(std::hypot(5, 5) + distance({5, 20}, {50, 50})));
}

TEST_CASE("a blade that trails behind its holder cuts the line itself") {
    std::mt19937 random(5);
    for (const double trail : {0.25, 0.6}) {
        const Loop blob = randomBlob(random, {30, 30}, 12);
        Subpath run{blob.front(), {}, true};
        for (std::size_t i = 0; i < blob.size(); ++i)
            run.segments.push_back(straightSegment(blob[i], blob[(i + 1) % blob.size()]));
        const auto square20 = square(LineKind::die, 0, {70, 30}, 10).runs[0];
        for (const Subpath& line : {run, square20}) {
            const auto holder = toolPath(line, trail, 0);
            Point tip = line.start;
            double farthest = 0;
            const Loop wanted = flatten(line, 1e-4);
            for (std::size_t i = 0; i + 1 < holder.size(); ++i)
                for (int k = 0; k <= 50; ++k) { // the tip is drawn along behind the holder
                    const Point at = between(holder[i], holder[i + 1], k / 50.0);
                    tip = at + unit(tip - at) * trail;
                    if (k % test::rounds(1, 10) == 0)
                        farthest = std::max(farthest, distanceToLoop(tip, wanted));
                }
            CHECK(farthest < 0.03);
            CHECK(distance(tip, line.start) < 0.03);
        }
    }
}

TEST_CASE("a closed line is cut past its start by the overcut, an open one is not") {
    const Subpath line = square(LineKind::kiss, 0, {0, 0}, 10).runs[0];
    const auto path = toolPath(line, 0, 25);
    double length = 0;
    for (std::size_t i = 0; i + 1 < path.size(); ++i)
        length += distance(path[i], path[i + 1]);
    CHECK(length == Approx(80 + 25));
    CHECK(path.back() == Point{10, -5});
    Subpath open = line;
    open.isClosed = false;
    CHECK(toolPath(open, 0, 25).back() == open.segments.back().end);
}
