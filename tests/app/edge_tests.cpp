#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "support/window_driver.h"

#include <QListWidget>
#include <QMenu>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString ring = HASAMI_SOURCE_DIR "/data/demo/comb-ring.png";
const QString smokeCan = HASAMI_SOURCE_DIR "/data/demo/smoke-can.jpg";

/// The ring in the step Edge, with nothing cut but its outside: 14 lines are found in it.
struct RingDriver : WindowDriver {
    RingDriver() {
        drop({ring});
        click("Edge frame");
        REQUIRE(lines().size() == 14);
    }

    std::vector<LoopPicker::Entry> lines() { return LoopPicker(window().document()).lines(); }
    std::size_t cut() {
        const auto all = lines();
        return std::size_t(std::count_if(all.begin(), all.end(), [](const auto& l) { return l.isCut; }));
    }
    std::size_t edges() { return window().document().made()->designs[0].sticker->edge.size(); }
    Bench& bench() { return window().stickersPlace().bench(); }
    QPoint at(double x, double y) { return bench().toScreen({x, y}).toPoint(); }
    void clickBench(QPoint place) {
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, place);
        settle();
    }
    void sweep(QPoint from, QPoint to) {
        QTest::mousePress(&bench(), Qt::LeftButton, {}, from);
        QTest::mouseMove(&bench(), (from + to) / 2);
        QTest::mouseMove(&bench(), to);
        QTest::mouseRelease(&bench(), Qt::LeftButton, {}, to);
        settle();
    }
};

} // namespace

TEST_CASE("a click switches the smallest line under the pointer, the next one what lies behind it") {
    RingDriver w;
    CHECK(w.cut() == 1);
    CHECK(w.edges() == 1);
    const Box cell = w.lines().back().loop->facts.box; // one of the twelve small ones
    const QPoint inCell = w.at(cell.centre().x, cell.centre().y);
    w.clickBench(inCell);
    CHECK(w.lines().back().isCut);
    CHECK(w.edges() == 2);
    CHECK(w.window().document().undoLabel() == "Cut a line");
    w.clickBench(inCell); // the ring around it
    CHECK_FALSE(w.lines().front().isCut);
    CHECK(w.lines().back().isCut);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.cut() == 1);
    CHECK(w.window().document().job().designs[0].recipe.edge.switches.empty());
}

TEST_CASE("lines stay switched when the size changes, and nothing beside them does") {
    RingDriver w;
    const Box cell = w.lines()[5].loop->facts.box;
    w.clickBench(w.at(cell.centre().x, cell.centre().y));
    w.click("Artwork frame");
    w.type("Width field", "37");
    const auto lines = w.lines();
    REQUIRE(lines.size() == 14);
    std::size_t cut = 0;
    for (const auto& line : lines) {
        const double scale = 37.0 / 76.2;
        const Point there = cell.centre() * scale;
        const bool isThat = distance(line.loop->facts.box.centre(), there) < 0.1 && line.loop->facts.area < 0;
        cut += line.isCut;
        CHECK(line.isCut == (isThat || line.loop->facts.depth == 0));
    }
    CHECK(cut == 2);
}

TEST_CASE("a sweep switches what lies wholly within it") {
    RingDriver w;
    const Box middle = w.lines()[1].loop->facts.box; // the opening in the midst
    w.sweep(w.at(middle.least.x - 1, middle.least.y - 1), w.at(middle.most.x + 1, middle.most.y + 1));
    CHECK(w.cut() == 2);
    CHECK(w.lines()[1].isCut);
    // Over the left half: five cells lie in it with all they are, those above and below the middle only in
    // part.
    const Box whole = w.lines()[0].loop->facts.box;
    w.sweep(w.at(whole.least.x - 1, whole.least.y - 1), w.at(whole.centre().x, whole.most.y + 1));
    CHECK(w.cut() == 7);
    w.sweep(w.at(whole.least.x - 1, whole.least.y - 1), w.at(whole.centre().x, whole.most.y + 1));
    CHECK(w.cut() == 2);
    CHECK(w.window().document().undoLabel() == "Don't cut 5 lines");
}

TEST_CASE("the list of lines, by size, switches them by mouse and keyboard") {
    RingDriver w;
    auto* list = w.find<QListWidget>("Line list");
    REQUIRE(list->count() == 14);
    CHECK(list->item(0)->text().startsWith("Outline, "));
    CHECK(list->item(1)->text().startsWith("Opening, "));
    CHECK(list->item(0)->checkState() == Qt::Checked);
    list->setFocus();
    list->setCurrentRow(3);
    QTest::keyClick(list, Qt::Key_Space);
    w.settle();
    CHECK(w.cut() == 2);
    CHECK(w.lines()[3].isCut);
    w.choose("Lines choice", "Openings too");
    CHECK(w.cut() == 14);
    CHECK(w.edges() == 14);
}

