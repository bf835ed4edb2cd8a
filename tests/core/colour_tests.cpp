#include "edge/find_edge.h"
#include "geometry/crossings.h"
#include "geometry/region_operations.h"
#include "support/nasty_drawing.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <map>
#include <numbers>
#include <random>
#include <tuple>

using namespace hasami;

namespace {

const Rgba red{200, 30, 40, 255}, blue{30, 60, 180, 255}, yellow{240, 210, 40, 255},
    white{255, 255, 255, 255};

Rgba mix(Rgba a, Rgba b, double part) {
    const auto one = [&](std::uint8_t x, std::uint8_t y) {
        return static_cast<std::uint8_t>(std::lround(x + (y - x) * part));
    };
    return {one(a.red, b.red), one(a.green, b.green), one(a.blue, b.blue), one(a.coverage, b.coverage)};
}

/// Paints `colour` over the picture, as much as the coverage of a shape says (0 to 1).
template <class Shape>
void paint(Picture& picture, Rgba colour, Shape shape) {
    for (int y = 0; y < picture.pixels.height(); ++y)
        for (int x = 0; x < picture.pixels.width(); ++x)
            picture.pixels.at(x, y) = mix(picture.pixels.at(x, y), colour, shape(x + 0.5, y + 0.5));
}

auto disc(Point centre, double radius) {
    return [=](double x, double y) { return std::clamp(radius - distance({x, y}, centre) + 0.5, 0.0, 1.0); };
}

Picture sheet(int side, Rgba colour) {
    return {Grid<Rgba>(side, side, colour), 0, false, false, {}, {}};
}

/// A pixel is a tenth of a mm.
Item itemOf(const Picture& picture) {
    const int w = picture.pixels.width(), h = picture.pixels.height();
    return {"", w, h, {{0, 0}, w / 10.0, h / 10.0}};
}

std::vector<EdgeLoop> loopsOf(const Picture& picture, EdgeOptions options = {}, int count = 0) {
    options.way = EdgeWay::colours;
    return findColourLoops(itemOf(picture), picture.pixels, findColours(picture, count), options);
}

/// The area that each colour has in all.
std::map<std::vector<int>, double> areasOf(const std::vector<EdgeLoop>& loops) {
    std::map<std::vector<int>, double> areas;
    for (const EdgeLoop& loop : loops)
        areas[{loop.colour->red, loop.colour->green, loop.colour->blue}] +=
            signedArea(flatten(loop.curve, 0.001));
    return areas;
}

double areaOf(const std::vector<EdgeLoop>& loops, Rgba colour) {
    double sum = 0;
    for (const EdgeLoop& loop : loops)
        if (std::abs(loop.colour->red - colour.red) < 12 &&
            std::abs(loop.colour->green - colour.green) < 12 &&
            std::abs(loop.colour->blue - colour.blue) < 12)
            sum += signedArea(flatten(loop.curve, 0.001));
    return sum;
}

/// Every border once, each piece by itself.
std::vector<Curve> borderPieces(const std::vector<EdgeLoop>& loops) {
    const auto isLess = [](Point a, Point b) { return std::tie(a.x, a.y) < std::tie(b.x, b.y); };
    std::map<std::vector<double>, Curve> pieces;
    for (const EdgeLoop& loop : loops) {
        Point from = loop.curve.start;
        for (const CurveSegment& s : loop.curve.segments) {
            Curve piece{from, {s}};
            if (isLess(s.end, from))
                piece = reversed(piece);
            const CurveSegment& way = piece.segments.front();
            pieces[{piece.start.x, piece.start.y, way.control1.x, way.control1.y, way.control2.x,
                    way.control2.y, way.end.x, way.end.y}] = piece;
            from = s.end;
        }
    }
    std::vector<Curve> found;
    for (auto& [key, piece] : pieces)
        found.push_back(std::move(piece));
    return found;
}

/// Every piece but those against nothing is run by exactly one neighbour the other way.
std::size_t sharedPieces(const std::vector<EdgeLoop>& loops) {
    const auto key = [](Point a, Point b, Point c, Point d) {
        return std::vector<double>{a.x, a.y, b.x, b.y, c.x, c.y, d.x, d.y};
    };
    std::map<std::vector<double>, int> forwards;
    for (const EdgeLoop& loop : loops) {
        Point from = loop.curve.start;
        for (const CurveSegment& s : loop.curve.segments) {
            ++forwards[key(from, s.control1, s.control2, s.end)];
            from = s.end;
        }
    }
    std::size_t shared = 0;
    for (const EdgeLoop& loop : loops) {
        Point from = loop.curve.start;
        for (const CurveSegment& s : loop.curve.segments) {
            shared += forwards.count(key(s.end, s.control2, s.control1, from));
            from = s.end;
        }
    }
    return shared;
}

} // namespace

TEST_CASE("a disc on a backdrop is one area, its border exact to parts of a pixel") {
    Picture picture = sheet(300, white);
    paint(picture, red, disc({150, 150}, 100));
    const auto loops = loopsOf(picture);
    REQUIRE(loops.size() == 1);
    CHECK(areaOf(loops, red) == Approx(std::numbers::pi * 100).epsilon(2e-3));
    CHECK(loops[0].curve.points() < 20);
    for (const Point p : flatten(loops[0].curve, 0.001))
        CHECK(std::abs(distance(p, {15, 15}) - 10) < 0.02); // a fifth of a pixel
}

