#include "checks/findings.h"
#include "drawing/code_outline.h"
#include "drawing/draw.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <fstream>
#include <sstream>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Designs of the letter F, 12 by 16 mm of 60 by 80 pixels (127 dots per inch).
struct Workpiece {
    explicit Workpiece(int designs) {
        for (int i = 0; i < designs; ++i) {
            auto asset = std::make_shared<Asset>();
            asset->sha256 = std::string(63, 'a') + char('0' + i);
            asset->name = std::string(1, char('f' + i)) + ".png";
            addDesign(job, {asset, 60, 80, 5});
        }
    }
    Made make() {
        const auto letter = [](const Asset&, const PictureWish&, const std::stop_token&) {
            return std::make_shared<const Picture>(
                pictureOf(drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); })));
        };
        return makeAll(job, 1, letter, cache);
    }
    std::vector<Finding> findings() { return findingsOf(job, make()); }

    Job job;
    Cache cache;
};

std::vector<std::string_view> codesOf(const std::vector<Finding>& findings) {
    std::vector<std::string_view> codes;
    for (const Finding& finding : findings)
        codes.push_back(codeName(finding.code));
    return codes;
}

using Codes = std::vector<std::string_view>;

} // namespace

TEST_CASE("clean work has no findings, a coarse picture has a note whose fix puts it right") {
    Workpiece work(1);
    REQUIRE(codesOf(work.findings()) == Codes{"coarse-picture"});
    const Finding coarse = work.findings().front();
    CHECK(coarse.severity == Severity::note);
    CHECK(coarse.step == RecipeStep::artwork);
    CHECK(sentenceOf(work.job, coarse).find("f: The picture has 127 dots per inch") == 0);
    REQUIRE(coarse.fix);
    CHECK(coarse.fix->label == "Make it 10 mm wide");
    coarse.fix->apply(work.job);
    CHECK(work.findings().empty());
}

TEST_CASE("a code whose modules are too small for the printer is made as wide as they need") {
    Job job;
    job.profile.printer.resolution = 300;
    OwnArtwork own;
    CodeArtwork code;
    code.kind = CodeKind::qr;
    code.text = "https://quillmoor.example/heather";
    code.width = 8;
    own.what = code;
    const auto nothing = [](const auto&) { return nullptr; };
    addDesign(job, newItem(own, "code", nothing, nothing));
    Cache cache;
    const auto findings = [&] { return findingsOf(job, makeAll(job, 1, {}, cache)); };
    const auto found = findings();
    REQUIRE(codesOf(found) == Codes{"small-code"});
    REQUIRE(found[0].fix);
    found[0].fix->apply(job);
    CHECK(findings().empty());
    const auto& larger = std::get<CodeArtwork>(job.designs[0].artwork.items[0].own()->what);
    CHECK(codeOutline(larger).module == Approx(4 * 25.4 / 300).epsilon(0.02));
    // A finer printer needs less.
    job.profile.printer.resolution = 299;
    CHECK(codesOf(findings()).size() <= 1);
    job.designs.front().artwork.items.front() = newItem(own, "code", nothing, nothing);
    job.profile.printer.resolution = 1200;
    CHECK(findings().empty());
}

TEST_CASE("transparent artwork has a note where the job plans an EPS, and none in other formats") {
    Workpiece work(1);
    work.job.designs[0].artwork = scaledToWidth(work.job.designs[0].artwork, 8);
    CHECK(work.findings().empty());
    work.job.outputs.outputs.front().print = PrintFormat::eps;
    REQUIRE(codesOf(work.findings()) == Codes{"eps-flattened"});
    CHECK(work.findings().front().severity == Severity::note);
}

TEST_CASE("less bleed than print and cut may be off together is found where the artwork reaches the line") {
    Workpiece work(1);
    work.job.designs[0].artwork = scaledToWidth(work.job.designs[0].artwork, 8);
    Recipe& recipe = work.job.designs[0].recipe;
    work.job.profile.printer.error = 0.5;
    work.job.profile.cutter.error = 0.4;
    recipe.lines.front().offset = 0;
    recipe.bleed.amount = 0.9;
    CHECK(work.findings().empty());
    recipe.bleed.amount = 0.8;
    REQUIRE(codesOf(work.findings()) == Codes{"bleed-short"});
    CHECK(work.findings()[0].text.find("may be 0.9 mm off together") != std::string::npos);
    CHECK(work.findings()[0].step == RecipeStep::bleed);
    recipe.lines.front().offset = 2; // a white margin has nothing to show
    CHECK(work.findings().empty());
    recipe.lines.front().offset = 0;
    work.job.profile.printer.error = work.job.profile.cutter.error = 0;
    CHECK(work.findings().empty());
}