TEST_CASE("a picture on a backdrop finds its edge by itself; shadow and way are set in the window") {
    WindowDriver w;
    w.drop({smokeCan});
    const Document& document = w.window().document();
    w.click("Edge frame");
    CHECK(document.made()->designs[0].previews.front()->way == EdgeWay::backdrop);
    const double bare = area(flatten(document.made()->designs[0].sticker->edge, 0.01));
    CHECK(w.find<QSlider>("Shadow slider")->isVisible());
    w.type("Shadow field", "100");
    CHECK(area(flatten(document.made()->designs[0].sticker->edge, 0.01)) > 1.05 * bare);
    w.choose("Find the edge by choice", "Plain shape");
    CHECK(document.undoLabel() == "Find the edge by: Plain shape");
    CHECK_FALSE(w.find<QSlider>("Level slider")->isVisible());
    w.choose("Shape choice", "Circle");
    w.type("Margin field", "-5");
    const Sticker& sticker = *document.made()->designs[0].sticker;
    REQUIRE(sticker.edge.size() == 1);
    CHECK(sticker.edge[0].points() == 6); // arcs of 60 degrees
    w.choose("Find the edge by choice", "Backdrop");
    w.keys(Qt::Key_Down, Qt::AltModifier);
    CHECK(document.job().designs[0].recipe.edge.level == 49.0);
    w.keys(Qt::Key_Up, Qt::AltModifier | Qt::ShiftModifier);
    CHECK(document.job().designs[0].recipe.edge.smoothing == Approx(0.05));
    w.click("Level reset");
    CHECK_FALSE(document.job().designs[0].recipe.edge.level.has_value());
}

TEST_CASE("by colours every detail is a line, and one colour can be cut alone") {
    WindowDriver w;
    w.drop({QString(HASAMI_SOURCE_DIR "/data/demo/bee.png")});
    w.click("Edge frame");
    w.choose("Find the edge by choice", "Colours, each by itself");
    w.settle();
    const auto recipe = [&] { return w.window().document().job().designs.at(0).recipe; };
    CHECK(recipe().lines[0].offset == 0); // on the borders themselves
    const auto lines = [&] { return LoopPicker(w.window().document()).lines(); };
    const std::size_t all = lines().size();
    CHECK(all > 12);
    CHECK(w.window().document().made()->designs[0].sticker->lines.size() == all);
    auto* list = w.find<QListWidget>("Line list");
    list->setCurrentRow(1); // an area that is not the darkest, largest one
    w.click("Cut this colour alone");
    w.settle();
    const auto colour = lines()[1].loop->colour;
    for (const auto& line : lines())
        CHECK(line.isCut == (line.loop->colour == colour));
    CHECK(w.window().document().undoLabel().startsWith("Cut #"));
    w.type("Colours field", "2");
    w.settle();
    CHECK(lines().size() < all);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(recipe().edge.way == EdgeWay::automatic);
    CHECK(recipe().lines[0].offset == 2);
}

TEST_CASE("a plain shape by its own size is shared with other designs") {
    WindowDriver w;
    w.drop({ring, QString(HASAMI_SOURCE_DIR "/data/demo/bee.png")});
    const Document& document = w.window().document();
    w.click("Edge frame");
    w.choose("Find the edge by choice", "Plain shape");
    w.choose("Shape choice", "Circle");
    w.choose("Measured by choice", "Its own size");
    w.type("Shape width field", "60");
    w.settle();
    const auto width = [&](std::size_t design) {
        return bounds(flatten(document.made()->designs[design].sticker->edge.at(0), 0.001)).width();
    };
    CHECK(width(1) == Approx(60).margin(0.001));
    auto* menu = w.find<QMenu>("Designs of the same shape");
    Q_EMIT menu->aboutToShow();
    REQUIRE(menu->actions().size() == 1);
    menu->actions().front()->trigger();
    w.settle();
    CHECK(width(0) == Approx(60).margin(0.001));
    w.type("Shape width field", "80");
    w.settle();
    CHECK(width(0) == Approx(80).margin(0.001));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(width(0) == Approx(60).margin(0.001));
    CHECK(width(1) == Approx(60).margin(0.001));
}
