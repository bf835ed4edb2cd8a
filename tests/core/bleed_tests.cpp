#include "base/error.h"
#include "edge/find_edge.h"
#include "geometry/region_operations.h"
#include "raster/nearest_cells.h"
#include "sticker/bleed_area.h"
#include "sticker/bleed_picture.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <mutex>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr double pi = std::numbers::pi;

Region square(double left, double top, double right, double bottom) {
    return {{{{left, top}, {right, top}, {right, bottom}, {left, bottom}}}};
}

Region circle(double radius) {
    Loop loop;
    for (int i = 0; i < 720; ++i)
        loop.push_back({radius * std::cos(i * pi / 360), radius * std::sin(i * pi / 360)});
    return {{loop}};
}

/// A picture of 10 pixels a mm, at its natural size, all of it covered.
Picture opaque(int width, int height) {
    Picture picture;
    picture.pixels = Grid<Rgba>(width, height, Rgba{0, 0, 0, 255});
    return picture;
}

Artwork artworkOf(const Picture& picture) {
    const int width = picture.pixels.width(), height = picture.pixels.height();
    return {{{"art.png", width, height, {{0, 0}, width / 10.0, height / 10.0}, {}, FilePicture{{"sha"}}}}};
}

/// Cut along its rim, with bleed.
Sticker cutOnRim(const Artwork& artwork, double amount) {
    Recipe recipe;
    recipe.lines[0].offset = 0;
    recipe.bleed.amount = amount;
    const Curve rim = shapeAround(bounds(artwork), {PlainShapeKind::box, 0});
    return makeSticker(artwork, {rim}, recipe, {0.01});
}

BleedPicture bleedOf(const Picture& picture, double amount = 1) {
    const Artwork artwork = artworkOf(picture);
    const std::shared_ptr<const Picture> pictures[] = {std::make_shared<const Picture>(picture)};
    return bleedPicture(artwork, cutOnRim(artwork, amount), {amount}, pictures);
}

Rgba colourAt(const BleedPicture& bleed, Point place) {
    const Point p = inverse(bleed.fromPixels)(place);
    return bleed.picture.pixels.at(int(std::floor(p.x)), int(std::floor(p.y)));
}

/// A disc of 15 mm radius in the middle of 40 x 40 mm at 10 pixels a mm. `colourAt` gets the distance from
/// its rim inward, in mm.
template <class ColourAt>
Picture discPicture(ColourAt colourAt) {
    Picture picture = opaque(400, 400);
    for (int y = 0; y < 400; ++y)
        for (int x = 0; x < 400; ++x)
            picture.pixels.at(x, y) = colourAt(15 - std::hypot(x + 0.5 - 200, y + 0.5 - 200) / 10);
    return picture;
}

/// How much of the bleed around such a disc has a colour that `isIt` takes.
template <class IsIt>
double shareOf(const Picture& picture, const Recipe& recipe, const std::vector<Curve>& edge, IsIt isIt) {
    const Artwork artwork = artworkOf(picture);
    const Sticker sticker = makeSticker(artwork, edge, recipe, {0.01});
    REQUIRE(sticker.bleed);
    const std::shared_ptr<const Picture> pictures[] = {std::make_shared<const Picture>(picture)};
    const BleedPicture bleed = bleedPicture(artwork, sticker, recipe.bleed, pictures);
    std::size_t found = 0, all = 0;
    const Region line{{flatten(sticker.lines.front().curve, 0.01)}};
    for (const double out : {0.1, 0.4, 0.7, 0.95}) {
        const Region around = offset(line, out);
        for (const Point p : around.loops.front()) {
            found += isIt(colourAt(bleed, p));
            ++all;
        }
    }
    return double(found) / double(all);
}

double redShare(const Picture& picture, const Recipe& recipe, const std::vector<Curve>& edge) {
    return shareOf(picture, recipe, edge,
                   [](Rgba colour) { return colour.red > 180 && colour.green < 90 && colour.blue < 90; });
}

std::vector<Curve> discOf(double radius) {
    return {shapeAround({{0, 0}, {40, 40}}, {PlainShapeKind::circle, 0, 0, 6, true, 2 * radius, 2 * radius})};
}

