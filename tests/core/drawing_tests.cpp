#include "artwork/arrange.h"
#include "base/error.h"
#include "codes/code.h"
#include "drawing/clip.h"
#include "drawing/code_outline.h"
#include "drawing/drawing_paint.h"
#include "drawing/figure_outline.h"
#include "geometry/region_operations.h"
#include "job/job_json.h"
#include "lettering/shipped_fonts.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;

namespace {

std::shared_ptr<const Asset> shippedFile(std::size_t number) {
    const ShippedFont& font = shippedFonts()[number];
    auto asset = std::make_shared<Asset>();
    asset->name = font.file;
    asset->sha256 = std::string(64, char('0' + int(number)));
    asset->bytes.assign(font.bytes.begin(), font.bytes.end());
    return asset;
}

/// A job that holds a font and what draws own artwork of it.
struct Studio {
    Job job;
    OpenFonts open;

    Studio() {
        const auto font = shippedFile(1);
        job.assets.edit()[font->sha256] = font;
    }
    FontSource fonts() { return fontSourceOf(*job.assets, open); }
    AssetSource assets() { return assetSourceOf(*job.assets); }
    Item item(OwnArtwork own) { return newItem(std::move(own), "own", fonts(), assets()); }
    Item lettering(const std::string& text) {
        OwnArtwork own;
        Lettering lettering;
        lettering.text = text;
        lettering.fonts = {{"League Spartan", "Black", std::string(64, '1')}};
        own.what = lettering;
        return item(own);
    }
    Item figure(const Figure& figure) {
        OwnArtwork own;
        own.what = figure;
        return item(own);
    }
};

Box boxOf(const std::vector<Curve>& curves) {
    Box box;
    for (const Curve& curve : curves)
        box.add(bounds(flatten(curve, 0.0002)));
    return box;
}

double areaOf(const std::vector<Curve>& curves) {
    return area(enclosed(curves, FillRule::nonZero));
}

const Drawing& drawingOf(const Item& item) {
    return *item.own()->drawing->drawing;
}

constexpr FigureKind allFigures[] = {
    FigureKind::rectangle, FigureKind::ellipse, FigureKind::polygon, FigureKind::star, FigureKind::ring,
    FigureKind::arrow,     FigureKind::bubble,  FigureKind::ribbon,  FigureKind::leaf, FigureKind::heart};

} // namespace

TEST_CASE("figures have exactly the size typed, and simple outlines") {
    for (const FigureKind kind : allFigures)
        for (const auto& [width, height] : {std::pair(58.0, 122.0), std::pair(40.0, 12.0)}) {
            Figure figure;
            figure.kind = kind;
            figure.width = width;
            figure.height = height;
            figure.radius = 3;
            const auto outline = figureOutline(figure);
            INFO(int(kind) << " " << width);
            const Box box = boxOf(outline);
            CHECK(box.least.x == Approx(0).margin(0.001));
            CHECK(box.least.y == Approx(0).margin(0.001));
            CHECK(box.width() == Approx(width).margin(0.002));
            CHECK(box.height() == Approx(height).margin(0.002));
            double sum = 0;
            for (const Curve& curve : outline)
                sum += signedArea(flatten(curve, 0.0005));
            CHECK(sum > 0);
            CHECK(areaOf(outline) == Approx(sum).epsilon(1e-3)); // nothing crosses or lies twice
        }
}

TEST_CASE("areas of figures are those of theory") {
    Figure figure;
    figure.width = 60;
    figure.height = 40;
    figure.radius = 10;
    CHECK(areaOf(figureOutline(figure)) == Approx(60 * 40 - (4 - std::numbers::pi) * 100).epsilon(1e-4));
    figure.kind = FigureKind::ellipse;
    CHECK(areaOf(figureOutline(figure)) == Approx(std::numbers::pi * 30 * 20).epsilon(5e-4));
    figure.kind = FigureKind::ring;
    figure.inner = 0.4;
    CHECK(areaOf(figureOutline(figure)) == Approx(std::numbers::pi * 30 * 20 * (1 - 0.16)).epsilon(5e-4));
    figure.kind = FigureKind::polygon;
    figure.points = 4; // a diamond
    CHECK(areaOf(figureOutline(figure)) == Approx(60 * 40 / 2).epsilon(1e-6));
}

TEST_CASE("a hole takes its area from a figure, also where it is at the rim") {
    Figure tag{FigureKind::rectangle, 58, 122};
    tag.hole = 44;
    tag.holeAt = {0, -30};
    const double circle = std::numbers::pi * 22 * 22;
    CHECK(areaOf(figureOutline(tag)) == Approx(58 * 122 - circle).epsilon(5e-4));
    CHECK(figureOutline(tag).size() == 2);
    tag.holeAt = {29, 0}; // half of it beside the tag
    CHECK(areaOf(figureOutline(tag)) == Approx(58 * 122 - circle / 2).epsilon(5e-4));
    CHECK(figureOutline(tag).size() == 1);
    tag.holeAt = {0, 0};
    tag.hole = 400; // larger than the tag
    CHECK(figureOutline(tag).empty());
}

