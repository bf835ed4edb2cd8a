#include "base/error.h"
#include "checks/inspect.h"
#include "drawing/draw.h"
#include "geometry/region_operations.h"

#include <catch2/catch.hpp>

using namespace hasami;

namespace {

Loop box(double left, double top, double right, double bottom) {
    return {{left, top}, {right, top}, {right, bottom}, {left, bottom}};
}

Curve curveOf(const Loop& loop) {
    Curve curve{loop.front(), {}};
    for (std::size_t i = 0; i < loop.size(); ++i)
        curve.segments.push_back(straightSegment(loop[i], loop[(i + 1) % loop.size()]));
    return curve;
}

/// A figure of the union of boxes less others, in mm.
Item figureOf(const std::vector<Loop>& loops, const std::vector<Loop>& openings = {},
              const std::string& spot = {}) {
    Region region = enclosed({loops}, FillRule::nonZero);
    if (!openings.empty())
        region = difference(region, enclosed({openings}, FillRule::nonZero));
    const Box around = bounds(region);
    OwnArtwork own;
    Figure figure;
    figure.kind = FigureKind::outline;
    figure.width = around.width();
    figure.height = around.height();
    for (const Loop& loop : region.loops) {
        Loop unit;
        for (const Point p : loop)
            unit.push_back({(p.x - around.least.x) / figure.width, (p.y - around.least.y) / figure.height});
        figure.outline.push_back(curveOf(unit));
    }
    own.what = figure;
    PaintColour colour;
    colour.spot = spot;
    own.fill = colour;
    const auto nothing = [](const auto&) { return nullptr; };
    return movedBy(newItem(own, "figure", nothing, nothing), around.least);
}

std::shared_ptr<const Picture> anyPicture(const Asset&, const PictureWish&, const std::stop_token&) {
    auto picture = std::make_shared<Picture>();
    picture->pixels = Grid<Rgba>(60, 40, Rgba{0, 0, 0, 255});
    return picture;
}

/// A job of one design with these items, cut along their edge, in openings too.
struct Work {
    explicit Work(const std::vector<Item>& items, double offset = 0) {
        addDesign(job, items.front());
        Design& design = job.designs.front();
        for (std::size_t i = 1; i < items.size(); ++i)
            design.artwork.items.push_back(items[i]);
        design.recipe.lines.front().offset = offset;
        design.recipe.edge.loops = LoopChoice::all;
        design.recipe.edge.leastOpening = design.recipe.edge.leastSpeck = 0;
        design.recipe.bleed.colour = blackInk(); // nothing is asked of pictures
        expect(0.01, 0.01);                      // less than is looked at
    }
    Work& expect(double printError, double cutError) {
        job.profile.printer.error = printError;
        job.profile.cutter.error = cutError;
        return *this;
    }
    Recipe& recipe() { return job.designs.front().recipe; }
    std::vector<Finding> findings() { return inspect(job, makeAll(job, 1, anyPicture, cache), checks); }
    std::vector<std::string_view> codes() {
        std::vector<std::string_view> codes;
        for (const Finding& finding : findings())
            codes.push_back(codeName(finding.code));
        return codes;
    }

    Job job;
    Cache cache;
    StickerChecks checks;
};

using Codes = std::vector<std::string_view>;

/// Two squares of 10 mm, joined by a neck of this width, 4 mm long.
Item dumbbell(double neck) {
    return figureOf({box(0, 0, 10, 10), box(9, 5 - neck / 2, 15, 5 + neck / 2), box(14, 0, 24, 10)});
}

/// The one finding there has to be; its fix is applied, and nothing is left.
Finding fixed(Work& work, std::string_view code) {
    const auto findings = work.findings();
    REQUIRE(work.codes() == Codes{code});
    REQUIRE(findings[0].fix);
    findings[0].fix->apply(work.job);
    CHECK(work.codes() == Codes{});
    return findings[0];
}

} // namespace

TEST_CASE("a plain sticker has no findings") {
    CHECK(Work({figureOf({box(0, 0, 30, 20)})}).codes() == Codes{});
    CHECK(Work({figureOf({box(0, 0, 30, 20)})}, 2).codes() == Codes{});
}

