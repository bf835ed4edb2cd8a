#include "app/stickers/bench.h"
#include "app/stickers/cut_lines_page.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "app/stickers/view_bar.h"
#include "base/json_reader.h"
#include "geometry/curve_lengths.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QListWidget>
#include <QSignalSpy>
#include <QSlider>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";
const QString can = HASAMI_SOURCE_DIR "/data/demo/smoke-can.jpg";

/// One design, its cut lines on the bench.
class LineBench : public WindowDriver {
public:
    explicit LineBench(const QString& art, const QString& frame = "Cut lines frame") {
        drop({art});
        click(frame);
    }

    Bench& bench() { return window().stickersPlace().bench(); }
    const Recipe& recipe() { return window().document().selectedDesign()->recipe; }
    const MadeDesign& made() { return *window().document().newest(window().document().selected()); }
    const Sticker& sticker() { return *made().sticker; }
    QString label() { return window().document().undoLabel(); }

    const CutLine& cut(LineKind kind) {
        const auto& lines = sticker().lines;
        const auto found =
            std::find_if(lines.begin(), lines.end(), [&](const CutLine& l) { return l.kind == kind; });
        REQUIRE(found != lines.end());
        return *found;
    }
    Point tab(std::size_t i) {
        const CutLine& line = cut(LineKind::perforated);
        const CurveLengths lengths(line.curve);
        return pointAt(line.curve, lengths.placeAt((line.tabs.at(i).from + line.tabs.at(i).to) / 2));
    }

    QPoint screen(Point place) { return bench().toScreen({place.x, place.y}).toPoint(); }
    void moveTo(Point place, Qt::MouseButtons held = {}) {
        const QPointF at = bench().toScreen({place.x, place.y});
        QMouseEvent event(QEvent::MouseMove, at, bench().mapToGlobal(at), Qt::NoButton, held, {});
        QApplication::sendEvent(&bench(), &event);
    }
    void drag(Point from, Point to) {
        moveTo(from);
        QTest::mousePress(&bench(), Qt::LeftButton, {}, screen(from));
        for (int i = 1; i <= 5; ++i)
            moveTo(between(from, to, i / 5.0), Qt::LeftButton);
        QTest::mouseRelease(&bench(), Qt::LeftButton, {}, screen(to));
        settle();
    }
    void clickAt(Point place) {
        moveTo(place);
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, screen(place));
        settle();
    }
    QColor pixelAt(Point place) {
        return bench().grab().toImage().pixelColor(screen(place) * bench().devicePixelRatio());
    }
};

} // namespace

TEST_CASE("a perforated line is added, its tabs counted, patterned, put by hand and undone") {
    LineBench b(bee);
    b.trigger("Add perforated die cut");
    REQUIRE(b.recipe().lines.size() == 2);
    CHECK(b.label() == "Add line: Perforated die cut");
    CHECK(b.cut(LineKind::perforated).tabs.size() == 5);
    b.type("Count field", "8");
    CHECK(b.cut(LineKind::perforated).tabs.size() == 8);
    b.type("Count field", "2"); // fewer than hold it: refused
    CHECK(b.recipe().lines[1].tabs.count == 8);
    b.type("Length of a tab field", "1.5");
    CHECK(b.cut(LineKind::perforated).tabs[0].to - b.cut(LineKind::perforated).tabs[0].from == Approx(1.5));
    b.choose("Tabs choice", "By a pattern");
    b.type("Cut between tabs field", "20");
    const double whole = CurveLengths(b.cut(LineKind::perforated).curve).whole();
    CHECK(b.cut(LineKind::perforated).tabs.size() == std::size_t(std::lround(whole / 21.5)));

    const auto count = b.cut(LineKind::perforated).tabs.size();
    const Point first = b.tab(0), between0and1 = [&] {
        const CutLine& line = b.cut(LineKind::perforated);
        const CurveLengths lengths(line.curve);
        return pointAt(line.curve, lengths.placeAt((line.tabs[0].to + line.tabs[1].from) / 2));
    }();
    b.clickAt(between0and1);
    CHECK(b.label() == "Add a tab");
    CHECK(b.cut(LineKind::perforated).tabs.size() == count + 1);
    CHECK(distance(b.tab(1), between0and1) < 0.3);
    b.drag(b.tab(1), between(b.tab(1), b.tab(2), 0.3));
    CHECK(b.label() == "Move a tab");
    CHECK(distance(b.tab(1), between0and1) > 1);
    b.moveTo(b.tab(0));
    QTest::keyClick(&b.bench(), Qt::Key_Delete);
    b.settle();
    CHECK(b.label() == "Take a tab away");
    CHECK(b.cut(LineKind::perforated).tabs.size() == count);
    CHECK(distance(b.tab(0), first) > 1);
    for (int i = 0; i < 3; ++i)
        b.window().document().undo();
    b.settle();
    CHECK(b.recipe().lines[1].tabs.way == TabRule::Way::pattern);
    CHECK(distance(b.tab(0), first) < 1e-9);
}

