#include "app/stickers/bench.h"
#include "app/stickers/stickers_place.h"
#include "files/read_file.h"
#include "geometry/region_operations.h"
#include "sheet/rows.h"
#include "sticker/corner_limit.h"
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
    CHECK(readFile(folder / "smoke-can-1-print.pdf", 1 << 26).size() > 10'000);
    CHECK(readFile(folder / "smoke-can-1-cut.plt", 1 << 24).size() > 500);
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

TEST_CASE(
    "a heavy word filled with a picture, with a border of sharp corners: the walk W10, in 12 operations") {
    WindowDriver w;
    auto& bench = w.window().stickersPlace().bench();
    w.countOperations();
    w.click("Start with a word");            // 1: in a heavy font, welded where letters touch
    w.typeInto(bench, "HEATHER");            // 2
    w.type("Closeness field", "100");        // 3: touching
    w.click("Keep the openings of letters"); // 4
    w.type("Width field", "210");            // 5
    const Document& document = w.window().document();
    const Box word = bounds(document.selectedDesign()->artwork);
    w.dropOn(bench, bench.toScreen({word.centre().x, word.centre().y}).toPoint(), smokeCan); // 6
    w.click("Border frame");                                                                 // 7
    w.type("Width field", "4");                                                              // 8
    w.click("Cut lines frame");                                                              // 9
    w.choose("Corners choice", "Sharp");                                                     // 10
    w.type("Offset field", "-0.5");                                                          // 11
    CHECK(w.operations() <= 12);

    const Design& design = *document.selectedDesign();
    const MadeDesign& made = *document.newest(design.id);
    CHECK(made.trouble.empty());
    REQUIRE(made.sticker->edge.size() == 1); // one piece
    CHECK(bounds(flatten(made.sticker->edge, 0.001)).width() == Approx(210).margin(0.02));
    const OwnArtwork& own = *design.artwork.items[0].own();
    CHECK(std::holds_alternative<PictureFill>(own.fill));
    // The border is as wide as typed where it is cut: from the letters to the line.
    REQUIRE(made.sticker->lines.size() == 1);
    const Region line = flatten(std::vector{made.sticker->lines.front().curve}, 0.002),
                 edge = flatten(made.sticker->edge, 0.002);
    const OffsetCorners& corners = design.recipe.lines.front().corners;
    CHECK(area(difference(line, withoutOpenings(offset(edge, 4.02, corners)))) < 0.05);
    CHECK(area(difference(withoutOpenings(offset(edge, 3.98, corners)), line)) < 0.05);
    // And it is printed farther out, so that no white shows where the cut is off.
    CHECK(bounds(flatten(made.sticker->border->under, 0.01)).width() > 210 + 8 + 0.9);
    CHECK(cornersBeyond(made.sticker->edge, corners.limit).count == 0);
}

TEST_CASE(
    "a tag of exact size with a hole, lettering turned and a picture behind: the walk W9, in at most 16 "
    "operations") {
    WindowDriver w;
    const TemporaryFolder folder;
    auto& bench = w.window().stickersPlace().bench();
    const Document& document = w.window().document();
    w.countOperations();
    w.pick("Make artwork menu", "Rectangle"); // 1
    w.type("Shape width field", "58");        // 2
    w.type("Shape height field", "122");      // 3
    w.type("Hole field", "44");               // 4: centred across
    const Box tag = bounds(document.selectedDesign()->artwork);
    w.dropOn(bench, bench.toScreen({tag.centre().x, tag.most.y - 5}).toPoint(), smokeCan); // 5
    w.pick("Lay on it menu", "Lettering");                                                 // 6
    w.typeInto(bench, "MOOR");                                                             // 7
    w.click("Quarter left");                                                               // 8
    w.type("From the top field", "85");                                                    // 9
    w.click("Cut lines frame");                 // 10: the hole is cut by itself
    w.type("Offset field", "0");                // 11
    w.click("Prompt button");                   // 12, to the sheet
    w.click("Outputs");                         // 13
    w.choose("Format of output 1", "EPS");      // 14
    w.choose("Format of output 2", "HPGL");     // 15
    w.clickAndSave("Write all", folder.path()); // 16
    CHECK(w.operations() <= 16);
    CHECK(readFile(folder / qPrintable(document.title() + "-1-print.eps"), 1 << 26).size() > 10'000);
    CHECK(readFile(folder / qPrintable(document.title() + "-1-cut.plt"), 1 << 24).size() > 500);
    const MadeDesign& made = *document.newest(document.selected());
    CHECK(made.trouble.empty());
    REQUIRE(made.sticker->lines.size() == 2);
    const Box outer = bounds(flatten(made.sticker->lines[0].curve, 0.001)),
              hole = bounds(flatten(made.sticker->lines[1].curve, 0.001));
    CHECK(outer.width() == Approx(58).margin(0.01));
    CHECK(outer.height() == Approx(122).margin(0.01));
    CHECK(hole.width() == Approx(44).margin(0.01));
    CHECK(hole.height() == Approx(44).margin(0.02));
    CHECK(hole.centre().x == Approx(outer.centre().x).margin(0.01));
    CHECK(document.selectedDesign()->artwork.items[1].place.turn == -90);
}

namespace {

/// How many sets of all designs a sheet holds as the marks stand.
int setsThatFit(WindowDriver& w) {
    const Document& document = w.window().document();
    return setsOnSheet(copiesOf(document.job(), document.made()->designs), document.job().plan,
                       document.job().profile, 10'000);
}

} // namespace

TEST_CASE("a sheet of small stickers is split and fills a Letter sheet: the walk W11") {
    WindowDriver w;
    const TemporaryFolder folder;
    QFile file(folder.path("eight.svg"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='130mm' height='90mm' viewBox='0 0 130 90'>");
    for (int i = 0; i < 8; ++i)
        file.write(
            QString("<circle cx='%1' cy='%2' r='7' fill='#248'/><circle cx='%1' cy='%2' r='2' fill='#fff'/>")
                .arg(20 + 30 * (i % 4))
                .arg(20 + 40 * (i / 4))
                .toUtf8());
    file.write("</svg>");
    file.close();
    w.countOperations();
    w.drop({folder.path("eight.svg")});      // 1
    w.click("Prompt button");                // 2, splits it
    w.click("Prompt button");                // 3, to the sheet
    w.choose("Medium kind", "Sheet Letter"); // 4
    const auto before = setsThatFit(w);
    w.click("Marks as close as possible"); // 5
    CHECK(setsThatFit(w) > before);        // more fits than with the start marks
    w.click("Fill with sets");             // 6
    CHECK(w.operations() == 6);
    const Document& document = w.window().document();
    REQUIRE(document.job().designs.size() == 8);
    for (const MadeDesign& made : document.made()->designs)
        CHECK(made.sticker->lines.size() == 1); // no inner line is cut
    const Layout& layout = document.made()->layout;
    CHECK(layout.sheets.size() == 1);
    CHECK(int(layout.pieces()) == 8 * document.job().plan.sets);
    CHECK(document.job().plan.sets > 1);
    hasami::Box marks;
    for (const Mark& mark : layout.sheets[0].marks)
        marks.add(mark.centre);
    for (const Piece& piece : layout.sheets[0].pieces)
        CHECK(marks.holds(
            boundsOf(copiesOf(*document.job().find(piece.design), *document.made()->find(piece.design)),
                     piece.place)));
}
