#include "geometry/crossings.h"
#include "geometry/curve_place.h"
#include "geometry/fit_loops.h"
#include "geometry/region_operations.h"
#include "raster/level_lines.h"
#include "support/nasty_drawing.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Of polygons, side against side: how many pairs cross, neighbours left out.
int crossingSides(const std::vector<Loop>& loops) {
    struct Side {
        Point a, b;
        std::size_t loop, at, count;
    };
    std::vector<Side> sides;
    for (std::size_t i = 0; i < loops.size(); ++i)
        for (std::size_t k = 0; k < loops[i].size(); ++k)
            sides.push_back({loops[i][k], loops[i][(k + 1) % loops[i].size()], i, k, loops[i].size()});
    std::sort(sides.begin(), sides.end(),
              [](const Side& a, const Side& b) { return std::min(a.a.x, a.b.x) < std::min(b.a.x, b.b.x); });
    int crossings = 0;
    for (std::size_t i = 0; i < sides.size(); ++i)
        for (std::size_t j = i + 1; j < sides.size(); ++j) {
            const Side &one = sides[i], &other = sides[j];
            if (std::min(other.a.x, other.b.x) > std::max(one.a.x, one.b.x))
                break;
            if (one.loop == other.loop &&
                ((one.at + 1) % one.count == other.at || (other.at + 1) % one.count == one.at))
                continue;
            const auto turn = [](Point a, Point b, Point p) { return cross(b - a, p - a); };
            crossings += turn(one.a, one.b, other.a) * turn(one.a, one.b, other.b) < 0 &&
                         turn(other.a, other.b, one.a) * turn(other.a, other.b, one.b) < 0;
        }
    return crossings;
}

std::vector<Loop> flat(std::span<const Curve> curves) {
    std::vector<Loop> loops;
    for (const Curve& curve : curves)
        loops.push_back(flatten(curve, 0.00002));
    return loops;
}

/// Of end to end, mm.
double shortestPiece(const Curve& curve) {
    double shortest = 1e9;
    for (std::size_t i = 0; i < curve.segments.size(); ++i)
        shortest = std::min(shortest, distance(startOf(curve, i), curve.segments[i].end));
    return shortest;
}

Curve polygon(std::initializer_list<Point> points) {
    const std::vector<Point> all(points);
    Curve curve{all.front(), {}};
    for (std::size_t i = 1; i <= all.size(); ++i)
        curve.segments.push_back(straightSegment(all[i - 1], all[i % all.size()]));
    return curve;
}

} // namespace

TEST_CASE("pieces that cross are found, those that only go on into each other are not") {
    const Curve square = polygon({{0, 0}, {10, 0}, {10, 10}, {0, 10}});
    CHECK(crossingsOf(std::vector{square}).empty());
    CHECK(crossingsOf(std::vector{polygon({{0, 0}, {10, 10}, {10, 0}, {0, 10}})}).size() == 1);
    const Curve beside = polygon({{10.001, 0}, {20, 0}, {20, 10}, {10.001, 10}}),
                across = polygon({{9, 4}, {20, 4}, {20, 6}, {9, 6}});
    CHECK(crossingsOf(std::vector{square, beside}).empty());
    CHECK(crossingsOf(std::vector{square, across}).size() == 2);
    // A cubic that loops.
    const Curve loop{{0, 0},
                     {{{30, 10}, {-20, 10}, {10, 0}},
                      straightSegment({10, 0}, {5, -5}),
                      straightSegment({5, -5}, {0, 0})}};
    const auto found = crossingsOf(std::vector{loop});
    REQUIRE(found.size() == 1);
    CHECK(found[0].one == found[0].other);
    // Two cubics whose smooth joint lies in a tiny loop.
    const Curve joined{{0, 0},
                       {{{4, 0}, {6, 1}, {5, 1}},
                        {{4, 1}, {6, 0}, {10, 0}},
                        straightSegment({10, 0}, {5, -5}),
                        straightSegment({5, -5}, {0, 0})}};
    CHECK(crossingsOf(std::vector{joined}).size() == 1);
    // A needle's two sides are no crossing.
    CHECK(crossingsOf(std::vector{polygon({{0, 0}, {10, 0.001}, {0, 0.002}})}).empty());
}