/// By looking at all of them.
Cell nearestByHand(const std::vector<Cell>& sources, Cell from) {
    Cell best = from;
    double least = 1e18;
    for (const Cell& s : sources) {
        const double dx = s.column - from.column, dy = s.row - from.row;
        if (dx * dx + dy * dy < least) {
            least = dx * dx + dy * dy;
            best = s;
        }
    }
    return best;
}

std::vector<Cell> cellsOf(const CellRuns& runs) {
    std::vector<Cell> cells;
    for (std::size_t i = 0; i < runs.rows.size(); ++i)
        for (const CellRuns::Run& run : runs.rows[i])
            for (int x = run.from; x < run.to; ++x)
                cells.push_back({x, runs.top + int(i)});
    return cells;
}

} // namespace

TEST_CASE("the cells in a region are those whose centres it holds") {
    Region holed = circle(12.3);
    Loop inner = circle(5.6).loops[0];
    std::reverse(inner.begin(), inner.end());
    holed.loops.push_back(inner);
    const CellRuns runs = cellsIn(holed);
    std::size_t count = 0;
    for (int y = -14; y < 14; ++y)
        for (int x = -14; x < 14; ++x) {
            const double r = length({x + 0.5, y + 0.5});
            const bool isIn = std::any_of(runs.row(y).begin(), runs.row(y).end(),
                                          [&](const auto& run) { return x >= run.from && x < run.to; });
            count += isIn;
            if (std::abs(r - 12.3) > 0.01 && std::abs(r - 5.6) > 0.01)
                CHECK(isIn == (r < 12.3 && r > 5.6));
        }
    CHECK(cellsOf(runs).size() == count);
    const auto extent = runs.extent();
    CHECK(extent.width() == 24);
    CHECK(extent.top == -12);
    CHECK(cellsIn({}).isEmpty());
}

TEST_CASE("the nearest cell is exact, with any number of threads, across tiles") {
    std::mt19937 random(3);
    std::uniform_int_distribution<int> place(-300, 900);
    CellRuns sources;
    sources.top = -300;
    sources.rows.resize(1201);
    std::vector<Cell> all;
    for (int i = 0; i < 60; ++i) {
        const Cell cell{place(random), place(random)};
        auto& row = sources.rows[std::size_t(cell.row + 300)];
        if (!row.empty())
            continue;
        row.push_back({cell.column, cell.column + 1});
        all.push_back(cell);
    }
    const CellRuns wanted = cellsIn(square(-40, 480, 700, 560));
    for (const int threads : {1, 3}) {
        std::mutex mutex;
        std::size_t told = 0;
        findNearest(sources, wanted, 2000, threads, {}, [&](const NearestRun& run) {
            const std::scoped_lock lock(mutex);
            for (std::size_t i = 0; i < run.nearest.size(); ++i) {
                const Cell from{run.column + int(i), run.row};
                const auto away = [&](Cell c) {
                    return length({double(c.column - from.column), double(c.row - from.row)});
                };
                if (away(run.nearest[i]) > away(nearestByHand(all, from)) + 1e-9)
                    FAIL("a nearer one is there");
            }
            told += run.nearest.size();
        });
        CHECK(told == cellsOf(wanted).size());
    }
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(findNearest(sources, wanted, 2000, 2, stop.get_token(), [](const NearestRun&) {}),
                    Stopped);
}

