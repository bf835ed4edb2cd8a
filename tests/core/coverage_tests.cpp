#include "edge/backdrop.h"
#include "edge/coverage.h"
#include "edge/find_edge.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr Rgba red{200, 40, 30, 255};

/// A subject of one colour over a backdrop, both with a little noise of a fixed seed.
template <class Inside, class Behind>
Picture scene(int width, int height, const Inside& inside, const Behind& behind, Rgba subject = red,
              double noise = 2) {
    const auto coverage = drawn(width, height, inside);
    std::mt19937 random(1);
    std::normal_distribution<double> spread(0, noise);
    Picture picture;
    picture.pixels = Grid<Rgba>(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const double part = coverage.at(x, y) / 255.0;
            const auto [r, g, b] = behind(x, y);
            const auto mixed = [&](double front, double back) {
                return static_cast<std::uint8_t>(
                    std::clamp(front * part + back * (1 - part) + spread(random), 0.0, 255.0));
            };
            picture.pixels.at(x, y) = {mixed(subject.red, r), mixed(subject.green, g), mixed(subject.blue, b),
                                       255};
        }
    return picture;
}

struct Light {
    double red, green, blue;
};

Light graded(int x, int y) {
    return {240 - 0.1 * x, 238 - 0.12 * y, 225 + 0.05 * x};
}

/// Area in pixels of what the edge of the picture encloses, openings left out.
double areaFound(const Coverage& coverage, LoopChoice loops = LoopChoice::openings) {
    const Item item{"",
                    coverage.cells.width(),
                    coverage.cells.height(),
                    {{0, 0}, double(coverage.cells.width()), double(coverage.cells.height())}};
    EdgeOptions options;
    options.loops = loops;
    options.leastSpeck = options.leastOpening = 9;
    const auto edge = findEdge(item, coverage, options);
    return area(flatten(edge, 0.01));
}

const double discArea = std::numbers::pi * 60 * 60;
const auto theDisc = disc({100.3, 99.6}, 60);

} // namespace

TEST_CASE("a subject is told from a graded, noisy backdrop, and its openings from it") {
    const Picture whole = scene(200, 200, theDisc, graded);
    CHECK(chooseWay(whole) == EdgeWay::backdrop);
    CHECK(areaFound(findCoverage(whole, EdgeWay::automatic, 0)) == Approx(discArea).epsilon(0.003));
    const Picture ring = scene(
        200, 200,
        [](double x, double y) {
            return theDisc(x, y) && !disc({100.3, 99.6}, 25)(x, y);
        },
        graded);
    const double opening = std::numbers::pi * 25 * 25;
    CHECK(areaFound(findCoverage(ring, EdgeWay::backdrop, 0)) == Approx(discArea - opening).epsilon(0.003));
}

TEST_CASE("a backdrop of two colours is left out, with the line where they meet") {
    const Picture picture = scene(240, 240, theDisc, [](int, int y) {
        return y < 130 ? Light{210, 225, 240} : Light{120, 150, 90};
    });
    CHECK(areaFound(findCoverage(picture, EdgeWay::backdrop, 0)) == Approx(discArea).epsilon(0.01));
}

TEST_CASE("a soft shadow is left out, and taken in as far as is asked") {
    const auto withShadow = [](int x, int y) {
        const double away = std::hypot(x - 125, y - 130);
        const double light = 1 - 0.4 / (1 + std::exp((away - 55) / 6));
        return Light{240 * light, 236 * light, 228 * light};
    };
    const Picture picture = scene(260, 260, theDisc, withShadow);
    CHECK(areaFound(findCoverage(picture, EdgeWay::backdrop, 0)) == Approx(discArea).epsilon(0.01));
    double before = discArea;
    for (const double shadow : {50.0, 80.0, 100.0}) {
        const double now = areaFound(findCoverage(picture, EdgeWay::backdrop, shadow));
        CHECK(now >= before * 0.99);
        before = now;
    }
    CHECK(before > 1.15 * discArea);
}

TEST_CASE("a subject that is cut off by the picture's rim is kept whole") {
    const auto low = disc({100, 170}, 60);
    const Picture picture = scene(200, 200, low, graded);
    const double part = areaFound(findCoverage(picture, EdgeWay::backdrop, 0));
    double expected = 0;
    const auto whole = drawn(200, 200, low); // a range must outlive its loop
    for (const std::uint8_t cell : whole.cells())
        expected += cell / 255.0;
    CHECK(part == Approx(expected).epsilon(0.02));
}

