#include "artwork/paint_list.h"
#include "artwork/vector_page.h"
#include "base/error.h"
#include "edge/paint_outline.h"
#include "geometry/stroke.h"
#include "sticker/brought_lines.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace hasami;

namespace {

constexpr double pi = std::numbers::pi;

Subpath polyline(std::initializer_list<Point> points, bool isClosed) {
    Subpath run{*points.begin(), {}, isClosed};
    for (const Point* p = points.begin() + 1; p != points.end(); ++p)
        run.segments.push_back(straightSegment(p[-1], *p));
    return run;
}

Subpath rectangle(Point least, Point most) {
    return polyline({least, {most.x, least.y}, most, {least.x, most.y}}, true);
}

/// Four cubics, a circle within 3e-4 of its radius.
Subpath disc(Point centre, double radius) {
    constexpr double k = 0.5522847498307936;
    Subpath run{centre + Point{radius, 0}, {}, true};
    Point from{radius, 0};
    for (int i = 0; i < 4; ++i) {
        const Point to{-from.y, from.x};
        run.segments.push_back({centre + from + to * k, centre + to + from * k, centre + to, false});
        from = to;
    }
    return run;
}

double strokedArea(const Path& path, const StrokeStyle& style) {
    return area(enclosed({strokeLoops(path, style, 1e-4)}, FillRule::nonZero));
}

PaintItem filled(Path path, int clip = -1, double opacity = 1) {
    PaintItem item;
    item.clip = clip;
    item.opacity = opacity;
    item.shape.path = std::move(path);
    return item;
}

PaintItem stroked(Path path, double width, std::string spot = {}, const Affine& toPage = {}) {
    PaintItem item;
    item.spot = std::move(spot);
    item.shape.path = std::move(path);
    StrokeStyle style;
    style.width = width;
    item.shape.stroke = PaintShape::Stroke{style, toPage};
    return item;
}

/// A page of 100 x 80 mm as an item of its natural size.
struct Page {
    PaintList paint{100, 80, {}, {}};
    Picture picture;

    Item item() const {
        const auto [width, height] = pagePixels(paint.width, paint.height);
        return {"page.pdf", width, height, {{0, 0}, paint.width, paint.height}, {}, FilePage{{"sha"}}};
    }
    Region painted(bool withBackdrop = false) const {
        return paintedArea(item(), paint, picture, withBackdrop);
    }
};

} // namespace

TEST_CASE("a stroke's area is that of its line, its caps and its joins") {
    const Path line{polyline({{0, 0}, {10, 0}}, false)};
    StrokeStyle style;
    style.width = 2;
    CHECK(strokedArea(line, style) == Approx(20));
    style.cap = LineCap::square;
    CHECK(strokedArea(line, style) == Approx(24));
    style.cap = LineCap::round;
    CHECK(strokedArea(line, style) == Approx(20 + pi).epsilon(1e-3));

    const Path corner{polyline({{0, 0}, {10, 0}, {10, 10}}, false)};
    style.cap = LineCap::butt;
    style.join = LineJoin::miter;
    CHECK(strokedArea(corner, style) == Approx(40));
    style.join = LineJoin::bevel;
    CHECK(strokedArea(corner, style) == Approx(39.5));
    style.join = LineJoin::round;
    CHECK(strokedArea(corner, style) == Approx(39 + pi / 4).epsilon(1e-3));
    style.join = LineJoin::miter;
    style.miterLimit = 1.4; // a right angle needs the root of 2
    CHECK(strokedArea(corner, style) == Approx(39.5));

    style.miterLimit = 10;
    CHECK(strokedArea({rectangle({0, 0}, {20, 10})}, style) == Approx(22 * 12 - 18 * 8));
    CHECK(strokedArea({disc({0, 0}, 10)}, style) == Approx(pi * (121 - 81)).epsilon(1e-3));
    // Wider than the circle: the whole disc, no hole left by the inner side.
    style.width = 30;
    CHECK(strokedArea({disc({0, 0}, 10)}, style) == Approx(pi * 625).epsilon(1e-3));
}