TEST_CASE("open curves may end in one point, and meet nowhere else") {
    const auto open = [](Point from, std::initializer_list<Point> on) {
        Curve curve{from, {}};
        for (const Point p : on) {
            curve.segments.push_back(straightSegment(from, p));
            from = p;
        }
        return curve;
    };
    const Curve one = open({0, 0}, {{5, 1}, {10, 0}}), other = open({0, 0}, {{5, -1}, {10, 0}}),
                back = open({10, 0}, {{5, -2}, {0, 0}}), across = open({0, 0}, {{5, -3}, {6, 3}});
    CHECK(crossingsOf(std::vector{one, other, back}).empty());
    CHECK(crossingsOf(std::vector{one, across}).size() == 1);
    CHECK(crossingsOf(std::vector{one, other, across}).size() == 2);
    // Of one piece each, with both ends in common.
    const Curve above{{0, 0}, {{{3, 4}, {7, 4}, {10, 0}}}}, below{{10, 0}, {{{7, 2}, {3, 2}, {0, 0}}}},
        winding{{0, 0}, {{{3, 8}, {7, -4}, {10, 0}}}};
    CHECK(crossingsOf(std::vector{above, below}).empty());
    CHECK(crossingsOf(std::vector{below, winding}).size() == 1);
}

TEST_CASE("chains that share their ends are fitted without crossing, and end where they did") {
    std::mt19937 random(23);
    std::size_t before = 0;
    for (int i = 0; i < test::rounds(15, 3); ++i) {
        std::vector<std::vector<Point>> halves; // of each loop: from one place of it to another, and back
        for (const Loop& loop : levelLines(nastyDrawing(random), 127.5)) {
            const std::ptrdiff_t middle = std::ptrdiff_t(loop.size() / 2);
            halves.emplace_back(loop.begin(), loop.begin() + middle + 1);
            halves.emplace_back(loop.begin() + middle, loop.end()).push_back(loop.front());
        }
        std::vector<Chain> chains;
        std::vector<Curve> alone;
        const FitOptions fit{0.1, 0.3, 1};
        for (const std::vector<Point>& half : halves) {
            chains.push_back({half, false});
            alone.push_back({half.front(), fitPath(half, fit)});
        }
        before += crossingsOf(alone).size();
        const std::vector<Curve> curves = fitChains(chains, std::span(&fit, 1));
        INFO("drawing " << i);
        REQUIRE(crossingsOf(curves).empty());
        for (std::size_t k = 0; k < curves.size(); ++k) {
            REQUIRE(curves[k].start == halves[k].front());
            REQUIRE(curves[k].segments.back().end == halves[k].back());
        }
    }
    CHECK(before > 0); // or these drawings show nothing
}

TEST_CASE("crossings among many curves are those of each pair of them") {
    std::mt19937 random(8);
    std::uniform_real_distribution<double> anywhere(0, 100), turn(0, 2 * std::numbers::pi), sizes(-1, 1.7);
    std::vector<Curve> curves;
    for (int i = 0; i < test::rounds(300, 100); ++i) { // small ones, and some that reach through all
        const Point centre{anywhere(random), anywhere(random)};
        const double size = std::pow(10, sizes(random)), angle = turn(random);
        const Point way = Point{std::cos(angle), std::sin(angle)} * size;
        curves.push_back(polygon({centre + way, centre + Point{-way.y, way.x} * 0.1, centre - way}));
    }
    std::size_t pairs = 0;
    for (std::size_t i = 0; i < curves.size(); ++i)
        for (std::size_t k = i + 1; k < curves.size(); ++k)
            pairs += crossingsOf(std::vector{curves[i], curves[k]}).size();
    CHECK(pairs > 100);
    CHECK(crossingsOf(curves).size() == pairs);
}

TEST_CASE("no fitted line of a nasty drawing crosses itself or another, nor does its offset") {
    std::mt19937 random(22);
    int before = 0;
    for (int i = 0; i < test::rounds(20, 3); ++i) {
        const Grid<std::uint8_t> grid = nastyDrawing(random);
        constexpr double pixel = 0.1;
        std::vector<Loop> loops = levelLines(grid, 127.5);
        for (Loop& loop : loops)
            for (Point& p : loop)
                p = p * pixel;
        for (const double scatter : {0.02, 0.3}) {
            const FitOptions fit{0.01, scatter * pixel, std::max(1.0, 2.5 * scatter) * pixel};
            for (const Loop& loop : loops)
                before += int(crossingsOf(std::vector{fitCurve(loop, fit)}).size());
            const std::vector<Curve> curves = fitLoops(loops, fit);
            INFO("drawing " << i << ", scatter " << scatter);
            REQUIRE(crossingsOf(curves).empty());
            REQUIRE(crossingSides(flat(curves)) == 0);
            for (const Curve& curve : curves)
                REQUIRE((curve.segments.empty() || curve.points() >= 3));
            const Region moved = offset(flatten(curves, 0.005), 0.4);
            REQUIRE(crossingSides(flat(fitLoops(moved.loops, {0.01, 0, 0.02}))) == 0);
        }
    }
    CHECK(before > 0); // or these drawings show nothing
}