TEST_CASE("bleed reaches as far past the line as asked, where the print reaches the line") {
    // On the rim: all around.
    CHECK(area(bleedBeyond(circle(20), {circle(20)}, 1.5)) == Approx(pi * (21.5 * 21.5 - 400)).epsilon(5e-3));
    // Inside by 0.5: what the print itself lacks.
    CHECK(area(bleedBeyond(circle(20), {circle(19.5)}, 1.5)) == Approx(pi * (21 * 21 - 400)).epsilon(1e-2));
    // Inside by as much: none.
    CHECK(bleedBeyond(circle(20), {circle(18.5)}, 1.5).isEmpty());
    // A white margin: none, however thin.
    CHECK(bleedBeyond(circle(20), {circle(22)}, 1.5).isEmpty());
    CHECK(bleedBeyond(circle(20), {circle(20.2)}, 1.5).isEmpty());
    // Kiss on the rim, die on the bare backing.
    CHECK(area(bleedBeyond(circle(20), {circle(20), circle(24)}, 1)) ==
          Approx(pi * (441 - 400)).epsilon(5e-3));
    // A box whose left half alone is printed, cut on its rim: three sides of it.
    const double half = area(bleedBeyond(square(0, 0, 50, 40), {square(0, 0, 100, 40)}, 2));
    CHECK(half == Approx(2 * 50 + 40 * 2 + 2 * 50 + 2 * pi * 4 / 4 + 2 * pi * 4 / 4).epsilon(0.02));
}

TEST_CASE("a bleed wider than the sticker is made, and pointed out") {
    const Artwork artwork = artworkOf(opaque(200, 100)); // 20 mm by 10 mm
    CHECK(cutOnRim(artwork, 19).remarks.empty());
    const Sticker wide = cutOnRim(artwork, 21);
    CHECK(wide.remarks.at(0).code == FindingCode::bleedWide);
    REQUIRE(wide.bleed.has_value());
    CHECK(bounds(flatten(wide.bleed->area, 0.01)).width() == Approx(62).margin(0.1));
}

TEST_CASE("bleed goes into an opening that is cut, and stays out of one that is not") {
    Region ring = circle(20);
    Loop inner = circle(8).loops[0];
    std::reverse(inner.begin(), inner.end());
    ring.loops.push_back(inner);
    CHECK(area(bleedBeyond(ring, {ring}, 1)) == Approx(pi * (441 - 400 + 64 - 49)).epsilon(5e-3));
    CHECK(area(bleedBeyond(ring, {circle(20)}, 1)) == Approx(pi * (441 - 400)).epsilon(5e-3));
}

TEST_CASE("a flat colour bleeds as it is, and only the ring is made") {
    Picture picture = opaque(300, 200);
    for (Rgba& pixel : picture.pixels.cells())
        pixel = {30, 90, 160, 255};
    const BleedPicture bleed = bleedOf(picture);
    for (const Point p :
         {Point{-0.9, 10}, Point{30.9, 3}, Point{15, -0.5}, Point{15, 20.8}, Point{-0.5, -0.5}})
        CHECK(colourAt(bleed, p) == Rgba{30, 90, 160, 255});
    CHECK(colourAt(bleed, {15, 10}) == Rgba{255, 255, 255, 255}); // the artwork lies there
    // On the picture's own pixels.
    CHECK(bleed.fromPixels.a == Approx(0.1));
    CHECK(std::abs(std::remainder(bleed.fromPixels.e, 0.1)) < 1e-9);
}

TEST_CASE("where two colours meet at the edge, the seam runs straight out") {
    Picture picture = opaque(300, 200);
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 300; ++x)
            picture.pixels.at(x, y) = x < 137 ? Rgba{200, 0, 0, 255} : Rgba{0, 0, 200, 255};
    const BleedPicture bleed = bleedOf(picture, 3);
    for (const double y : {-2.9, -1.5, -0.1, 20.1, 22.9}) {
        CHECK(colourAt(bleed, {13.65, y}).red == 200);  // the last red pixel
        CHECK(colourAt(bleed, {13.75, y}).blue == 200); // the first blue one
    }
}

TEST_CASE("across the artwork's edge a gradient takes no step that is seen") {
    const bool isAcross = GENERATE(true, false);
    Picture picture = opaque(200, 200);
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 200; ++x)
            picture.pixels.at(x, y) = {std::uint8_t(isAcross ? x : y), std::uint8_t(220 - x), 90,
                                       255}; // 1 a pixel
    const BleedPicture bleed = bleedOf(picture);
    for (int i = 5; i < 195; ++i) {
        const Rgba right = colourAt(bleed, {20.05, i / 10.0 + 0.05}), inside = picture.pixels.at(199, i);
        CHECK(std::abs(right.red - inside.red) <= 1 + 1);
        CHECK(std::abs(right.green - inside.green) <= 1 + 1);
        const Rgba above = colourAt(bleed, {i / 10.0 + 0.05, -0.05}), below = picture.pixels.at(i, 0);
        CHECK(std::abs(above.red - below.red) <= 1 + 1);
        CHECK(std::abs(above.green - below.green) <= 1 + 1);
    }
}