TEST_CASE("dashes are painted by their pattern and phase, on round corners too") {
    const Path line{polyline({{0, 0}, {10, 0}}, false)};
    StrokeStyle style;
    style.width = 1;
    style.dashes = {2, 1};
    CHECK(strokedArea(line, style) == Approx(2 + 2 + 2 + 1));
    style.dashPhase = 1;
    CHECK(strokedArea(line, style) == Approx(1 + 2 + 2 + 2));
    style.dashPhase = -1; // begins in a gap
    CHECK(strokedArea(line, style) == Approx(6));
    style.dashes = {3}; // as long painted as left out
    style.dashPhase = 0;
    CHECK(strokedArea(line, style) == Approx(3 + 3));
    style.dashes = {0, 2}; // dots, by their caps alone
    CHECK(strokedArea(line, style) == 0);
    style.cap = LineCap::round;
    CHECK(strokedArea(line, style) == Approx(5 * pi / 4).epsilon(1e-3));
    style.dashes = {0, 0};
    style.cap = LineCap::butt;
    CHECK(strokedArea(line, style) == Approx(10)); // no pattern at all
    style.dashes = {1e-9, 1e-9};
    CHECK(strokedArea(line, style) == Approx(10)); // too fine to be meant
    style.dashes = {5, 5};
    CHECK(strokedArea({rectangle({0, 0}, {20, 10})}, style) == Approx(30).epsilon(0.02));
}

TEST_CASE("random strokes cover what lies within half their width, and no more") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(0, 20), width(0.2, 6);
    for (int run = 0; run < test::rounds(60, 15); ++run) {
        INFO(run);
        Subpath path{{place(random), place(random)}, {}, run % 2 == 0};
        for (int i = 0; i < 5; ++i) {
            const Point end{place(random), place(random)};
            path.segments.push_back(
                {{place(random), place(random)}, {place(random), place(random)}, end, false});
        }
        StrokeStyle style;
        style.width = width(random);
        style.cap = LineCap::round;
        style.join = LineJoin::round;
        const Region covered = enclosed({strokeLoops({path}, style, 1e-3)}, FillRule::nonZero);
        std::vector<Point> course = flatten(path, 1e-3);
        if (path.isClosed)
            course.push_back(course.front());
        const auto isCovered = [&](Point p) {
            return std::count_if(covered.loops.begin(), covered.loops.end(),
                                 [&](const Loop& loop) { return contains(loop, p); }) %
                       2 ==
                   1;
        };
        for (int i = 0; i < 200; ++i) {
            const Point p{place(random) * 1.4 - 4, place(random) * 1.4 - 4};
            double near = 1e9;
            for (std::size_t k = 1; k < course.size(); ++k)
                near = std::min(near, distanceToSegment(p, course[k - 1], course[k]));
            if (std::abs(near - style.width / 2) > 0.01)
                CHECK(isCovered(p) == (near < style.width / 2));
        }
    }
}

TEST_CASE("a paint list survives as text, and damaged text is refused") {
    PaintList list{210.5, 297, {}, {}};
    list.clips.push_back({-1, {{rectangle({0, 0}, {50, 50})}, FillRule::evenOdd, {}}});
    list.clips.push_back({0, stroked({disc({20, 20}, 5)}, 2).shape});
    list.items.push_back(filled({disc({1 / 3.0, 1e-7}, 5), polyline({{1, 2}, {3, 4}}, false)}, 1, 0.25));
    list.items.back().colour = {12, 34, 56, 255};
    list.items.push_back(
        stroked({polyline({{0, 0}, {9, 9}}, false)}, 0.5, "Cut contour ä", {1, 2, 3, 4, 5, 6}));
    list.items.back().shape.stroke->style = {0.5, LineCap::square, LineJoin::bevel, 3, {1, 2.5}, 0.5};
    list.items.back().colour.coverage = 255;
    list.items.push_back(filled({rectangle({0, 0}, {1, 1})}));
    list.items.back().kind = PaintItem::Kind::picture;
    list.items.back().isMasked = true;
    list.items.back().colour.coverage = 255;
    const std::string text = paintListText(list);
    CHECK(parsePaintList(text) == list);

    std::mt19937 random(3);
    int refused = 0;
    for (int run = 0; run < 3000; ++run) {
        std::string damaged = text;
        for (int i = 0; i < 1 + run % 3; ++i)
            damaged[random() % damaged.size()] = " 09.-eimlcz;\n"[random() % 13];
        if (run % 4 == 0)
            damaged.resize(random() % damaged.size());
        try {
            parsePaintList(damaged);
        } catch (const InputError&) {
            ++refused;
        }
    }
    CHECK(refused > 1000);
    for (const char* wrong : {"", "paint-list 2\nsize 1 1\n", "paint-list 1\nsize 0 1\n",
                              "paint-list 1\nsize 1 nan\n", "paint-list 1\nsize 1 1\nclip 0 fill ;\n",
                              "paint-list 1\nsize 1 1\nitem plain -1 1 0 0 0 0 - fill l 1 1 ;\n",
                              "paint-list 1\nsize 1 1\nitem plain -1 1 0 0 0 0 - fill m 1e300 1 ;\n"}) {
        INFO(wrong);
        CHECK_THROWS_AS(parsePaintList(wrong), InputError);
    }
}