TEST_CASE("a stretch that is fitted again meets its neighbours without a piece of no length") {
    // It ends at a point that was put onto an arc, 0.01 µm off.
    const Loop loop{{-0.0515, 4.7586}, {0.0126, 3.2769}, {0.0998, 2.8745}, {0.1545, 2.7297},
                    {0.1444, 2.7009},  {0.1281, 2.5346}, {0.1516, 2.3693}, {0.2137, 2.2142},
                    {0.3107, 2.0782},  {0.4372, 1.9692}, {6.8658, 3.1291}};
    const Curve curve = fitLoops(std::vector<Loop>{loop}, FitOptions{0.01, 0, 0.02}).front();
    CHECK(curve.points() > 3);
    CHECK(shortestPiece(curve) > 1e-3);
    CHECK(std::abs(signedArea(flatten(curve, 0.001))) == Approx(std::abs(signedArea(loop))).epsilon(0.01));
}

TEST_CASE("a loop that is fitted again for its neighbours keeps three points") {
    const std::vector<Loop> row{{{3.8702, 5.4500}, {3.9500, 5.4228}, {3.9768, 5.4500}, {3.9500, 5.5489}},
                                {{3.9514, 5.5500},
                                 {4.0500, 5.5273},
                                 {4.0724, 5.5500},
                                 {4.1500, 5.6349},
                                 {4.1651, 5.6500},
                                 {4.2500, 5.7423},
                                 {4.2576, 5.7500},
                                 {4.3500, 5.8496},
                                 {4.3504, 5.8500},
                                 {4.4309, 5.9500},
                                 {4.3500, 5.9768},
                                 {4.3237, 5.9500},
                                 {4.2500, 5.8722},
                                 {4.2281, 5.8500},
                                 {4.1500, 5.7651},
                                 {4.1349, 5.7500},
                                 {4.0500, 5.6570},
                                 {4.0431, 5.6500}},
                                {{4.4202, 6.0500}, {4.4500, 5.9669}, {4.5196, 6.0500}, {4.4500, 6.0805}}};
    for (const Curve& curve : fitLoops(row, {0.01, 0.03, 0.1}))
        CHECK(curve.points() >= 3);
}

TEST_CASE("loops that touch in a point are parted there by a hair") {
    const std::vector<Loop> touching{
        {{0, 0}, {10, 0}, {10, 10}, {0, 10}, {5, 5}},            // a tip that touches
        {{-10, 0}, {0, 0}, {-10, 10}},                           // another loop's corner
        {{20, 0}, {30, 0}, {40, -5}, {40, 5}, {30, 0}, {20, 5}}, // itself
        {{50, 0}, {60, 0}, {70, 0}, {60, 10}},
        {{60, 0}, {55, -5}, {65, -5}}, // a corner and a straight side
    };
    const std::vector<Curve> curves = fitLoops(touching, {0.01, 0, 0.02});
    CHECK(crossingsOf(curves).empty());
    std::vector<Point> nodes;
    for (std::size_t i = 0; i < touching.size(); ++i) {
        CHECK(curves[i].points() <= touching[i].size() + 4);
        CHECK(signedArea(flatten(curves[i], 0.001)) == Approx(signedArea(touching[i])).margin(0.1));
        for (const CurveSegment& s : curves[i].segments)
            nodes.push_back(s.end);
    }
    for (std::size_t i = 0; i < nodes.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            CHECK(distance(nodes[i], nodes[k]) > 0.001);
}

TEST_CASE("where nothing crosses, loops are fitted as each would be alone") {
    std::mt19937 random(5);
    for (int i = 0; i < 20; ++i) {
        const Loop blob = randomBlob(random, {0, 0}, 10);
        const FitOptions fit{0.01, 0, 0.1};
        CHECK(fitLoops(std::vector<Loop>{blob}, fit).front() == fitCurve(blob, fit));
    }
}

TEST_CASE("what has no area or fewer than three points is no line, a lens gets three") {
    const FitOptions fit{0.01, 0, 0.1};
    CHECK(fitLoops(std::vector<Loop>{{{0, 0}, {1, 0}}}, fit).front().segments.empty());
    CHECK(fitLoops(std::vector<Loop>{{{0, 0}, {10, 0}, {5, 0}}}, fit).front().segments.empty());
    Loop lens;
    for (int k = 0; k < 40; ++k)
        lens.push_back({k * 0.25 - 5, -1.5 * (1 - std::pow(k * 0.05 - 1, 2))});
    for (int k = 0; k < 40; ++k)
        lens.push_back({5 - k * 0.25, 1.5 * (1 - std::pow(k * 0.05 - 1, 2))});
    const Curve curve = fitLoops(std::vector<Loop>{lens}, fit).front();
    CHECK(curve.points() >= 3);
    CHECK(std::abs(signedArea(flatten(curve, 0.001))) == Approx(std::abs(signedArea(lens))).epsilon(0.01));
}