TEST_CASE("neighbours share their border, piece by piece, and leave no gap") {
    Picture picture = sheet(300, white);
    paint(picture, red, disc({150, 150}, 120));
    paint(picture, blue, [](double x, double y) {
        const double inDisc = std::clamp(120 - distance({x, y}, {150, 150}) + 0.5, 0.0, 1.0);
        return inDisc * std::clamp(x - 150 + 0.5, 0.0, 1.0); // the right half
    });
    paint(picture, yellow, disc({150, 150}, 40));
    const auto loops = loopsOf(picture);
    CHECK(areasOf(loops).size() == 3);
    CHECK(areaOf(loops, yellow) == Approx(std::numbers::pi * 16).epsilon(0.01));
    CHECK(areaOf(loops, red) == Approx(std::numbers::pi * (144 - 16) / 2).epsilon(0.01));
    CHECK(areaOf(loops, blue) == Approx(std::numbers::pi * (144 - 16) / 2).epsilon(0.01));
    // All areas together are the whole disc: the shared borders cancel out to the last bit.
    std::vector<Region> regions;
    double sum = 0;
    for (const EdgeLoop& loop : loops) {
        regions.push_back({{flatten(loop.curve, 0.002)}});
        sum += signedArea(regions.back().loops[0]);
    }
    CHECK(area(unite(regions)) == Approx(sum).epsilon(1e-4));
    CHECK(sharedPieces(loops) >= 4);
    for (const EdgeLoop& loop : loops)
        CHECK(test::isSimple(flatten(loop.curve, 0.02)));
}

TEST_CASE("four squares meet in one point") {
    Picture picture = sheet(200, white);
    const auto square = [](double left, double top) {
        return [=](double x, double y) {
            return x > left && x < left + 80 && y > top && y < top + 80 ? 1.0 : 0.0;
        };
    };
    paint(picture, red, square(20, 20));
    paint(picture, blue, square(100, 20));
    paint(picture, yellow, square(20, 100));
    paint(picture, Rgba{20, 140, 60, 255}, square(100, 100));
    const auto loops = loopsOf(picture);
    REQUIRE(loops.size() == 4);
    for (const EdgeLoop& loop : loops) {
        CHECK(loop.facts.area == Approx(64).epsilon(0.01));
        CHECK(loop.curve.points() <= 8);
        const Loop flat = flatten(loop.curve, 0.001);
        double least = 100;
        for (const Point p : flat)
            least = std::min(least, distance(p, {10, 10}));
        CHECK(least < 0.01);
    }
}

TEST_CASE("the mixed pixels between two colours are no third colour") {
    Picture picture = sheet(200, white);
    paint(picture, Rgba{0, 0, 0, 255}, disc({100, 100}, 70));
    paint(picture, Rgba{128, 128, 128, 255}, disc({100, 100}, 30)); // the colour that black and white mix to
    const auto loops = loopsOf(picture);
    CHECK(areasOf(loops).size() == 2);
    CHECK(loops.size() == 3); // black with its opening, grey
    CHECK(areaOf(loops, {128, 128, 128, 255}) == Approx(std::numbers::pi * 9).epsilon(0.01));
}

TEST_CASE(
    "a plainly different area of a hundredth is a colour of its own, a shade that others lead to is not") {
    constexpr Rgba face{244, 194, 70, 255}, shade{226, 152, 30, 255}, cheek{240, 140, 96, 255};
    Picture picture = sheet(300, white);
    paint(picture, face, disc({150, 150}, 120));
    for (int y = 0; y < 300; ++y) // from the face's colour to its shade, downwards
        for (int x = 0; x < 300; ++x)
            if (distance({x + 0.5, y + 0.5}, {150, 150}) < 119)
                picture.pixels.at(x, y) = mix(face, shade, std::clamp((y - 60) / 180.0, 0.0, 1.0));
    const std::size_t without = areasOf(loopsOf(picture)).size();
    CHECK(without == 1);
    paint(picture, cheek, disc({90, 130}, 12));
    paint(picture, cheek, disc({210, 130}, 12));
    const auto loops = loopsOf(picture);
    CHECK(areasOf(loops).size() == 2);
    CHECK(areaOf(loops, cheek) == Approx(2 * std::numbers::pi * 1.44).epsilon(0.03));
}

TEST_CASE("specks go to their neighbours, and the count asked for is kept to") {
    std::mt19937 random(3);
    Picture picture = sheet(200, white);
    paint(picture, red, disc({100, 100}, 80));
    for (int i = 0; i < 300; ++i)
        picture.pixels.at(60 + int(random() % 80), 60 + int(random() % 80)) = blue;
    paint(picture, yellow, disc({100, 60}, 12));
    const auto loops = loopsOf(picture);
    CHECK(areasOf(loops).size() == 2);
    CHECK(areaOf(loops, red) + areaOf(loops, yellow) == Approx(std::numbers::pi * 64).epsilon(0.01));
    CHECK(areasOf(loopsOf(picture, {}, 3)).size() == 2); // and the backdrop
    CHECK(areasOf(loopsOf(picture, {}, 2)).size() <= 2);
}