TEST_CASE("tabs are walked, moved, added and taken away by keys alone") {
    LineBench b(bee);
    b.trigger("Add perforated die cut");
    b.moveTo({-50, -50}); // the pointer is nowhere near
    const auto key = [&](int key, Qt::KeyboardModifiers with = {}) {
        QTest::keyClick(&b.bench(), Qt::Key(key), with);
        b.settle();
    };
    const auto middle = [&](std::size_t i) {
        const Tab tab = b.cut(LineKind::perforated).tabs.at(i);
        return (tab.from + tab.to) / 2;
    };
    key(Qt::Key_Delete); // none is walked to yet
    CHECK(b.cut(LineKind::perforated).tabs.size() == 5);
    const double first = middle(0), second = middle(1), third = middle(2);
    key(Qt::Key_PageDown);
    key(Qt::Key_PageDown);
    key(Qt::Key_Right, Qt::ShiftModifier);
    CHECK(b.label() == "Move a tab");
    CHECK(b.recipe().lines[1].tabs.way == TabRule::Way::byHand);
    CHECK(middle(1) == Approx(second + 5).margin(1.5)); // clear of tight bends
    CHECK(middle(0) == Approx(first).margin(0.05));
    CHECK(middle(2) == Approx(third).margin(0.05));
    key(Qt::Key_Right);
    key(Qt::Key_Left, Qt::ShiftModifier);
    key(Qt::Key_Left);
    CHECK(middle(1) == Approx(second).margin(0.05));
    b.window().document().undo(); // moves in a row are one step
    b.settle();
    CHECK(b.recipe().lines[1].tabs.way == TabRule::Way::count);

    key(Qt::Key_Insert);
    REQUIRE(b.cut(LineKind::perforated).tabs.size() == 6);
    CHECK(b.label() == "Add a tab");
    CHECK(middle(2) == Approx((second + third) / 2).margin(1.5));
    key(Qt::Key_Delete); // the new one is held
    CHECK(b.cut(LineKind::perforated).tabs.size() == 5);
    CHECK(middle(2) == Approx(third).margin(0.05));
    key(Qt::Key_Delete);
    CHECK(b.cut(LineKind::perforated).tabs.size() == 5);
}

TEST_CASE("the stickers of a sheet get a box that they share, and lose it by undo") {
    LineBench b(bee);
    b.window().goTo(MainWindow::sheet);
    const auto lines = [&] { return b.window().document().made()->layout.sheets.at(0).lines; };
    CHECK(lines().empty());
    b.choose("Shared box kind", "Die cut");
    b.settle();
    REQUIRE(lines().size() == 1);
    const double narrow = bounds(flatten(lines()[0].curve, 0.01)).width();
    b.type("Box margin field", "8");
    b.settle();
    CHECK(bounds(flatten(lines().at(0).curve, 0.01)).width() == Approx(narrow + 6));
    b.choose("Shared box kind", "Perforated, with tabs");
    b.type("Box tabs field", "9");
    b.settle();
    CHECK(lines().at(0).tabs.size() == 9);
    for (int i = 0; i < 4; ++i)
        b.window().document().undo();
    b.settle();
    CHECK(lines().empty());
}