TEST_CASE("what is painted: fills and strokes together, each by its own rule, within clips and the page") {
    Page page;
    auto& items = page.paint.items;
    items.push_back(filled({rectangle({10, 10}, {30, 30})}));
    CHECK(area(page.painted()) == Approx(400));
    // The other way round, and over the first: nothing is taken away.
    items.push_back(filled({polyline({{20, 20}, {20, 40}, {40, 40}, {40, 20}}, true)}));
    CHECK(area(page.painted()) == Approx(700));
    // A line around the first, of a pen twice as wide as high.
    items = {stroked({rectangle({5, 10}, {15, 30})}, 2, {}, Affine::scaling(2, 1))};
    CHECK(area(page.painted()) == Approx(24 * 22 - 16 * 18));
    items = {filled({rectangle({10, 10}, {30, 30}), rectangle({15, 15}, {25, 25})})};
    CHECK(area(page.painted()) == Approx(400));
    items[0].shape.rule = FillRule::evenOdd;
    CHECK(area(page.painted()) == Approx(300));
    CHECK(page.painted().loops.size() == 2);
    // Clips within clips; a clip larger than the page is none.
    items = {filled({rectangle({10, 10}, {30, 30})}, 1)};
    page.paint.clips = {{-1, {{rectangle({0, 0}, {20, 80})}, FillRule::nonZero, {}}},
                        {0, {{rectangle({0, 0}, {100, 20})}, FillRule::nonZero, {}}}};
    CHECK(area(page.painted()) == Approx(100));
    page.paint.clips[0].shape.path = {rectangle({-5, -5}, {200, 200})};
    CHECK(area(page.painted()) == Approx(200));
    page.paint.clips.clear();
    // What is faint or off the page is not there.
    items = {filled({rectangle({10, 10}, {20, 20})}, -1, 0.04), filled({rectangle({90, 70}, {120, 120})})};
    CHECK(area(page.painted()) == Approx(100));
    items[0].opacity = 0.06;
    CHECK(area(page.painted()) == Approx(200));
}

TEST_CASE("paint that runs kilometres past the page is seen where it crosses it") {
    Page page;
    page.paint.items = {stroked({polyline({{10, 10}, {50, 50}}, false)}, 2, {}, {43750, 0, 0, 1, 0, 0})};
    CHECK(area(page.painted()) == 0);
    page.paint.items = {stroked({polyline({{-50, 40}, {50, 40}}, false)}, 2, {}, {43750, 0, 0, 1, 0, 0})};
    CHECK(area(page.painted()) == Approx(200));
}

TEST_CASE("a figure of eight under the non-zero rule stays whole beside another area") {
    Page page;
    page.paint.items = {filled({polyline({{10, 10}, {30, 30}, {30, 10}, {10, 30}}, true)}),
                        filled({rectangle({22, 15}, {40, 25})})};
    CHECK(area(page.painted()) == Approx(200 + 180 - 72).epsilon(0.01));
}

TEST_CASE("a plain paint over the whole page behind all else is backdrop, unless it is all there is") {
    Page page;
    auto& items = page.paint.items;
    items = {filled({rectangle({-1, -1}, {101, 81})}), filled({rectangle({0, 0}, {100, 80})}),
             filled({disc({50, 40}, 10)})};
    CHECK(backdropItems(page.paint) == 2);
    CHECK(area(page.painted()) == Approx(100 * pi).epsilon(1e-3));
    CHECK(area(page.painted(true)) == Approx(8000));
    items.resize(1);
    CHECK(backdropItems(page.paint) == 0);
    items = {filled({disc({50, 40}, 70)}), filled({disc({50, 40}, 10)})}; // covers the page, but is no box
    CHECK(backdropItems(page.paint) == 0);
    items[0] = filled({rectangle({0, 0}, {100, 80})});
    items[0].kind = PaintItem::Kind::picture;
    CHECK(backdropItems(page.paint) == 0);
}