TEST_CASE("a design without a line is an error at the step where it ends") {
    Workpiece work(2);
    for (Design& design : work.job.designs)
        design.artwork = scaledToWidth(design.artwork, 8);
    work.job.designs[0].recipe.lines.front().isCut = false;
    work.job.designs[1].recipe.lines.front().offset = -5;
    const auto findings = work.findings();
    REQUIRE(codesOf(findings) == Codes{"not-made", "not-made"});
    for (std::size_t i = 0; i < 2; ++i) {
        CHECK(findings[i].severity == Severity::error);
        CHECK(findings[i].step == RecipeStep::cutLines);
        CHECK(findings[i].design == work.job.designs[i].id);
    }
    CHECK(sentenceOf(work.job, findings[0]).find("No line around f is to be cut") == 0);
}

TEST_CASE("what the sheet can't hold, and pieces that lie where they can't, are errors with their places") {
    Workpiece work(1);
    Design& design = work.job.designs.front();
    design.artwork = scaledToWidth(design.artwork, 8);
    work.job.plan.medium = sheetOf(100, 100);
    work.job.plan.packing = Packing::nest;
    design.count = 3;
    work.job.plan.laid = {{design.id, 0, {50, 50}}, {design.id, 0, {52, 50}}, {design.id, 0, {1, 50}}};
    const auto findings = work.findings();
    CHECK(codesOf(findings) == Codes{"out-of-reach", "too-close"});
    for (const Finding& finding : findings) {
        CHECK(finding.severity == Severity::error);
        CHECK(finding.sheet == 0u);
        REQUIRE(finding.place);
        CHECK(finding.place->y == Approx(50));
    }
    CHECK(findings.at(0).place->x == Approx(1));

    work.job.plan.laid.edit().clear();
    design.artwork = scaledToWidth(design.artwork, 300);
    const auto tooLarge = work.findings();
    const auto lost = std::ranges::find(tooLarge, FindingCode::copiesLost, &Finding::code);
    REQUIRE(lost != tooLarge.end());
    CHECK(sentenceOf(work.job, *lost).find("3 of f not placed: ") == 0);
}

TEST_CASE("remarks on a recipe come as warnings, behind all errors, beside their design's name") {
    Workpiece work(2);
    for (Design& design : work.job.designs)
        design.artwork = scaledToWidth(design.artwork, 8);
    work.job.designs[0].recipe.bleed.amount = 40;
    work.job.designs[1].recipe.lines.front().isCut = false;
    const auto findings = work.findings();
    REQUIRE(codesOf(findings) == Codes{"not-made", "bleed-wide"});
    CHECK(findings[1].severity == Severity::warning);
    CHECK(findings[1].step == RecipeStep::bleed);
    CHECK(sentenceOf(work.job, findings[1]).find("f: The bleed is wider") == 0);
}

TEST_CASE("a name that printers' software may not know is found in the profile") {
    Workpiece work(1);
    work.job.designs.front().artwork = scaledToWidth(work.job.designs.front().artwork, 8);
    work.job.profile.names.lines[std::size_t(LineKind::kiss)].name = "cut contour";
    const auto findings = work.findings();
    REQUIRE(codesOf(findings) == Codes{"name-doubtful"});
    CHECK(findings.front().design.empty());
}

TEST_CASE("each code has a name of its own, and stands in the docs") {
    std::ifstream file(HASAMI_SOURCE_DIR "/docs/findings.md");
    std::stringstream docs;
    docs << file.rdbuf();
    std::set<std::string_view> names;
    for (const FindingCode code : findingCodes) {
        CHECK(names.insert(codeName(code)).second);
        CHECK(docs.str().find("`" + std::string(codeName(code)) + "`") != std::string::npos);
    }
}

TEST_CASE("a light rim along the edge that is cut is found, and cut off by its fix") {
    const auto codes = [](double rim) {
        Job job;
        auto asset = std::make_shared<Asset>();
        asset->sha256 = std::string(64, 'a');
        asset->name = "dot.png";
        addDesign(job, {asset, 300, 300, 10}); // 30 mm wide
        const auto dot = [rim](const Asset&, const PictureWish&, const std::stop_token&) {
            Picture picture = pictureOf(drawn(300, 300, disc({150, 150}, 120)), {40, 60, 120, 255});
            for (int y = 0; y < 300; ++y)
                for (int x = 0; x < 300; ++x)
                    if (distance({x + 0.5, y + 0.5}, {150, 150}) > 120 - rim * 10) {
                        Rgba& pixel = picture.pixels.at(x, y);
                        pixel = {230, 232, 240, pixel.coverage};
                    }
            return std::make_shared<const Picture>(picture);
        };
        job.designs.front().recipe.lines.front().offset = 0;
        job.designs.front().artwork = scaledToWidth(job.designs.front().artwork, 30);
        Cache cache;
        const auto found = findingsOf(job, makeAll(job, 1, dot, cache));
        std::vector<std::string_view> all = codesOf(found);
        if (!found.empty() && found.front().code == FindingCode::paleFringe) {
            REQUIRE(found.front().fix);
            found.front().fix->apply(job);
            CHECK(job.designs.front().recipe.lines.front().offset <= -rim);
            CHECK(codesOf(findingsOf(job, makeAll(job, 1, dot, cache))).empty());
        }
        return all;
    };
    CHECK(codes(0.4) == Codes{"pale-fringe"});
    CHECK(codes(0).empty());
    CHECK(codes(3).empty()); // a white border is meant to be there
}