TEST_CASE("half-covered pixels at the edge give no fringe in the bleed") {
    Picture picture = pictureOf(drawn(120, 120, disc({60, 60}, 50)), {10, 160, 60, 255});
    for (Rgba& pixel : picture.pixels.cells())
        if (pixel.coverage < 250)
            pixel = {255, 255, 255, pixel.coverage}; // as badly cut out pictures have it
    const Artwork artwork = artworkOf(picture);
    Recipe recipe;
    recipe.lines[0].offset = 0;
    const Curve rim = shapeAround({{1, 1}, {11, 11}}, {PlainShapeKind::circle, 0, 0, 6, true, 10, 10});
    const Sticker sticker = makeSticker(artwork, {rim}, recipe, {0.01});
    REQUIRE(sticker.bleed);
    CHECK_FALSE(sticker.bleed->isOver);
    const std::shared_ptr<const Picture> pictures[] = {std::make_shared<const Picture>(picture)};
    const BleedPicture bleed = bleedPicture(artwork, sticker, recipe.bleed, pictures);
    for (int i = 0; i < 360; i += 3) {
        const Point way{std::cos(i * pi / 180), std::sin(i * pi / 180)};
        for (const double r : {5.02, 5.5, 5.95})
            CHECK(colourAt(bleed, Point{6, 6} + way * r) == Rgba{10, 160, 60, 255});
    }
}

namespace {

/// As printed, of artwork of one kind of colours.
const FineColours& inksOf(const BleedPicture& bleed) {
    REQUIRE(bleed.parts.size() == 1);
    REQUIRE(bleed.parts.front().colours.fine);
    return *bleed.parts.front().colours.fine;
}

} // namespace

TEST_CASE("CMYK artwork bleeds in its own inks") {
    Picture picture = opaque(80, 60);
    picture.fine = FineColours(4, 8, 80, 60, FineCell{10, 200, 30, 4});
    for (int y = 0; y < 60; ++y)
        for (const int x : {78, 79})
            picture.fine->set(x, y, {200, 1, 2, 3});
    const BleedPicture bleed = bleedOf(picture);
    const FineColours& inks = inksOf(bleed);
    CHECK(inks.channels() == 4);
    const auto inksAt = [&](Point p) {
        const Point at = inverse(bleed.fromPixels)(p);
        return inks.at(int(std::floor(at.x)), int(std::floor(at.y)));
    };
    CHECK(inksAt({-0.5, 3}) == FineCell{10, 200, 30, 4});
    CHECK(inksAt({8.5, 3}) == FineCell{200, 1, 2, 3});
    CHECK(inksAt({4, 3}) == FineCell{0, 0, 0, 0});
}

TEST_CASE("bleed of turned and of several artworks has the colours that lie nearest") {
    Picture red = opaque(100, 100), blue = opaque(100, 100);
    for (Rgba& pixel : red.pixels.cells())
        pixel = {220, 0, 0, 255};
    for (Rgba& pixel : blue.pixels.cells())
        pixel = {0, 0, 220, 255};
    Artwork artwork = artworkOf(red);
    artwork.items.push_back(artwork.items.front());
    artwork.items[1].place.at = {10, 0};
    artwork.items[1].place.turn = 90;
    const Sticker sticker = cutOnRim(artwork, 1);
    const std::shared_ptr<const Picture> pictures[] = {std::make_shared<const Picture>(red),
                                                       std::make_shared<const Picture>(blue)};
    const BleedPicture bleed = bleedPicture(artwork, sticker, {1}, pictures);
    CHECK(colourAt(bleed, {5, -0.5}).red == 220);
    CHECK(colourAt(bleed, {15, 10.5}).blue == 220);
    CHECK(colourAt(bleed, {20.5, 5}).blue == 220);
}