TEST_CASE("a backdrop may fall short of the page by less than a point, as in an EPS file's rounded box") {
    Page page;
    auto& items = page.paint.items;
    items = {filled({rectangle({0.3, 0.2}, {99.7, 79.7})}), filled({disc({50, 40}, 10)})};
    CHECK(backdropItems(page.paint) == 1);
    items[0] = filled({rectangle({0.5, 0}, {100, 80})});
    CHECK(backdropItems(page.paint) == 0);
}

TEST_CASE("a plain paint is no backdrop where all else reaches three edges of the page") {
    Page page;
    auto& items = page.paint.items;
    const auto field = filled({rectangle({0, 0}, {100, 80})});
    items = {field, filled({rectangle({0, 30}, {100, 50})})}; // a stripe from side to side
    CHECK(backdropItems(page.paint) == 1);
    items.push_back(filled({rectangle({30, 0}, {50, 40})})); // one up from it
    CHECK(backdropItems(page.paint) == 0);
    CHECK(area(page.painted()) == Approx(8000));
    items = {field, filled({rectangle({30, 20}, {50, 40})}), field}; // one in front
    CHECK(backdropItems(page.paint) == 0);
    items = {field, filled({disc({50, 40}, 70)})}; // cut to the page
    CHECK(backdropItems(page.paint) == 0);
    page.paint.clips = {{-1, {{rectangle({30, 20}, {60, 50})}, FillRule::nonZero, {}}}};
    items[1].clip = 0;
    CHECK(backdropItems(page.paint) == 1);
}

TEST_CASE("what a soft mask hides is taken from the page as drawn") {
    Page page;
    const auto [width, height] = pagePixels(100, 80);
    page.picture.pixels = Grid<Rgba>(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width / 2; ++x)
            page.picture.pixels.at(x, y) = {0, 0, 0, 255};
    page.paint.items = {filled({rectangle({40, 10}, {60, 30})})};
    page.paint.items[0].isMasked = true;
    CHECK(area(page.painted()) == Approx(200).epsilon(0.005));
    page.paint.items[0].isMasked = false;
    CHECK(area(page.painted()) == Approx(400));
}

TEST_CASE("the line of vector art lies within a hundredth of a millimetre of its paint, with few points") {
    Page page;
    page.paint.items = {filled({disc({50, 40}, 20)}), filled({rectangle({50, 30}, {90, 50})})};
    Item item = page.item();
    item.place = {{3, 4}, 200, 160};
    const auto loops = findPaintLoops(item, page.paint, page.picture, {});
    REQUIRE(loops.size() == 1);
    CHECK(loops[0].curve.points() <= 10);
    double farthest = 0;
    for (const Point p : flatten(loops[0].curve, 0.001)) {
        const Point q{(p.x - 3) / 2, (p.y - 4) / 2};
        const double fromDisc = std::abs(distance(q, {50, 40}) - 20);
        const double fromBox = std::max(std::abs(q.x - 70) - 20, std::abs(q.y - 40) - 10);
        farthest = std::max(farthest, 2 * std::min(fromDisc, std::abs(fromBox)));
    }
    CHECK(farthest < 0.01 + 2 * 20 * 3e-4); // the cubics' own distance from a circle
}

TEST_CASE("a seam between two paints, thinner than any knife, gets no line") {
    EdgeOptions options;
    options.leastSpeck = options.leastOpening = 0;
    options.loops = LoopChoice::all;
    for (const double gap : {0.004, 0.1}) { // along one side of a frame, between it and what fills it
        Page page;
        page.paint.items = {filled({rectangle({10, 10}, {90, 70}), rectangle({20, 20}, {80, 60})}),
                            filled({rectangle({15, 15}, {80 - gap, 65})})};
        page.paint.items[0].shape.rule = FillRule::evenOdd;
        CHECK(findPaintLoops(page.item(), page.paint, page.picture, options).size() == (gap < 0.01 ? 1 : 2));
    }
}