TEST_CASE("a figure's line lies inside its outline, so that it keeps its size") {
    Studio studio;
    OwnArtwork own;
    own.what = Figure{FigureKind::rectangle, 50, 30};
    own.lineWidth = 2;
    const Item filled = studio.item(own);
    REQUIRE(drawingOf(filled).areas.size() == 2);
    CHECK(areaOf(drawingOf(filled).areas[0].rims) == Approx(50 * 30).epsilon(1e-6));
    CHECK(areaOf(drawingOf(filled).areas[1].rims) == Approx(46 * 26).epsilon(1e-5));
    own.fill = {};
    const Item hollow = studio.item(own);
    REQUIRE(drawingOf(hollow).areas.size() == 1);
    CHECK(areaOf(drawingOf(hollow).areas[0].rims) == Approx(50 * 30 - 46 * 26).epsilon(1e-4));
    CHECK(hollow.place.width == Approx(50));
}

TEST_CASE("lettering keeps its anchor when its text, size or fill changes") {
    Studio studio;
    for (const TextAlignment alignment : {TextAlignment::left, TextAlignment::middle, TextAlignment::right}) {
        Item item = movedBy(studio.lettering("Lid"), {30, 40});
        item = turnedBy(item, 30, {0, 0});
        OwnArtwork own = *item.own();
        std::get<Lettering>(own.what).alignment = alignment;
        item = withContent(item, own, studio.fonts(), studio.assets());
        const auto anchor = [](const Item& i) { return i.toDesign()(drawingOf(i).anchor); };
        const Point before = anchor(item);
        std::get<Lettering>(own.what).text = "Lids of heather honey";
        own.lineWidth = 1;
        const Item longer = withContent(item, own, studio.fonts(), studio.assets());
        CHECK(longer.place.width > item.place.width * 3);
        CHECK(distance(anchor(longer), before) < 1e-9);
    }
}

TEST_CASE("scaled artwork takes the size into what it is") {
    Studio studio;
    const Item big = settled(scaledBy(studio.lettering("Jar"), 3, {}), studio.fonts(), studio.assets());
    CHECK(std::get<Lettering>(big.own()->what).capHeight == Approx(30));
    CHECK(drawingOf(big).width == Approx(big.place.width).epsilon(1e-6));
    const Item wide =
        settled(*stretchedToWidth(studio.lettering("Jar"), 90), studio.fonts(), studio.assets());
    CHECK(std::get<Lettering>(wide.own()->what).capHeight == Approx(10)); // stretched, and stays so
    CHECK(wide.place.width == Approx(90));
    Figure figure{FigureKind::rectangle, 50, 30};
    figure.radius = 5;
    const Item box = settled(*stretchedToWidth(studio.figure(figure), 80), studio.fonts(), studio.assets());
    const Figure& after = std::get<Figure>(box.own()->what);
    CHECK(after.width == Approx(80));
    CHECK(after.height == Approx(30));
    CHECK(after.radius == Approx(5)); // corners stay round
    CHECK(areaOf(drawingOf(box).areas[0].rims) ==
          Approx(80 * 30 - (4 - std::numbers::pi) * 25).epsilon(1e-4));
}

TEST_CASE("a picture inside covers what shows it, and stays where it was put by hand") {
    Studio studio;
    auto picture = std::make_shared<Asset>();
    picture->sha256 = std::string(64, 'a');
    studio.job.assets.edit()[picture->sha256] = picture;
    OwnArtwork own;
    own.what = Figure{FigureKind::heart, 60, 50};
    PictureFill fill;
    fill.file.asset = picture->sha256;
    fill.place = {{0, 0}, 30, 10};
    own.fill = fill;
    const Item item = studio.item(own);
    const auto& shown = std::get<PictureFill>(drawingOf(item).areas[0].fill);
    CHECK(shown.place.height == Approx(50));
    CHECK(shown.place.width == Approx(150));
    CHECK(shown.place.at.x == Approx(-45));
    std::get<PictureFill>(own.fill).isFitted = false;
    const Item placed = studio.item(own);
    CHECK(std::get<PictureFill>(drawingOf(placed).areas[0].fill).place == fill.place);
    std::get<PictureFill>(own.fill).file.asset = "missing";
    CHECK_THROWS_AS(studio.item(own), InputError);
}

TEST_CASE("codes have the size typed, quiet zones clear, modules of one size") {
    for (const CodeKind kind : {CodeKind::qr, CodeKind::dataMatrix, CodeKind::code128, CodeKind::ean13,
                                CodeKind::ean8, CodeKind::upcA}) {
        CodeArtwork code;
        code.kind = kind;
        code.text = kind == CodeKind::ean13  ? "401234567890"
                    : kind == CodeKind::ean8 ? "4012345"
                    : kind == CodeKind::upcA ? "01234567890"
                                             : "HEATHER-12";
        code.width = 40;
        code.showsText = false;
        const CodeOutline outline = codeOutline(code);
        CHECK(outline.width == 40);
        const Box ink = boxOf(outline.ink);
        INFO(int(kind));
        CHECK(ink.least.x == Approx(quietModules(kind) * outline.module).epsilon(1e-4));
        CHECK(40 - ink.most.x == Approx(quietModulesRight(kind) * outline.module).epsilon(1e-4));
        const CodeModules modules = codeOf(kind, code.text);
        if (!isOfBars(kind)) {
            int dark = 0;
            for (const std::uint8_t cell : modules.cells.cells())
                dark += cell;
            CHECK(areaOf(outline.ink) == Approx(dark * outline.module * outline.module).epsilon(1e-3));
        }
    }
}