TEST_CASE("where nothing is left the last good line stays in view, paled, and goes with its artwork") {
    LineBench b(bee);
    b.choose("Corners choice", "Sharp");
    const Point onLine = b.cut(LineKind::kiss).curve.start;
    const QColor before = b.pixelAt(onLine);
    b.type("Offset field", "-45");
    REQUIRE(b.sticker().isEmpty());
    CHECK(b.made().trouble.find("leaves nothing") != std::string::npos);
    const Document& document = b.window().document();
    const MadeDesign* good = document.lastGood(document.selected());
    REQUIRE(good);
    CHECK(good->recipe.lines[0].offset == 2);
    const QColor paled = b.pixelAt(onLine);
    CHECK(paled != before);
    CHECK(paled.lightness() > before.lightness());
    b.type("Offset field", "1");
    CHECK(document.lastGood(document.selected()) == nullptr);
    CHECK_FALSE(b.sticker().isEmpty());
}

TEST_CASE("a die line is a plain shape whose sides are dragged on the bench") {
    LineBench b(bee);
    b.trigger("Add die cut");
    b.choose("Runs along choice", "A plain shape");
    b.choose("Shape of the line choice", "Box");
    b.type("Margin field", "4");
    const auto box = [&] { return bounds(flatten(b.cut(LineKind::die).curve, 0.01)); };
    const Box before = box();
    b.window().stickersPlace().bench().fit();
    b.drag({before.most.x, before.centre().y}, {before.most.x + 6, before.centre().y});
    CHECK(b.label() == "Drag the line's side");
    CHECK(box().most.x == Approx(before.most.x + 6).margin(0.3));
    CHECK(box().least.x == Approx(before.least.x).margin(1e-6));
    CHECK(b.recipe().lines[1].stretch.right == Approx(6).margin(0.3));
    b.window().document().undo(); // the drag is one step
    b.settle();
    CHECK(box().most.x == Approx(before.most.x));
    b.type("Lift tab field", "10");
    CHECK(box().height() > before.height() + 1);
}

TEST_CASE("a line that is not ticked is kept and not cut") {
    LineBench b(bee);
    b.trigger("Add die cut");
    auto* list = b.find<QListWidget>("Cut lines list");
    list->item(1)->setCheckState(Qt::Unchecked);
    b.settle();
    CHECK_FALSE(b.sticker().has(LineKind::die));
    CHECK(b.sticker().leftOut.size() == 1);
    CHECK(b.label() == "Leave out the line: Die cut");
    CHECK(list->item(1)->text() == "Die cut, not cut");
    b.window().document().undo();
    b.settle();
    CHECK(b.sticker().has(LineKind::die));
    CHECK(list->item(1)->checkState() == Qt::Checked);
}

TEST_CASE("a fold is added as a crease across the sticker") {
    LineBench b(bee);
    b.trigger("Add crease");
    CHECK(b.cut(LineKind::crease).isOpen);
    b.choose("Direction choice", "From side to side");
    b.type("Place of the fold field", "30");
    const Box box = b.sticker().peeledBox;
    CHECK(b.cut(LineKind::crease).curve.start.y == Approx(box.least.y + 0.3 * box.height()).margin(0.05));
}

TEST_CASE("bleed is shown, changed and switched off, and says when none is needed") {
    LineBench b(bee, "Bleed frame");
    CHECK_FALSE(b.sticker().bleed); // a white margin
    CHECK(b.find<StripFrame>("Bleed frame")->figure() == "none needed");
    b.click("Cut lines frame");
    b.type("Offset field", "0");
    b.click("Bleed frame");
    REQUIRE(b.sticker().bleed);
    REQUIRE(b.made().bleed);
    CHECK(b.find<StripFrame>("Bleed frame")->figure() == "1 mm");
    const double width = b.sticker().footprint.width();
    b.type("Bleed field", "3");
    CHECK(b.sticker().footprint.width() == Approx(width + 4).margin(0.1));
    CHECK(b.label() == "Bleed 3 mm");
    // The bee's outline is dark: so is what is printed past it.
    b.bench().fit();
    b.settle();
    const Box edge = bounds(flatten(b.sticker().edge, 0.01));
    Point leftmost;
    for (const Loop& loop : flatten(b.sticker().edge, 0.01).loops)
        for (const Point p : loop)
            if (p.x == edge.least.x)
                leftmost = p;
    CHECK(b.pixelAt(leftmost - Point{1.5, 0}).lightness() < 80);
    b.click("Show bleed");
    CHECK(b.pixelAt(leftmost - Point{1.5, 0}).lightness() > 200); // the print without it
    b.click("Show bleed");
    b.choose("Bleed colours choice", "One colour");
    b.type("Bleed colour field", "#FF0000");
    CHECK(b.recipe().bleed.colour == PaintColour{{255, 0, 0, 255}});
    CHECK_FALSE(b.made().bleed);
    CHECK(b.pixelAt(leftmost - Point{1.5, 0}).red() > 200);
    CHECK(b.pixelAt(leftmost - Point{1.5, 0}).green() < 60);
    b.type("Bleed field", "0");
    CHECK_FALSE(b.sticker().bleed);
}

