#include "base/error.h"
#include "edge/find_edge.h"
#include "raster/level_lines.h"
#include "raster/reduce.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// A picture item at `scale` mm a pixel, from the design's origin.
Item itemOf(const Grid<std::uint8_t>& coverage, double scale = 0.1) {
    return {"test",
            coverage.width(),
            coverage.height(),
            {{0, 0}, coverage.width() * scale, coverage.height() * scale}};
}

double rootMeanSquareFromCircle(const Loop& loop, Point centre, double radius) {
    double sum = 0;
    for (const Point p : loop)
        sum += std::pow(distance(p, centre) - radius, 2);
    return std::sqrt(sum / double(loop.size()));
}

std::vector<Curve> edgeOf(const Item& item, const Grid<std::uint8_t>& cells, const EdgeOptions& options,
                          const std::stop_token& stop = {}) {
    return findEdge(item, Coverage{cells}, options, stop);
}

} // namespace

TEST_CASE("the level line of a disc lies within some hundredths of a pixel") {
    const auto grid = drawn(120, 110, disc({60.3, 55.7}, 41.2));
    const auto loops = levelLines(grid, 127.5);
    REQUIRE(loops.size() == 1);
    CHECK(rootMeanSquareFromCircle(loops[0], {60.3, 55.7}, 41.2) < 0.06);
    CHECK(signedArea(loops[0]) == Approx(std::numbers::pi * 41.2 * 41.2).epsilon(0.001));
}

TEST_CASE("an opening runs the other way, and the areas add up") {
    const auto grid = drawn(100, 100, [](double x, double y) {
        const double r = distance({x, y}, {50, 50});
        return r < 40 && r > 20;
    });
    const auto loops = levelLines(grid, 127.5);
    REQUIRE(loops.size() == 2);
    CHECK(std::count_if(loops.begin(), loops.end(), [](const Loop& l) { return signedArea(l) < 0; }) == 1);
    CHECK(area({loops}) == Approx(std::numbers::pi * (1600 - 400)).epsilon(0.001));
}

TEST_CASE("a subject that fills its picture gets a line along the border") {
    const Grid<std::uint8_t> full(30, 20, 255);
    const auto loops = levelLines(full, 127.5);
    REQUIRE(loops.size() == 1);
    CHECK(bounds(loops[0]).least.x == Approx(0).margin(0.01));
    CHECK(bounds(loops[0]).most.x == Approx(30).margin(0.01));
    CHECK(signedArea(loops[0]) == Approx(600).margin(0.6)); // corners are cut by half a pixel's diagonal
}

TEST_CASE("pixels that touch at a corner are joined only if the mean says so") {
    Grid<std::uint8_t> faint(4, 4), strong(4, 4);
    faint.at(1, 1) = faint.at(2, 2) = 200; // mean 100: apart
    CHECK(levelLines(faint, 127.5).size() == 2);
    strong.at(1, 1) = strong.at(2, 2) = 255;
    strong.at(2, 1) = 90; // mean 150: joined
    CHECK(levelLines(strong, 127.5).size() == 1);
}

TEST_CASE("level lines of noise are closed, nested and free of crossings") {
    std::mt19937 random(3);
    std::uniform_int_distribution<int> value(0, 255);
    for (int round = 0; round < 20; ++round) {
        Grid<std::uint8_t> grid(24, 17);
        for (auto& cell : grid.cells())
            cell = static_cast<std::uint8_t>(value(random));
        for (const double level : {0.0, 60.0, 127.5, 200.0, 255.0}) {
            std::size_t steps = 0;
            for (int row = 0; row < grid.height(); ++row)
                for (int column = 0; column <= grid.width(); ++column) {
                    const double limit = std::clamp(level, 0.5, 254.5) + 1e-3 * (level == 60 || level == 200);
                    const bool left = column > 0 && grid.at(column - 1, row) > limit;
                    const bool here = column < grid.width() && grid.at(column, row) > limit;
                    steps += left != here;
                }
            std::size_t rowCrossings = 0;
            for (const Loop& loop : levelLines(grid, level)) {
                CHECK(isSimple(loop));
                for (std::size_t i = 0; i < loop.size(); ++i) {
                    CHECK(distance(loop[i], loop[(i + 1) % loop.size()]) <= 2);
                    rowCrossings += std::abs(loop[i].y - std::floor(loop[i].y) - 0.5) < 1e-12;
                }
            }
            // Each step between neighbours in a row is crossed exactly once. (A crossing of a column edge may
            // by chance lie at the centre's height only if its level is that of a sample, which is ruled
            // out.)
            CHECK(rowCrossings == steps);
        }
    }
}

TEST_CASE("a level outside or on the bounds still gives closed lines") {
    const auto grid = drawn(40, 40, disc({20, 20}, 12));
    for (const double level : {-5.0, 0.0, 255.0, 300.0})
        CHECK(levelLines(grid, level).size() == 1);
    CHECK(levelLines({}, 127.5).empty());
    CHECK(levelLines(Grid<std::uint8_t>(9, 9), 127.5).empty());
}

TEST_CASE("a stop is heard") {
    std::stop_source source;
    source.request_stop();
    CHECK_THROWS_AS(levelLines(Grid<std::uint8_t>(10, 10, 255), 127.5, source.get_token()), Stopped);
}

TEST_CASE("the edge of a disc is a smooth curve of few points, in millimetres") {
    const auto grid = drawn(240, 240, disc({120, 120}, 100));
    const auto edge = edgeOf(itemOf(grid), grid, {});
    REQUIRE(edge.size() == 1);
    CHECK(edge[0].points() <= 16);
    const Loop line = flatten(edge[0], 0.0005);
    CHECK(rootMeanSquareFromCircle(line, {12, 12}, 10) < 0.006); // 0.06 of a pixel
}