TEST_CASE("article numbers are checked as they are typed") {
    CHECK(codeOf(CodeKind::ean13, "401234567890").text == "4012345678901");
    CHECK(codeOf(CodeKind::ean13, "4 012345 678901").text == "4012345678901");
    CHECK(codeOf(CodeKind::ean13, "4012345678901").cells.width() == 95);
    CHECK(codeOf(CodeKind::ean8, "40123455").cells.width() == 67);
    CHECK(codeOf(CodeKind::upcA, "012345678905").cells.width() == 95);
    for (const char* wrong : {"", "12", "40123456789x1", "4012345678902", "40123456789012"})
        CHECK_THROWS_AS(codeOf(CodeKind::ean13, wrong), InputError);
    CHECK_THROWS_AS(codeOf(CodeKind::qr, ""), InputError);
    CHECK_THROWS_AS(codeOf(CodeKind::qr, std::string(8000, 'x')), InputError);
}

TEST_CASE("own artwork comes back from the job file as it was, drawn alike") {
    Studio studio;
    Item lettering = studio.lettering("WILD\nHEATHER");
    OwnArtwork own = *lettering.own();
    Lettering& text = std::get<Lettering>(own.what);
    text.closeness = 1.2;
    text.isWelded = true;
    text.keepsCounters = false;
    text.switched = {{0, 0}};
    text.slant = 5;
    own.fill = Gradient{true, 30, PaintColour{{10, 20, 30, 255}},
                        PaintColour{{1, 2, 3, 255}, {{0, 1, 0.5, 0}}, "Gold"}};
    own.lineWidth = 0.7;
    lettering = withContent(lettering, own, studio.fonts(), studio.assets());
    addDesign(studio.job, lettering);
    Figure star{FigureKind::star, 33, 44};
    star.points = 7;
    addOwnItem(studio.job, studio.job.designs.back().id, studio.figure(star));
    const Job back = jobFromJson(jobToJson(studio.job), *studio.job.assets);
    CHECK(back == studio.job);
    for (std::size_t i = 0; i < 2; ++i)
        CHECK(std::as_const(back).designs[0].artwork.items[i].source() ==
              std::as_const(studio.job).designs[0].artwork.items[i].source());
    CHECK(withoutUnusedAssets(studio.job).assets->size() == 1); // the font stays
}

TEST_CASE("without its font, lettering keeps the outlines that the job holds") {
    Studio studio;
    OwnArtwork own = *studio.lettering("Moor").own();
    std::get<Lettering>(own.what).fonts = {{"Not kept", "Bold"}};
    const auto found = studio.open.open(shippedFile(2));
    const FontSource here = [&](const FontChoice&) { return found; };
    const Item item = newItem(own, "Moor", here, studio.assets());
    CHECK_FALSE(std::get<Lettering>(item.own()->what).outlines.empty());
    Job job;
    addDesign(job, item);
    const Job elsewhere = jobFromJson(jobToJson(job), {});
    const Item& back = std::as_const(elsewhere).designs[0].artwork.items[0];
    CHECK(areaOf(drawingOf(back).areas[0].rims) ==
          Approx(areaOf(drawingOf(item).areas[0].rims)).epsilon(1e-6));
    CHECK(drawingOf(back).width == Approx(drawingOf(item).width));
}

TEST_CASE("a circle that clips a picture leaves it in its place") {
    Studio studio;
    auto picture = std::make_shared<Asset>();
    picture->sha256 = std::string(64, 'b');
    studio.job.assets.edit()[picture->sha256] = picture;
    Item item{"photo", 400, 300, {{5, 6}, 80, 60}};
    item.content = FilePicture{{picture->sha256, 1}};
    const auto [figure, at] = figureIn(bounds(item), FigureKind::ellipse, true);
    CHECK(figure.width == Approx(60));
    CHECK(at.x == Approx(15));
    const Item clipped = clippedTo(item, figure, at, studio.assets());
    const auto& fill = std::get<PictureFill>(drawingOf(clipped).areas[0].fill);
    CHECK(clipped.place.at + fill.place.at == item.place.at);
    CHECK(fill.place.width == 80);
    CHECK(paintListOf(drawingOf(clipped)).items.size() == 1);
}

TEST_CASE("sizes beyond what is made are refused") {
    Studio studio;
    OwnArtwork own = *studio.lettering("x").own();
    std::get<Lettering>(own.what).capHeight = 4000;
    std::get<Lettering>(own.what).text = "WWWWWWWW";
    CHECK_THROWS_AS(studio.item(own), InputError);
}
