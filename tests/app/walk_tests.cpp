#include "files/read_file.h"
#include "geometry/region_operations.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png", newerBee = HASAMI_SOURCE_DIR "/data/demo/bee.svg";
const QString label = HASAMI_SOURCE_DIR "/data/demo/honey-label.svg";
const QString smokeCan = HASAMI_SOURCE_DIR "/data/demo/smoke-can.jpg";

} // namespace

TEST_CASE("a can on a backdrop, with a line inside and bleed, fills an A4 sheet: the walk W2, in at most 9 "
          "operations") {
    WindowDriver w;
    const TemporaryFolder folder;
    w.countOperations();
    w.drop({smokeCan});                         // 1: backdrop and shadow are left out by themselves
    w.type("Offset field", "-0.3");             // 2: the bleed of 1 mm is a start value
    w.click("Prompt button");                   // 3, to the sheet
    w.choose("Medium kind", "Sheet A4");        // 4
    w.click("Fill");                            // 5
    w.click("Outputs");                         // 6
    w.choose("Format of output 2", "HPGL");     // 7
    w.clickAndSave("Write all", folder.path()); // 8
    CHECK(w.operations() <= 9);

    const Document& document = w.window().document();
    const Design& can = document.job().designs.front();
    const MadeDesign& made = document.made()->designs.front();
    CHECK(made.previews.front()->way == EdgeWay::backdrop);
    CHECK(made.sticker->edge.size() == 1);
    const Box artwork = bounds(can.artwork);
    CHECK(area(flatten(made.sticker->edge, 0.01)) < 0.7 * artwork.width() * artwork.height());
    CHECK(can.recipe.bleed.amount >= 1);
    REQUIRE(made.bleed); // so that no white shows where the cut drifts outward
    const Region cut = flatten(std::vector{made.sticker->lines.front().curve}, 0.01);
    const Region inked =
        uniteSimple(std::vector{flatten(made.sticker->edge, 0.01), flatten(made.sticker->bleed->area, 0.01)});
    CHECK(area(difference(offset(cut, 0.5), offset(inked, 0.02))) < 0.05);
    const Layout& layout = document.made()->layout;
    REQUIRE(layout.sheets.size() == 1);
    CHECK(layout.pieces() > 1);
    CHECK(readFile(folder / "Untitled job-1-print.pdf", 1 << 26).size() > 10'000);
    CHECK(readFile(folder / "Untitled job-1-cut.plt", 1 << 24).size() > 500);
}

TEST_CASE(
    "a change of mind, the artwork's newer drawing and another size: the walk W3, in at most 3 operations") {
    WindowDriver w;
    w.drop({bee});
    w.click("Artwork frame");
    w.type("Width field", "50");
    w.click("Prompt button");
    w.type("Copies field", "24");
    const Document& document = w.window().document();
    const Job before = document.job();
    const double length = document.made()->layout.usedLength();
    w.countOperations();
    w.chooseAndOpen("Replace &artwork…", newerBee); // 1
    w.click("Stickers place");                      // 2
    w.type("Width field", "65");                    // 3
    CHECK(w.operations() <= 3);

    const Job& after = document.job();
    const Design& was = before.designs.front();
    const Design& is = after.designs.front();
    CHECK(is.artwork.items.front().isVector());
    CHECK(bounds(is.artwork).width() == Approx(65));
    CHECK(is.recipe == was.recipe); // nothing else was touched
    CHECK(is.count == was.count);
    CHECK(after.plan == before.plan);
    CHECK(after.profile == before.profile);
    CHECK(document.made()->designs.front().sticker->footprint.width() > 65);
    CHECK(document.made()->layout.pieces() == 24);
    CHECK(document.made()->layout.usedLength() > length);
}

TEST_CASE("a photograph's subject with a white band, in three rows on a roll: the walk W15, in at most 7 "
          "operations") {
    WindowDriver w;
    w.countOperations();
    w.drop({smokeCan});                  // 1
    w.type("Offset field", "3");         // 2
    w.click("Artwork frame");            // 3
    w.type("Width field", "70");         // 4
    w.click("Prompt button");            // 5
    w.type("Medium width field", "500"); // 6
    w.type("Copies field", "15");        // 7
    CHECK(w.operations() <= 7);
    const Document& document = w.window().document();
    const MadeDesign& made = document.made()->designs.front();
    CHECK(made.sticker->lines.size() == 1); // no specks
    const Layout& layout = document.made()->layout;
    REQUIRE(layout.pieces() == 15);
    std::set<long> rows;
    for (const Piece& piece : layout.sheets.front().pieces)
        rows.insert(std::lround(piece.place(made.sticker->footprint.centre()).x));
    CHECK(rows.size() == 3);
    CHECK(layout.usedLength() < 3 * (made.sticker->footprint.width() + 3) + 60); // what they need
}

TEST_CASE("a drawing as a wall's logo, 1.4 m wide with 6 mm of bleed: the walk W14, in 6 operations") {
    WindowDriver w;
    w.countOperations();
    w.drop({label});               // 1
    w.type("Offset field", "0");   // 2
    w.click("Artwork frame");      // 3
    w.type("Width field", "1400"); // 4
    w.click("Bleed frame");        // 5
    w.type("Bleed field", "6");    // 6
    CHECK(w.operations() <= 6);
    const Document& document = w.window().document();
    const MadeDesign& made = document.made()->designs.front();
    CHECK(made.sticker->lines.size() == 1);
    CHECK(bounds(document.job().designs.front().artwork).width() == Approx(1400));
    CHECK(document.job().designs.front().recipe.bleed.amount == 6);
    REQUIRE(made.bleed);
    CHECK(made.sticker->footprint.width() > made.sticker->peeledBox.width());
}