TEST_CASE("a neck narrower than a millimetre is found where it is, and goes as the line moves out") {
    Work work({dumbbell(0.8)});
    const Finding finding = fixed(work, "thin-neck");
    REQUIRE(finding.place);
    CHECK(finding.place->x == Approx(12).margin(1.6));
    CHECK(finding.place->y == Approx(5).margin(0.3));
    CHECK(finding.text.find("0.8 mm") != std::string::npos);
    CHECK(Work({dumbbell(1.1)}).codes() == Codes{});
}

TEST_CASE("an opening too narrow to weed is found, and closed by its fix") {
    Work work = Work({figureOf({box(0, 0, 30, 20)}, {box(10, 5, 10.8, 15)})});
    const Finding finding = fixed(work, "small-opening");
    CHECK(finding.place->x == Approx(10.4).margin(0.05));
    CHECK(Work({figureOf({box(0, 0, 30, 20)}, {box(10, 5, 11.2, 15)})}).codes() == Codes{});
}

TEST_CASE("a line that is hardly a line is found, and left out by its fix") {
    Work work({figureOf({box(0, 0, 30, 20), box(31, 0, 31.6, 0.6)})});
    const auto findings = work.findings();
    const auto found = std::ranges::find(findings, FindingCode::shortLine, &Finding::code);
    REQUIRE(found != findings.end());
    CHECK(found->place->x == Approx(31.3).margin(0.05));
    REQUIRE(found->fix);
    found->fix->apply(work.job);
    CHECK(work.codes() == Codes{});
}

TEST_CASE("a line shorter than a knife's own offset is none, with no least size set") {
    const auto lines = [](double side) {
        Work work({figureOf({box(0, 0, 30, 20), box(31, 0, 31 + side, side)})});
        return makeAll(work.job, 1, anyPicture, work.cache).designs.front().sticker->lines.size();
    };
    CHECK(lines(0.05) == 1);
    CHECK(lines(0.1) == 2);
}

TEST_CASE("what falls into pieces when it is peeled is bridged where they are close, else split") {
    Work close({figureOf({box(0, 0, 30, 20), box(32, 0, 50, 20)})});
    const Finding bridged = fixed(close, "several-parts");
    CHECK(bridged.severity == Severity::note);
    CHECK(close.job.designs.size() == 1);
    Work apart({figureOf({box(0, 0, 30, 20), box(50, 0, 80, 20), box(100, 0, 120, 20)})}, 1);
    const Finding split = fixed(apart, "several-parts");
    CHECK(split.fix->label == "Split it into 3 designs");
    CHECK(apart.job.designs.size() == 3);
    // Held together by a line through the medium, as a sheet of stickers is.
    Work sheet({figureOf({box(0, 0, 30, 20), box(50, 0, 80, 20)})}, 1);
    LineRecipe die;
    die.kind = LineKind::die;
    die.course = LineCourse::shape;
    die.shape = {PlainShapeKind::box, 5};
    sheet.recipe().lines.push_back(die);
    CHECK(sheet.codes() == Codes{});
}

TEST_CASE("a needle of a tip is found, an ordinary corner is not") {
    const auto wedge = [](double width) {
        return figureOf(
            {{{0, 0}, {30, 0}, {30, 10}, {0, 10}}, {{30, 5 - width / 2}, {50, 5}, {30, 5 + width / 2}}});
    };
    Work needle({wedge(6)}); // 17 degrees
    REQUIRE(needle.codes() == Codes{"tight-corner"});
    CHECK(needle.findings()[0].place->x == Approx(50).margin(0.5));
    CHECK(Work({wedge(16)}).codes() == Codes{});
    Work star({figureOf({box(0, 0, 30, 20)})});
    CHECK(star.codes() == Codes{});
}