TEST_CASE("a backdrop is left out of the print until it is asked for") {
    LineBench b(can, "Bleed frame");
    CHECK_FALSE(b.sticker().within.empty());
    b.click("Leave out what reaches farther");
    CHECK(b.sticker().within.empty());
    CHECK(b.label() == "Print what reaches farther");
}

TEST_CASE("white ink is added, drawn in, limited to colours and looked at alone") {
    LineBench b(bee, "Inks frame");
    b.trigger("Add white ink");
    REQUIRE(b.made().inks.size() == 1);
    const auto area = [&] {
        double sum = 0;
        for (const Curve& curve : b.made().inks[0]->area)
            sum += signedArea(flatten(curve, 0.01));
        return sum;
    };
    const double all = area();
    b.type("Choke field", "1");
    CHECK(area() < all - 50);
    b.choose("Printed choice", "Chosen colours");
    CHECK(b.made().inks[0]->area.empty()); // none chosen yet: said, and nothing printed
    CHECK(b.find<StripFrame>("Inks frame")->figure() == "White ink");
    b.type("Choke field", "0");
    b.clickAt({12, 24}); // the bee's cheek, yellow
    REQUIRE(b.recipe().inks[0].colours.size() == 1);
    CHECK(area() > 50);
    CHECK(area() < all);
    b.clickAt({12, 24});
    CHECK(b.recipe().inks[0].colours.empty());
    b.choose("Printed choice", "All that is printed");
    b.click("White ink view");
    const Point inside{b.sticker().peeledBox.centre()};
    CHECK(b.pixelAt(inside).lightness() > 250);
    b.click("Cut view");
    CHECK(b.pixelAt(inside).lightness() > 200); // nothing but the ground
    b.click("Cut lines frame");                 // one sees the step that one chose
    CHECK(b.find<QPushButton>("The step view")->isChecked());
}

TEST_CASE("two clicks draw a slit, which is bent, drawn on, moved and undone") {
    LineBench b(bee);
    const std::size_t before = b.sticker().lines.size();
    b.trigger("Add slit");
    REQUIRE(b.recipe().lines.size() == 2);
    CHECK(b.recipe().lines[1].course == LineCourse::drawn);
    CHECK(b.sticker().lines.size() == before); // nothing is drawn yet
    const Point from{10, 20}, to{30, 20};
    b.clickAt(from);
    QTest::keyClick(&b.bench(), Qt::Key_Escape); // not there
    b.clickAt({12, 22});
    CHECK(b.recipe().lines[1].drawn.points.empty());
    QTest::keyClick(&b.bench(), Qt::Key_Escape);
    b.clickAt(from);
    b.clickAt(to);
    CHECK(b.label() == "Draw a line");
    const auto slit = [&]() -> const CutLine& {
        const auto& lines = b.sticker().lines;
        const auto found = std::ranges::find_if(lines, &CutLine::isOpen);
        REQUIRE(found != lines.end());
        return *found;
    };
    constexpr double pixel = 0.3; // mm, more than one of them
    CHECK(slit().kind == LineKind::kiss);
    CHECK(distance(slit().curve.start, from) < pixel);
    CHECK(distance(slit().curve.segments.back().end, to) < pixel);
    CHECK(cutLength(slit()) == Approx(20).margin(2 * pixel));

    b.drag({20, 20}, {20, 28}); // another corner
    CHECK(b.label() == "Move a corner");
    REQUIRE(slit().curve.segments.size() == 2);
    CHECK(distance(slit().curve.segments[0].end, {20, 28}) < pixel);
    b.moveTo({30, 30});
    QTest::mouseClick(&b.bench(), Qt::LeftButton, Qt::ControlModifier, b.screen({30, 30}));
    b.settle();
    CHECK(b.label() == "Draw the line on");
    REQUIRE(slit().curve.segments.size() == 3);
    CHECK(distance(slit().curve.segments.back().end, {30, 30}) < pixel);
    QTest::keyClick(&b.bench(), Qt::Key_Right, Qt::ShiftModifier); // the new end
    b.settle();
    CHECK(distance(slit().curve.segments.back().end, {35, 30}) < pixel);
    QTest::keyClick(&b.bench(), Qt::Key_PageUp);
    QTest::keyClick(&b.bench(), Qt::Key_Delete);
    b.settle();
    CHECK(b.label() == "Take a corner away");
    CHECK(slit().curve.segments.size() == 2);

    b.choose("Kind choice", "Die cut");
    CHECK(slit().kind == LineKind::die);
    b.choose("Kind choice", "Perforated die cut");
    b.type("Cut between tabs field", "4");
    CHECK(slit().tabs.size() > 2);
    b.window().document().undo();
    b.window().document().undo();
    b.window().document().undo();
    b.window().document().undo();
    b.settle();
    CHECK(slit().kind == LineKind::kiss);
    CHECK(slit().curve.segments.size() == 3);
    b.choose("Runs along choice", "The edge");
    CHECK(std::ranges::none_of(b.sticker().lines, &CutLine::isOpen));
}