TEST_CASE("the letter F keeps its corners, its area and its way round") {
    const auto grid = drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); });
    const auto edge = edgeOf(itemOf(grid), grid, {});
    REQUIRE(edge.size() == 1);
    const Loop line = flatten(edge[0], 0.0005);
    CHECK(signedArea(line) == Approx(areaOfF * 0.01).epsilon(0.003));
    for (const Point corner : {Point{10, 10},
                               {50, 10},
                               {50, 22},
                               {22, 22},
                               {22, 34},
                               {38, 34},
                               {38, 46},
                               {22, 46},
                               {22, 70},
                               {10, 70}})
        CHECK(distanceToLoop(corner * 0.1, line) < 0.06);
    // Unmirrored: ink at the top right of the F, none at the bottom right.
    CHECK(distanceToLoop({5, 1}, line) < 0.03);
    CHECK(distanceToLoop({5, 7}, line) > 1);
}

TEST_CASE("a speck below the limit leaves no line, one above it does") {
    const auto grid = drawn(100, 60, [](double x, double y) {
        return disc({30, 30}, 20)(x, y) || disc({80, 30}, 4)(x, y); // 0.5 mm² at 0.1 mm a pixel
    });
    CHECK(edgeOf(itemOf(grid), grid, {}).size() == 1);
    EdgeOptions fine;
    fine.leastSpeck = 0.3;
    CHECK(edgeOf(itemOf(grid), grid, fine).size() == 2);
}

TEST_CASE("openings are closed unless they are to be cut, with all that lies in them") {
    const auto target = drawn(100, 100, [](double x, double y) {
        const double r = distance({x, y}, {50, 50});
        return (r < 45 && r > 30) || r < 15;
    });
    CHECK(edgeOf(itemOf(target), target, {}).size() == 1);
    EdgeOptions cut;
    cut.loops = LoopChoice::openings;
    CHECK(edgeOf(itemOf(target), target, cut).size() == 2);
    cut.loops = LoopChoice::all;
    CHECK(edgeOf(itemOf(target), target, cut).size() == 3);
    cut.leastOpening = 30; // mm²; the opening has 28
    CHECK(edgeOf(itemOf(target), target, cut).size() == 2);
}

TEST_CASE("a lower level takes in faint pixels") {
    Grid<std::uint8_t> grid(60, 60);
    for (int row = 10; row < 50; ++row)
        for (int column = 10; column < 50; ++column)
            grid.at(column, row) = column < 30 ? 255 : 100;
    const auto width = [&](double level) {
        EdgeOptions options;
        options.level = level;
        const auto edge = edgeOf(itemOf(grid), grid, options);
        return edge.size() == 1 ? bounds(flatten(edge[0], 0.001)).width() : 0;
    };
    CHECK(width(20) == Approx(4).margin(0.1));
    CHECK(width(80) == Approx(2).margin(0.1));
}

TEST_CASE("edges of items that overlap are joined into one") {
    const auto grid = drawn(60, 60, disc({30, 30}, 25));
    Item left = itemOf(grid), right = itemOf(grid);
    right.place.at = {3, 0};
    const auto one = edgeOf(left, grid, {}), other = edgeOf(right, grid, {});
    const auto joined = joinEdges({one, other}, 0.01);
    REQUIRE(joined.size() == 1);
    // Two discs of 2.5 mm whose centres are 3 mm apart, less the lens they share.
    const double r = 2.5, d = 3;
    const double lens = 2 * r * r * std::acos(d / (2 * r)) - d / 2 * std::sqrt(4 * r * r - d * d);
    CHECK(signedArea(flatten(joined[0], 0.001)) ==
          Approx(2 * std::numbers::pi * r * r - lens).epsilon(0.003));
    CHECK(joinEdges({one}, 0.01) == one);
    std::vector<Curve> far = other;
    for (Curve& curve : far)
        curve = map(curve, Affine::translation({20, 0}));
    CHECK(joinEdges({one, far}, 0.01) == std::vector<Curve>{one[0], far[0]}); // alone, it stays as it is
}

TEST_CASE("a preview's rough edge is the edge, a cell of the preview off at most", "[long]") {
    // 1,500 x 1,000 pixels are more than a preview holds.
    const auto coverage =
        drawn(1500, 1000, [](double x, double y) { return std::hypot(x - 750, y - 500) < 400; });
    const Item item{"", 1500, 1000, {{1, 2}, 150, 100}};
    const EdgePreview preview = previewOf({coverage});
    REQUIRE(preview.factor == 2);
    const auto rough = roughEdge(item, preview, {});
    REQUIRE(rough.size() == 1);
    double farthest = 0;
    for (const Point p : rough.front())
        farthest = std::max(farthest, std::abs(std::hypot(p.x - 76, p.y - 52) - 40));
    CHECK(farthest <= 0.03);
    EdgeOptions large;
    large.leastSpeck = 10'000;
    CHECK(roughEdge(item, preview, large).empty());
}

TEST_CASE("a coarser grid holds the means, also at a rim that the factor does not divide") {
    Grid<std::uint8_t> grid(5, 3);
    for (int y = 0; y < 3; ++y)
        for (int x = 0; x < 5; ++x)
            grid.at(x, y) = static_cast<std::uint8_t>(10 * x + 100 * (y == 2));
    const auto coarse = reduced(grid, 2);
    REQUIRE(coarse.width() == 3);
    REQUIRE(coarse.height() == 2);
    CHECK(coarse.at(0, 0) == 5);
    CHECK(coarse.at(2, 0) == 40);
    CHECK(coarse.at(0, 1) == 105);
    CHECK(coarse.at(2, 1) == 140);
    CHECK(reduced(grid, 1).at(4, 2) == 140);
}