TEST_CASE("lines that cross each other are found, folds across are not") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    LineRecipe die;
    die.kind = LineKind::die;
    die.course = LineCourse::shape;
    die.shape = {PlainShapeKind::box, 4};
    work.recipe().lines.push_back(die);
    CHECK(work.codes() == Codes{});
    work.recipe().lines.back().stretch = {0, 0, -8, 0};
    REQUIRE(work.codes() == Codes{"crossing-line"});
    work.recipe().lines.back().kind = LineKind::crease;
    work.recipe().lines.back().course = LineCourse::fold;
    CHECK(work.codes() == Codes{});
}

TEST_CASE(
    "white that shows, and artwork that is cut, at the error of print and cut are found and put right") {
    Work margin({figureOf({box(0, 0, 30, 20)})}, 0.4);
    margin.expect(0.2, 0.3);
    const Finding cut = fixed(margin, "art-cut");
    CHECK(margin.recipe().lines.front().offset == Approx(0.5));
    CHECK(cut.text.find("0.4 mm off") != std::string::npos);
    CHECK(Work({figureOf({box(0, 0, 30, 20)})}, 0.5).expect(0.2, 0.3).codes() == Codes{});
    // Bleed ends too close to a line of a shape of its own.
    const auto framed = [](double bleed) {
        Work work({figureOf({box(0, 0, 30, 20)})});
        work.recipe().lines.front().course = LineCourse::shape;
        work.recipe().lines.front().shape = {PlainShapeKind::box, 0};
        work.recipe().bleed.amount = bleed;
        work.expect(0.2, 0.3);
        return work.codes() == Codes{} ? std::optional<Finding>() : fixed(work, "white-shows");
    };
    const auto white = framed(0.3);
    REQUIRE(white);
    CHECK(white->text.starts_with("White shows once the cut is 0."));
    CHECK(white->fix->label == "Set the bleed to 0.5 mm");
    CHECK_FALSE(framed(0.5));
    // Where bleed is short by its number, that is reported alone.
    Work bled({figureOf({box(0, 0, 30, 20)})});
    bled.expect(0.3, 0.3);
    bled.recipe().bleed.amount = 0.4;
    fixed(bled, "bleed-short");
    CHECK(bled.recipe().bleed.amount == Approx(0.6));
}

TEST_CASE("errors that the profile does not say are assumed, 0.3 mm each") {
    const auto bare = [](double printError, double cutError) {
        Work work({figureOf({box(0, 0, 30, 20)})});
        work.recipe().bleed.amount = 0;
        work.expect(printError, cutError);
        return fixed(work, "bleed-short").text;
    };
    CHECK(bare(0, 0).starts_with("Print and cut may be 0.6 mm (assumed) off together"));
    CHECK(bare(0.1, 0).starts_with("Print and cut may be 0.4 mm (assumed) off together"));
    CHECK(bare(0, 0.15).starts_with("Print and cut may be 0.45 mm (assumed) off together"));
    CHECK(bare(0.1, 0.15).starts_with("Print and cut may be 0.25 mm off together"));
    Work choked({figureOf({box(0, 0, 30, 20)})}, 2);
    choked.recipe().inks = {{InkKind::white, InkArea::silhouette}};
    choked.recipe().inks.front().choke = 0;
    choked.expect(0, 0);
    fixed(choked, "ink-shows");
}

TEST_CASE("artwork that others cover is found, a background is not") {
    const Item small = figureOf({box(5, 5, 15, 15)}), large = figureOf({box(0, 0, 30, 20)});
    CHECK(Work({small, large}).codes() == Codes{"hidden-print"});
    CHECK(Work({large, small}).codes() == Codes{});
    Work background({small, large});
    background.job.designs.front().artwork.items.front().isBackground = true;
    CHECK(background.codes() == Codes{});
}

TEST_CASE("paint in the spot colour of a cut line is found") {
    CHECK(Work({figureOf({box(0, 0, 30, 20)}, {}, "CutContour")}).codes() == Codes{"spot-name-taken"});
    CHECK(Work({figureOf({box(0, 0, 30, 20)}, {}, "White")}).codes() == Codes{"spot-name-taken"});
    CHECK(Work({figureOf({box(0, 0, 30, 20)}, {}, "QUILLMOOR RED")}).codes() == Codes{});
}