TEST_CASE("artwork that reaches far past the line is printed up to the bleed, unless told otherwise") {
    const Artwork artwork = artworkOf(opaque(400, 400));
    Recipe recipe;
    recipe.edge.way = EdgeWay::shape;
    recipe.lines[0].offset = 0;
    const Curve round = shapeAround({{0, 0}, {40, 40}}, {PlainShapeKind::circle, 0, 0, 6, true, 20, 20});
    const std::vector<Curve> printed{shapeAround({{0, 0}, {40, 40}}, {PlainShapeKind::box, 0})};
    const Sticker sticker = makeSticker(artwork, {round}, recipe, {0.01, false, false, {}, printed});
    CHECK_FALSE(sticker.bleed); // the picture itself goes on
    REQUIRE(sticker.within.size() == 1);
    CHECK(signedArea(flatten(sticker.within[0], 0.001)) == Approx(pi * 121).epsilon(2e-3));
    CHECK(sticker.footprint.width() == Approx(22).margin(0.05));
    recipe.bleed.trims = false;
    const Sticker whole = makeSticker(artwork, {round}, recipe, {0.01, false, false, {}, printed});
    CHECK(whole.within.empty());
    CHECK(whole.footprint.width() == Approx(40));
}

TEST_CASE("a backdrop is not printed, and the bleed covers the rim that it shines through") {
    const Artwork artwork = artworkOf(opaque(400, 400));
    Recipe recipe;
    recipe.lines[0].offset = -0.3;
    const Curve found = shapeAround({{0, 0}, {40, 40}}, {PlainShapeKind::circle, 0, 0, 6, true, 20, 20});
    const Sticker sticker = makeSticker(artwork, {found}, recipe, {0.01, true, true, {}, {}});
    REQUIRE(sticker.bleed);
    CHECK(sticker.bleed->isOver);
    REQUIRE(sticker.within.size() == 1);
    CHECK(signedArea(flatten(sticker.within[0], 0.001)) == Approx(pi * 100).epsilon(2e-3));
    recipe.lines[0].offset = 2; // on a white margin
    const Sticker margin = makeSticker(artwork, {found}, recipe, {0.01, true, true, {}, {}});
    CHECK_FALSE(margin.bleed);
    CHECK(signedArea(flatten(margin.within[0], 0.001)) == Approx(pi * 100).epsilon(2e-3));
}

TEST_CASE("a pale fringe along the edge is looked through up to 0.3 mm, a wider one is not") {
    constexpr Rgba red{220, 30, 40, 255}, white{255, 255, 255, 255}, pale{240, 150, 155, 255};
    Recipe recipe;
    recipe.lines[0].offset = 0;
    const auto share = [&](double width, Rgba fringe) {
        const Picture picture = discPicture([&](double depth) {
            return depth < 0 ? white : depth < width ? fringe : red;
        });
        return redShare(picture, recipe, discOf(15));
    };
    CHECK(share(0, white) == 1);
    CHECK(share(0.2, white) > 0.99); // a cut-out's rim
    CHECK(share(0.3, pale) > 0.99);
    CHECK(share(1, white) == 0); // a white border is meant
    CHECK(share(1, pale) == 0);
}

TEST_CASE("half-transparent artwork bleeds as it is seen on white") {
    Recipe recipe;
    recipe.lines[0].offset = 0;
    const auto share = [&](std::uint8_t coverage, int seen) {
        const Picture picture = discPicture([&](double depth) { // a shadow of 1 mm around it
            return depth < 0 ? Rgba{} : depth < 1 ? Rgba{0, 0, 0, coverage} : Rgba{220, 30, 40, 255};
        });
        return shareOf(picture, recipe, discOf(15), [&](Rgba colour) {
            return std::abs(colour.red - seen) < 3 && std::abs(colour.green - seen) < 3 &&
                   colour.coverage == 255;
        });
    };
    CHECK(share(51, 204) > 0.99);
    CHECK(share(153, 102) > 0.99);
}