TEST_CASE("where nothing stands out, the picture's rim is the edge; asked for by name, nothing is found") {
    const Picture plain = scene(
        60, 50, [](double, double) { return false; }, graded);
    const Coverage found = findCoverage(plain, EdgeWay::automatic, 0);
    CHECK(found.way == EdgeWay::transparency);
    CHECK(areaFound(found) == Approx(60 * 50).epsilon(0.01));
    CHECK(areaFound(findCoverage(plain, EdgeWay::backdrop, 0)) == 0);
}

TEST_CASE("100,000 specks and pure noise end in a result, not in a hang", "[long]") {
    std::mt19937 random(3);
    Picture picture;
    picture.pixels = Grid<Rgba>(900, 700, {240, 240, 240, 255});
    for (int i = 0; i < 100'000; ++i)
        picture.pixels.at(int(random() % 900), int(random() % 700)) = red;
    CHECK(findCoverage(picture, EdgeWay::backdrop, 30).cells.width() == 900);
    for (Rgba& p : picture.pixels.cells())
        p = {std::uint8_t(random()), std::uint8_t(random()), std::uint8_t(random()), 255};
    CHECK(findCoverage(picture, EdgeWay::automatic, 0).cells.height() == 700);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS(findCoverage(picture, EdgeWay::backdrop, 0, stop.get_token()));
}

TEST_CASE("line art is found by brightness, dark on light and light on dark") {
    for (const bool onLight : {true, false}) {
        const double back = onLight ? 250 : 12;
        const auto ink = static_cast<std::uint8_t>(onLight ? 15 : 245);
        const Picture picture = scene(
            200, 200, theDisc,
            [=](int, int) {
                return Light{back, back, back};
            },
            {ink, ink, ink, 255}, 1);
        if (onLight)
            CHECK(chooseWay(picture) == EdgeWay::brightness);
        CHECK(areaFound(findCoverage(picture, EdgeWay::brightness, 0)) == Approx(discArea).epsilon(0.005));
    }
}

TEST_CASE("the level suggested is the middle for a clean picture, and above a faint veil") {
    const auto clean = drawn(200, 200, theDisc);
    CHECK(crispestLevel(clean) == 50);
    Grid<std::uint8_t> veiled = clean;
    const auto glow = [](int x, int y) {
        return 150 / (1 + std::exp((std::hypot(x - 100.0, y - 100.0) - 75) / 4));
    };
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 200; ++x)
            veiled.at(x, y) = static_cast<std::uint8_t>(std::max<double>(clean.at(x, y), glow(x, y)));
    const double level = crispestLevel(veiled);
    CHECK(level > 150 / 2.55);
    Coverage coverage{veiled};
    coverage.level = level;
    CHECK(areaFound(coverage) == Approx(discArea).epsilon(0.02));
}