TEST_CASE("transparent pictures have no backdrop to leave out") {
    Picture picture{Grid<Rgba>(200, 200), 0, true, false, {}, {}};
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 200; ++x) {
            picture.pixels.at(x, y) = x < 100 ? red : blue;
            picture.pixels.at(x, y).coverage =
                static_cast<std::uint8_t>(std::lround(255 * disc({100, 100}, 80)(x + 0.5, y + 0.5)));
        }
    const auto loops = loopsOf(picture);
    REQUIRE(loops.size() == 2);
    CHECK(areaOf(loops, red) == Approx(std::numbers::pi * 32).epsilon(0.01));
    CHECK(areaOf(loops, blue) == Approx(std::numbers::pi * 32).epsilon(0.01));
}

TEST_CASE("noise, one colour, one pixel's width and no colour end without a hang") {
    std::mt19937 random(5);
    Picture noise = sheet(120, white);
    for (Rgba& p : noise.pixels.cells())
        p = {std::uint8_t(random()), std::uint8_t(random()), std::uint8_t(random()), 255};
    CHECK_NOTHROW(loopsOf(noise));
    const auto plain = loopsOf(sheet(50, red)); // the picture's own rim
    REQUIRE(plain.size() == 1);
    CHECK(plain[0].facts.area == Approx(25));
    CHECK(loopsOf(sheet(50, Rgba{})).empty());
    Picture thin{Grid<Rgba>(1, 90, red), 0, false, false, {}, {}};
    CHECK_NOTHROW(findColourLoops(itemOf(thin), thin.pixels, findColours(thin, 0), {}));
}

TEST_CASE("random areas part the picture without gap or overlap") {
    std::mt19937 random(9);
    for (int round = 0; round < test::rounds(12, 4); ++round) {
        Picture picture = sheet(160, Rgba{20, 140, 60, 255});
        for (int i = 0; i < 12; ++i) {
            const Rgba colours[] = {red, blue, yellow, white};
            paint(picture, colours[random() % 4],
                  disc({double(random() % 160), double(random() % 160)}, 10 + double(random() % 40)));
        }
        picture.pixels.at(0, 0).coverage = 0; // so that no backdrop is left out
        EdgeOptions options;
        options.leastSpeck = 0.3;
        const auto loops = loopsOf(picture, options);
        double sum = 0;
        for (const EdgeLoop& loop : loops)
            sum += signedArea(flatten(loop.curve, 0.001));
        CHECK(sum == Approx(256).epsilon(2e-3));
    }
}

TEST_CASE("no border of a nasty drawing's colours crosses itself or another") {
    std::mt19937 random(31);
    std::size_t pieces = 0;
    for (int round = 0; round < test::rounds(30, 4); ++round) {
        const Grid<std::uint8_t> shape = test::nastyDrawing(random), other = test::nastyDrawing(random);
        Picture picture{Grid<Rgba>(shape.width(), shape.height(), white), 0, false, false, {}, {}};
        const auto inside = [](const Grid<std::uint8_t>& grid) {
            return [&](double x, double y) {
                const int column = int(x), row = int(y);
                return column < grid.width() && row < grid.height() ? grid.at(column, row) / 255.0 : 0.0;
            };
        };
        paint(picture, red, inside(shape));
        paint(picture, blue, inside(other));
        EdgeOptions options;
        options.leastSpeck = 0.05;
        const std::vector<Curve> borders = borderPieces(loopsOf(picture, options, 3));
        INFO("drawing " << round);
        REQUIRE(crossingsOf(borders).empty());
        pieces += borders.size();
    }
    CHECK(pieces > std::size_t(test::rounds(500, 100)));
}

TEST_CASE("a border inside the artwork takes no more points than the same one at its rim") {
    // A wavy disc, softened, and then sharpened again as cameras and shops do.
    const auto wavy = [](double x, double y) {
        const Point p = Point{x, y} - Point{150, 150};
        return std::clamp((100 + 10 * std::sin(3 * std::atan2(p.y, p.x)) - length(p)) / 2.0 + 0.5, -0.3, 1.3);
    };
    Picture inside = sheet(300, blue);
    Grid<std::uint8_t> coverage(300, 300);
    for (int y = 0; y < 300; ++y)
        for (int x = 0; x < 300; ++x) {
            const double part = std::clamp(wavy(x + 0.5, y + 0.5), 0.0, 1.0);
            inside.pixels.at(x, y) = mix(blue, red, part);
            coverage.at(x, y) = std::uint8_t(std::lround(255 * part));
        }
    const auto atRim = findLoops(itemOf(inside), Coverage{coverage}, {});
    const auto within = loopsOf(inside, {}, 2);
    REQUIRE(atRim.size() == 1);
    REQUIRE(within.size() == 1);
    CHECK(within[0].curve.points() <= atRim[0].curve.points() + 2);
}