TEST_CASE("a slit takes no more points than a job may hold, and says so") {
    LineBench b(bee);
    b.trigger("Add slit");
    const QSignalSpy refused(&b.window().document(), &Document::refused);
    for (std::size_t i = 1; i < Limits::mostDrawnPoints; ++i) // the first one draws two
        QTest::keyClick(&b.bench(), Qt::Key_Insert);
    CHECK(b.recipe().lines[1].drawn.points.size() == Limits::mostDrawnPoints);
    CHECK(refused.isEmpty());
    QTest::keyClick(&b.bench(), Qt::Key_Insert);
    REQUIRE(refused.size() == 1);
    CHECK(refused.front().front().toString().contains("at most 100 points"));
    CHECK(b.recipe().lines[1].drawn.points.size() == Limits::mostDrawnPoints);
}

TEST_CASE("a slit is drawn by keys, and by steps of 15 degrees with Shift") {
    LineBench b(bee);
    b.trigger("Add slit");
    QTest::keyClick(&b.bench(), Qt::Key_Insert);
    b.settle();
    REQUIRE(b.recipe().lines[1].drawn.points.size() == 2);
    QTest::keyClick(&b.bench(), Qt::Key_PageDown);
    QTest::keyClick(&b.bench(), Qt::Key_Delete);
    b.settle();
    CHECK(b.recipe().lines[1].drawn.points.empty());
    b.clickAt({10, 20});
    QTest::mouseClick(&b.bench(), Qt::LeftButton, Qt::ShiftModifier, b.screen({30, 21}));
    b.settle();
    REQUIRE(b.recipe().lines[1].drawn.points.size() == 2);
    CHECK(b.recipe().lines[1].drawn.points[0].y == Approx(b.recipe().lines[1].drawn.points[1].y));
}

TEST_CASE("a line of an artwork that is not there is drawn anew") {
    LineBench b(bee);
    b.trigger("Add slit");
    b.window().document().change("Test", [](Job& job) { // as a damaged job has it
        job.designs.front().recipe.lines[1].drawn = {{{0, 0}, {1, 1}}, 40};
    });
    b.settle();
    CHECK(std::ranges::none_of(b.sticker().lines, &CutLine::isOpen));
    b.clickAt({10, 20});
    b.clickAt({30, 20});
    CHECK(b.recipe().lines[1].drawn.item == 0);
    CHECK(std::ranges::any_of(b.sticker().lines, &CutLine::isOpen));
}

TEST_CASE("white is printed under, over or between the colours, and the finished view shows it") {
    LineBench b(bee, "Inks frame");
    b.trigger("Add white ink");
    const auto order = [&] { return b.window().document().job().profile.printer.inkOrder.white(); };
    b.choose("Medium look", "Black");
    const Point cheek{16, 54}; // yellow
    const QColor seen = b.pixelAt(cheek);
    CHECK(seen.red() > 150);
    b.choose("Place of white choice", "Over the colours");
    CHECK(order() == WhitePlace::over);
    CHECK(b.label() == "Place of white: Over the colours");
    CHECK(b.pixelAt(cheek) == QColor(Qt::white)); // it hides them
    b.click("Print it mirrored");                 // seen from behind
    CHECK(b.pixelAt(cheek) == seen);
    b.choose("Place of white choice", "Between two passes of them");
    CHECK(order() == WhitePlace::between);
    CHECK(b.pixelAt(cheek) == seen);
    b.click("Print it mirrored");
    CHECK(b.pixelAt(cheek) == seen);
    b.choose("Made for choice", "Window, read through glass"); // as it is suits
    CHECK(order() == WhitePlace::between);
    b.choose("Place of white choice", "Under the colours");
    b.choose("Made for choice", "Window, read through glass");
    CHECK(order() == WhitePlace::over);
}