TEST_CASE("subjects of few levels' difference are found on plain and graded backdrops") {
    const auto found = [](const auto& behind, Rgba subject) {
        return areaFound(
            findCoverage(scene(300, 300, disc({150.3, 149.6}, 60), behind, subject), EdgeWay::automatic, 0));
    };
    const auto plain = [](int, int) { return Light{200, 200, 200}; };
    CHECK(found(plain, {185, 185, 185, 255}) == Approx(discArea).epsilon(0.01));
    CHECK(found(plain, {215, 215, 215, 255}) == Approx(discArea).epsilon(0.01));
    CHECK(found(plain, {200, 200, 185, 255}) == Approx(discArea).epsilon(0.01));
    const auto white = [](int, int) { return Light{255, 255, 255}; };
    CHECK(found(white, {255, 250, 228, 255}) == Approx(discArea).epsilon(0.01)); // cream
    const auto slope = [](int x, int y) { return Light{150 + 0.1 * x, 160 + 0.05 * y, 180 - 0.08 * x}; };
    CHECK(found(slope, {165, 185, 168, 255}) == Approx(discArea).epsilon(0.01));
    CHECK(found(plain, {200, 200, 200, 255}) == Approx(90'000).epsilon(0.001)); // nothing: the picture's rim
}

TEST_CASE("a frame of up to three pixels is looked through, a white margin is not") {
    for (int width = 1; width <= 4; ++width) {
        Picture picture = scene(200, 200, theDisc, graded);
        const auto draw = [&](Rgba colour) {
            for (int y = 0; y < 200; ++y)
                for (int x = 0; x < 200; ++x)
                    if (std::min({x, y, 199 - x, 199 - y}) < width)
                        picture.pixels.at(x, y) = colour;
        };
        draw({20, 20, 25, 255});
        const double within = areaFound(findCoverage(picture, EdgeWay::backdrop, 0), LoopChoice::outer);
        if (width <= 3)
            CHECK(within == Approx(discArea).epsilon(0.003));
        else
            CHECK(within > 30'000);
    }
    Picture badge = scene(200, 200, theDisc, [](int, int) { return Light{40, 90, 160}; });
    for (int i = 0; i < 200; ++i)
        for (const auto& [x, y] :
             {std::pair(i, 0), {i, 1}, {i, 198}, {i, 199}, {0, i}, {1, i}, {198, i}, {199, i}})
            badge.pixels.at(x, y) = {255, 255, 255, 255};
    CHECK(areaFound(findCoverage(badge, EdgeWay::backdrop, 0), LoopChoice::outer) ==
          Approx(196 * 196).epsilon(0.03));
}

TEST_CASE("where two backdrops meet behind the subject, its line runs on") {
    const auto seam = [](int x, int y) {
        return x + 0.3 * y < 130 ? Light{120, 160, 210} : Light{90, 140, 70};
    };
    const Picture picture = scene(200, 200, theDisc, seam);
    CHECK(areaFound(findCoverage(picture, EdgeWay::backdrop, 0)) == Approx(discArea).epsilon(0.003));
}

TEST_CASE("the level suggested keeps what is plainly visible: glows, feathered rims, faint lines") {
    const auto levelOf = [](const auto& partAt) {
        Picture picture;
        picture.hasCoverage = true;
        picture.pixels = Grid<Rgba>(400, 400);
        for (int y = 0; y < 400; ++y)
            for (int x = 0; x < 400; ++x)
                picture.pixels.at(x, y) = {
                    200, 40, 30,
                    static_cast<std::uint8_t>(std::lround(
                        255 * std::clamp(partAt(std::hypot(x + 0.5 - 200, y + 0.5 - 200), x, y), 0.0, 1.0)))};
        const Coverage found = findCoverage(picture, EdgeWay::automatic, 0);
        const double line = found.level * 2.55;
        // Nothing of more than a quarter lies farther than three pixels from what reaches the level.
        for (int y = 0; y < 400; ++y)
            for (int x = 0; x < 400; ++x)
                if (found.cells.at(x, y) > 66) {
                    int most = 0;
                    for (int v = std::max(0, y - 3); v <= std::min(399, y + 3); ++v)
                        for (int u = std::max(0, x - 3); u <= std::min(399, x + 3); ++u)
                            most = std::max(most, int(found.cells.at(u, v)));
                    if (most < line)
                        FAIL_CHECK("lost at " << x << ", " << y);
                }
        return found.level;
    };
    CHECK(levelOf([](double r, int, int) { return 150.5 - r; }) == 50);
    CHECK(levelOf([](double r, int, int) { return (152 - r) / 4; }) == Approx(50).margin(3)); // a little soft
    CHECK(levelOf([](double r, int, int) { return (180 - r) / 60; }) < 35);                   // feathered
    CHECK(levelOf([](double r, int, int) { return 1 - r / 190; }) < 35); // to transparent
    CHECK(levelOf([](double r, int, int) {
              return std::max(100.5 - r, 0.6 * std::exp(-std::max(0.0, r - 100) / 25)); // a glow
          }) < 35);
    for (const double opacity : {0.3, 0.4}) { // hairlines
        const double level = levelOf([=](double r, int x, int y) {
            const bool isLine = (x == 200 || y == 200) && r < 180;
            return std::max(60.5 - r, isLine ? opacity : 0.0);
        });
        CHECK(level < 100 * opacity - 2);
        CHECK(level >= 25);
    }
}

TEST_CASE("a faint rim three pixels from a side counts as far away, whichever side it is") {
    for (const bool isAcross : {false, true}) {
        Grid<std::uint8_t> coverage(20, 20);
        for (int y = 0; y < 20; ++y)
            for (int x = 0; x < 20; ++x) {
                const int out = (isAcross ? x : y) - 9;
                coverage.at(x, y) = out <= 0 ? 255 : out == 3 ? 100 : 0;
            }
        CAPTURE(isAcross);
        CHECK(levelThatKeeps(coverage, 50) < 50);
    }
}

TEST_CASE("a picture without half-covered pixels still gives a smooth line of few points") {
    Grid<std::uint8_t> hard = drawn(200, 200, theDisc);
    for (std::uint8_t& cell : hard.cells())
        cell = cell > 127 ? 255 : 0;
    Picture picture = pictureOf(hard);
    const Coverage coverage = findCoverage(picture, EdgeWay::automatic, 0);
    CHECK(coverage.scatter > 0.2);
    const Item item{"", 200, 200, {{0, 0}, 20, 20}};
    const auto edge = findEdge(item, coverage, {});
    REQUIRE(edge.size() == 1);
    CHECK(edge[0].points() <= 12);
    for (const Point p : flatten(edge[0], 0.001))
        CHECK(distance(p, {10.03, 9.96}) == Approx(6).margin(0.06));
}

TEST_CASE("smoothing evens out bumps and leaves corners") {
    // A square with bumps of 2 pixels along its sides.
    const auto bumpy = [](double x, double y) {
        const double bump = 1.5 * std::sin(x / 2) * std::sin(y / 2);
        return x > 30 + bump && x < 170 + bump && y > 30 + bump && y < 170 + bump;
    };
    const Coverage coverage{drawn(200, 200, bumpy)};
    const Item item{"", 200, 200, {{0, 0}, 20, 20}};
    EdgeOptions options;
    const auto plain = findEdge(item, coverage, options);
    options.smoothing = 0.6;
    const auto smooth = findEdge(item, coverage, options);
    REQUIRE(smooth.size() == 1);
    CHECK(smooth[0].points() * 3 < plain[0].points());
    for (const Point corner : {Point{3, 3}, {17, 3}, {17, 17}, {3, 17}}) {
        double nearest = 100;
        for (const CurveSegment& s : smooth[0].segments)
            nearest = std::min(nearest, distance(s.end, corner));
        CHECK(nearest < 0.4);
    }
}

TEST_CASE("plain shapes hold the artwork with their margin, and have their areas") {
    const Box artwork{{1, 2}, {41, 22}};
    const auto areaOf = [&](PlainShapeKind kind, double margin, double radius = 3, int sides = 6) {
        const Curve curve = shapeAround(artwork, {kind, margin, radius, sides});
        REQUIRE(curve.segments.back().end == curve.start);
        const Loop loop = flatten(curve, 0.0005);
        CHECK(bounds(loop).centre().x == Approx(21).margin(kind == PlainShapeKind::polygon ? 6 : 0.01));
        return signedArea(loop);
    };
    CHECK(areaOf(PlainShapeKind::box, 2) == Approx(44 * 24));
    CHECK(areaOf(PlainShapeKind::box, -3) == Approx(34 * 14));
    CHECK(areaOf(PlainShapeKind::rounded, 0, 5) ==
          Approx(40 * 20 - (4 - std::numbers::pi) * 25).epsilon(1e-4));
    CHECK(areaOf(PlainShapeKind::rounded, 0, 100) == Approx(20 * 20 + std::numbers::pi * 100).epsilon(1e-3));
    CHECK(areaOf(PlainShapeKind::rounded, 0, 0) == Approx(40 * 20));
    CHECK(areaOf(PlainShapeKind::ellipse, 0) == Approx(std::numbers::pi * 20 * 10 * 2).epsilon(1e-3));
    CHECK(areaOf(PlainShapeKind::circle, 1) ==
          Approx(std::numbers::pi * std::pow(std::hypot(20, 10) + 1, 2)).epsilon(1e-3));
    const double inner = std::hypot(20, 10);
    CHECK(areaOf(PlainShapeKind::polygon, 0, 3, 6) ==
          Approx(6 * inner * inner * std::tan(std::numbers::pi / 6)));
    CHECK(areaOf(PlainShapeKind::box, -40) > 0); // an inward margin never turns it inside out
}

TEST_CASE("a plain shape can have its own size, in the middle of the artwork") {
    const Box artwork{{1, 2}, {41, 22}};
    for (const PlainShapeKind kind : {PlainShapeKind::box, PlainShapeKind::rounded, PlainShapeKind::ellipse,
                                      PlainShapeKind::circle, PlainShapeKind::polygon}) {
        PlainShape shape{kind, 2, 3, 6};
        const Loop byMargin = flatten(shapeAround(artwork, shape), 0.001);
        const PlainShape sized = withOwnSize(artwork, shape);
        CHECK(sized.bySize);
        CHECK(signedArea(flatten(shapeAround(artwork, sized), 0.001)) == Approx(signedArea(byMargin)));
        // The same for other artwork, wherever its middle is.
        const Box other{{0, 0}, {10, 90}};
        const Loop around = flatten(shapeAround(other, sized), 0.001);
        CHECK(signedArea(around) == Approx(signedArea(byMargin)));
        CHECK(bounds(around).centre().x == Approx(5).margin(1e-6));
    }
}