TEST_CASE("each colour of vector art has its own lines: what lies in front takes from what lies behind") {
    const auto coloured = [](PaintItem item, Rgba colour) {
        item.colour = colour;
        return item;
    };
    const Rgba red{255, 0, 0, 255}, blue{0, 0, 255, 255};
    Page page;
    page.paint.items = {coloured(filled({rectangle({0, 0}, {100, 80})}), {240, 230, 220, 255}), // backdrop
                        coloured(filled({rectangle({10, 10}, {60, 60})}), red),
                        coloured(filled({rectangle({40, 10}, {90, 60})}), blue),
                        coloured(filled({disc({25, 30}, 10)}), blue),
                        coloured(filled({rectangle({0, 70}, {5, 75})}, -1, 0.02), red)};
    REQUIRE(hasPlainColours(page.paint));
    const auto loops = findPaintColourLoops(page.item(), page.paint, page.picture, {});
    double areas[2] = {};
    for (const EdgeLoop& loop : loops) {
        REQUIRE(loop.colour);
        areas[*loop.colour == red ? 0 : 1] += loop.facts.area;
        CHECK((*loop.colour == red || *loop.colour == blue));
    }
    REQUIRE(loops.size() == 4); // blue square, red rest and the opening for the disc, disc
    CHECK(areas[0] == Approx(30 * 50 - 100 * pi).margin(0.3));
    CHECK(areas[1] == Approx(50 * 50 + 100 * pi).margin(0.3));
    CHECK(loops[0].facts.area == Approx(2500).margin(0.01));
    CHECK(loops[1].facts.area == Approx(1500).margin(0.01));
    CHECK(loops[1].curve.points() == 4);
    // The disc's line and that of the opening it stands in run along each other.
    for (const Point p : flatten(loops[2].curve, 0.001))
        CHECK(std::abs(distance(p, {25, 30}) - 10) < 0.01 + 10 * 3e-4);

    page.paint.items[1].kind = PaintItem::Kind::shading;
    CHECK_FALSE(hasPlainColours(page.paint)); // its colours are those of the picture
}

TEST_CASE("cut lines that a file brings: by their names, closed, each in its place") {
    Profile profile = startProfile();
    const std::string kiss = profile.names.of(LineKind::kiss).name,
                      die = profile.names.of(LineKind::die).name;
    CHECK(meaningOf(kiss, profile)->isExact);
    CHECK(meaningOf(die, profile)->kind == LineKind::die);
    CHECK_FALSE(meaningOf("cut contour", profile)->isExact);
    CHECK(meaningOf("CUT_CONTOUR", profile)->kind == LineKind::kiss);
    CHECK_FALSE(meaningOf("Gold", profile));
    CHECK_FALSE(meaningOf("", profile));

    Page page;
    page.paint.items = {
        filled({disc({50, 40}, 10)}),
        stroked({disc({50, 40}, 12)}, 0.1, kiss),
        stroked({disc({50, 40}, 5)}, 0.1, kiss),
        stroked({rectangle({15, 10}, {35, 35})}, 0.1, "die cut", Affine::scaling(2, 2)),
        stroked({polyline({{0, 0}, {10, 0}, {10, 10}}, false)}, 0.1, kiss),
        stroked({polyline({{60, 60}, {70, 60}, {70, 70}, {60.02, 60.02}}, false)}, 0.1, kiss)};
    const BroughtLines exact = broughtLines(page.item(), page.paint, profile, false);
    CHECK(exact.lines.size() == 3);
    CHECK(exact.alike == std::vector<std::string>{"die cut"});
    REQUIRE(exact.open.size() == 1); // a slit: as drawn
    CHECK(exact.open.front().isOpen);
    CHECK(exact.open.front().kind == LineKind::kiss);
    CHECK(exact.open.front().curve.start == Point{0, 0});
    CHECK(exact.open.front().curve.segments.back().end == Point{10, 10});
    const BroughtLines all = broughtLines(page.item(), page.paint, profile, true);
    REQUIRE(all.lines.size() == 4);
    CHECK(all.lines[0].kind == LineKind::die);
    CHECK(bounds(flatten(all.lines[0].curve, 0.01)) == Box{{30, 20}, {70, 70}});
    CHECK(all.lines[1].role == LineRole::outer);
    CHECK(all.lines[1].curve.points() == 4); // curve for curve
    CHECK(signedArea(flatten(all.lines[2].curve, 0.001)) == Approx(-25 * pi).epsilon(1e-3));
    CHECK(all.lines[2].role == LineRole::opening);
    CHECK(all.lines[3].curve.segments.back().end == all.lines[3].curve.start);
    CHECK(strokeSpots(page.paint) == std::vector<std::string>{kiss, "die cut"});
}