TEST_CASE("what the work is for sets start values, each of which can be changed") {
    LineBench b(bee, "Inks frame");
    b.choose("Made for choice", "Window, read through glass");
    CHECK(b.recipe().isMirrored);
    REQUIRE(b.recipe().inks.size() == 1);
    CHECK(b.find<QCheckBox>("Print it mirrored")->isChecked());
    CHECK(b.window().document().made()->layout.sheets[0].pieces[0].place.determinant() < 0);
    b.click("Print it mirrored");
    CHECK_FALSE(b.recipe().isMirrored);
    b.choose("Made for choice", "Stickers to pop out");
    CHECK(b.recipe().lines.back().kind == LineKind::perforated);
    CHECK(b.recipe().inks.empty());
    b.window().document().undo();
    b.settle();
    CHECK(b.recipe().inks.size() == 1);
}

TEST_CASE("a machine is chosen, its names and tools are edited, and what differs from the library is said") {
    TemporaryFolder folder;
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    const auto profile = [&] { return w.window().document().job().profile; };
    w.choose("Machine choice", "Flatbed with two tools");
    CHECK_FALSE(profile().cutter.makesTabs);
    CHECK(w.window().document().undoLabel() == "Machine: Flatbed with two tools");
    w.choose("Line or ink choice", "Perforated die cut");
    w.type("Tool holder field", "4");
    CHECK(profile().cutter.tool(LineKind::perforated).holder == 4);
    CHECK(w.find<QComboBox>("Machine choice")->currentText() == "Flatbed with two tools, changed");
    w.type("Spot name field", "perfcutcontour");
    CHECK(profile().names.of(LineKind::perforated).name == "perfcutcontour");
    CHECK(w.find<QLabel>("Doubts about names")->text().contains("differs a little from"));
    w.type("Spot name field", "DieCut"); // the name of another line
    CHECK(profile().names.of(LineKind::perforated).name == "perfcutcontour");
    CHECK(w.find<QLabel>("Notice")->text().contains("give each its own"));
    w.choose("Line or ink choice", "White ink");
    CHECK_FALSE(w.find<QLineEdit>("Tool holder field")->isVisible());
    w.type("Spot name field", "Base White");
    CHECK(profile().names.of(InkKind::white).name == "Base White");
    CHECK(w.find<QLabel>("Machine differs")->text().contains("differs from the library's"));
    for (int i = 0; i < 4; ++i)
        w.window().document().undo();
    CHECK(profile() == startProfile());
    CHECK_FALSE(w.find<QLabel>("Machine differs")->isVisible());
}

TEST_CASE("the cutting order is shown over time, kiss lines before die lines, and plays to its end") {
    WindowDriver w;
    w.drop({bee});
    w.trigger("Add die cut");
    w.click("Sheet place");
    w.type("Copies field", "6");
    w.click("Cutting order");
    auto* text = w.find<QLabel>("Cutting time text");
    REQUIRE(QTest::qWaitFor([&] { return text->text().contains(" of "); }, 20'000));
    CHECK(text->text().startsWith("0:00 of "));
    CHECK(text->text().endsWith("Kiss cut"));
    auto* view = w.find<QWidget>("Sheet view");
    const QImage before = view->grab().toImage();
    auto* time = w.find<QSlider>("Cutting time");
    time->setValue(time->maximum() * 4 / 5);
    CHECK(text->text().endsWith("Die cut"));
    CHECK_FALSE(view->grab().toImage() == before);
    w.click("Play");
    REQUIRE(QTest::qWaitFor([&] { return time->value() == time->maximum(); }, 30'000));
    CHECK_FALSE(w.find<QPushButton>("Play")->isChecked());
    w.click("Cutting order");
    CHECK_FALSE(time->isVisible());
}