TEST_CASE("white ink up to the print's rim is found, and choked by its fix") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    work.recipe().inks = {{InkKind::white, InkArea::silhouette}};
    CHECK(work.codes() == Codes{});
    work.recipe().inks.front().choke = 0;
    fixed(work, "ink-shows");
}

TEST_CASE("marks whose quiet zones reach into the work are found, and moved out by the fix") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    MarkScheme& marks = work.job.profile.marks;
    marks.corners = 4;
    marks.shape = MarkShape::square;
    marks.distance = leastDistance(marks);
    CHECK(work.codes() == Codes{});
    marks.distance -= 1;
    const auto findings = work.findings();
    CHECK(work.codes() == Codes{"near-mark", "near-mark", "near-mark", "near-mark"});
    REQUIRE(findings[0].fix);
    CHECK(findings[0].fix->label == "Move the marks out by 1 mm");
    findings[0].fix->apply(work.job);
    CHECK(work.codes() == Codes{});
}

TEST_CASE("a piece in a mark's quiet zone is found with its place") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    work.job.profile.marks.corners = 4;
    Made made = makeAll(work.job, 1, {}, work.cache);
    REQUIRE(made.layout.sheets.size() == 1);
    CHECK(inspect(work.job, made, work.checks).empty());
    Sheet& sheet = made.layout.sheets.front();
    sheet.marks.push_back(markAlone(9, sheet.work.centre(), work.job.profile.marks));
    const auto findings = inspect(work.job, made, work.checks);
    REQUIRE(findings.size() == 1);
    CHECK(codeName(findings[0].code) == "near-mark");
    CHECK(findings[0].place == sheet.work.centre());
    CHECK(findings[0].sheet == std::size_t(0));
    CHECK_FALSE(findings[0].fix); // to move marks out does not help between the pieces
}

TEST_CASE("a roll that ends before the work does is found") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    work.job.plan.medium = {};
    work.job.plan.medium.width = 200;
    work.job.plan.medium.rollLength = 400;
    work.job.designs.front().count = 10;
    CHECK(work.codes() == Codes{});
    work.job.designs.front().count = 150;
    CHECK(work.codes() == Codes{"medium-short"});
}

TEST_CASE("checks are kept as long as the sticker stays as it is") {
    Work work({dumbbell(0.8)});
    const Made made = makeAll(work.job, 1, {}, work.cache);
    const auto first = work.checks.of(made.designs[0], work.job.profile);
    CHECK(work.checks.of(made.designs[0], work.job.profile) == first);
    work.job.profile.cutter.tools[std::size_t(LineKind::kiss)].bladeOffset = 0.5;
    CHECK(work.checks.of(made.designs[0], work.job.profile) != first);
    std::stop_source stop;
    stop.request_stop();
    StickerChecks others;
    CHECK_THROWS_AS(inspect(work.job, made, others, stop.get_token()), Stopped);
}

TEST_CASE("white that hides the colours is found and moved to where it hides none") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    work.recipe().inks = {{InkKind::white}};
    CHECK(work.codes() == Codes{});
    work.recipe().isMirrored = true;
    fixed(work, "white-hides");
    CHECK(work.job.profile.printer.inkOrder.white() == WhitePlace::over);
    work.recipe().isMirrored = false;
    fixed(work, "white-hides");
    CHECK(work.job.profile.printer.inkOrder.white() == WhitePlace::under);

    Design through = work.job.designs.front(); // a second one, that needs it on the other side
    through.id = newDesignId(work.job);
    through.recipe.isMirrored = true;
    work.job.designs.push_back(through);
    fixed(work, "white-hides");
    CHECK(work.job.profile.printer.inkOrder.white() == WhitePlace::between);
}

TEST_CASE("white over the marks that stand on white is an error") {
    Work work({figureOf({box(0, 0, 30, 20)})}, 2);
    work.job.profile.marks.isOnWhite = true;
    CHECK(work.codes() == Codes{});
    work.job.profile.printer.inkOrder = InkOrder().with(WhitePlace::over);
    const Finding finding = fixed(work, "white-on-marks");
    CHECK(finding.severity == Severity::error);
}