TEST_CASE("half-transparent artwork in CMYK bleeds with its inks as much as it covers") {
    Recipe recipe;
    recipe.lines[0].offset = 0;
    Picture picture = discPicture([](double depth) { return depth < 0 ? Rgba{} : Rgba{0, 158, 224, 102}; });
    picture.fine = FineColours(4, 8, 400, 400, FineCell{200, 100, 0, 50});
    const Artwork artwork = artworkOf(picture);
    const Sticker sticker = makeSticker(artwork, discOf(15), recipe, {0.01});
    const std::shared_ptr<const Picture> pictures[] = {std::make_shared<const Picture>(picture)};
    const BleedPicture bleed = bleedPicture(artwork, sticker, recipe.bleed, pictures);
    const Point place = inverse(bleed.fromPixels)(Point{35.5, 20});
    CHECK(inksOf(bleed).at(int(place.x), int(place.y)) == FineCell{80, 40, 0, 20});
}

TEST_CASE("an outline, however thin, is what bleeds") {
    Recipe recipe;
    recipe.lines[0].offset = 0;
    const Picture picture = discPicture([](double depth) {
        return depth < 0     ? Rgba{255, 255, 255, 255}
               : depth < 0.3 ? Rgba{220, 30, 40, 255}
                             : Rgba{30, 60, 200, 255};
    });
    CHECK(redShare(picture, recipe, discOf(15)) > 0.99);
}

TEST_CASE("colours are taken from the cut line where that is asked for, over all that lies outside of it") {
    Recipe recipe;
    recipe.lines[0].offset = -0.8;
    const Picture picture = discPicture([](double depth) { // with a white border of 0.7 mm
        return depth < 0.7 ? Rgba{255, 255, 255, 255} : Rgba{220, 30, 40, 255};
    });
    CHECK(redShare(picture, recipe, discOf(15)) == 0);
    recipe.bleed.source = BleedSource::cutLine;
    CHECK(redShare(picture, recipe, discOf(15)) > 0.99);
    const Artwork artwork = artworkOf(picture);
    const Sticker sticker = makeSticker(artwork, discOf(15), recipe, {0.01});
    CHECK(sticker.bleed->isOver);
    CHECK(area(flatten(sticker.bleed->area, 0.001)) ==
          Approx(pi * (15.2 * 15.2 - 14.2 * 14.2)).epsilon(0.01));
    recipe.lines[0].offset = 1; // on a white margin
    CHECK_FALSE(makeSticker(artwork, discOf(15), recipe, {0.01}).bleed);
}

TEST_CASE("facets that do not quite meet bleed all round") {
    Picture picture = discPicture([](double depth) {
        return depth < 0 ? Rgba{255, 255, 255, 0} : Rgba{220, 30, 40, 255};
    });
    std::vector<Curve> edge;
    std::vector<Loop> rims;
    constexpr int facets = 12;
    const double gap = 0.25; // mm
    for (int i = 0; i < facets; ++i) {
        Loop loop;
        for (int k = 0; k <= 40; ++k) {
            const double angle = 2 * pi * (i + k / 40.0 * (1 - gap * facets / (2 * pi * 15))) / facets;
            loop.push_back({20 + 15 * std::cos(angle), 20 + 15 * std::sin(angle)});
        }
        const double middle = 2 * pi * (i + 0.5) / facets;
        loop.push_back({20 + gap * 2 * std::cos(middle), 20 + gap * 2 * std::sin(middle)});
        Curve& curve = edge.emplace_back(Curve{loop.front(), {}});
        for (std::size_t k = 0; k < loop.size(); ++k)
            curve.segments.push_back(straightSegment(loop[k], loop[(k + 1) % loop.size()]));
        rims.push_back(std::move(loop));
    }
    for (int y = 0; y < 400; ++y)
        for (int x = 0; x < 400; ++x) {
            const Point p{(x + 0.5) / 10, (y + 0.5) / 10};
            if (std::none_of(rims.begin(), rims.end(), [&](const Loop& rim) { return contains(rim, p); }))
                picture.pixels.at(x, y).coverage = 0;
        }
    Recipe recipe;
    recipe.lines[0].offset = 0;
    recipe.bridge = 0.5; // one sticker
    CHECK(redShare(picture, recipe, edge) > 0.99);
}
