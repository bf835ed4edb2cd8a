#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "job/job_json.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QCheckBox>
#include <QListWidget>
#include <QMenu>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";
const QString ring = HASAMI_SOURCE_DIR "/data/demo/comb-ring.png";

/// Red on transparent with margins of 50, 30, 20 and 40 pixels at 10 pixels a mm, or on plain white.
QString writeBox(const TemporaryFolder& folder, const QString& name,
                 Qt::GlobalColor ground = Qt::transparent) {
    QImage image(300, 200, QImage::Format_RGBA8888);
    image.setDotsPerMeterX(10'000);
    image.setDotsPerMeterY(10'000);
    image.fill(ground);
    QPainter(&image).fillRect(QRect(50, 30, 230, 130), Qt::red);
    const QString path = folder.path(name);
    REQUIRE(image.save(path));
    return path;
}

/// Acts on the artwork of the one design.
class Table : public WindowDriver {
public:
    explicit Table(const QString& first) {
        drop({first});
        click("Artwork frame");
    }

    Bench& bench() { return window().stickersPlace().bench(); }
    ItemHand& hand() { return window().stickersPlace().items(); }
    const Artwork& artwork() { return window().document().selectedDesign()->artwork; }
    const Item& item(std::size_t i = 0) { return artwork().items.at(i); }
    Box edge() {
        return bounds(
            flatten(window().document().newest(window().document().selected())->sticker->edge, 0.01));
    }

    QPoint screen(Point place) { return bench().toScreen({place.x, place.y}).toPoint(); }

    void drag(Point from, Point to, Qt::KeyboardModifiers modifiers = {}) {
        QTest::mousePress(&bench(), Qt::LeftButton, modifiers, screen(from));
        for (int i = 1; i <= 6; ++i)
            send(QEvent::MouseMove, between(from, to, i / 6.0), modifiers);
        QTest::mouseRelease(&bench(), Qt::LeftButton, modifiers, screen(to));
        settle();
    }

    void clickAt(Point place) {
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, screen(place));
        settle();
    }

    void waitFor(const std::function<bool()>& isSo) { REQUIRE(QTest::qWaitFor(isSo, 10'000)); }

    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(&bench(), key, modifiers);
        settle();
    }

    void send(QEvent::Type type, Point place, Qt::KeyboardModifiers modifiers = {}) {
        const QPointF at = bench().toScreen({place.x, place.y});
        QMouseEvent event(type, at, bench().mapToGlobal(at), Qt::NoButton, Qt::LeftButton, modifiers);
        QApplication::sendEvent(&bench(), &event);
    }
};

} // namespace

TEST_CASE("artwork is sized by width, height or percent, in proportion until the lock is opened") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    CHECK(t.find<QLineEdit>("Size field")->text() == "100 %");
    t.type("Height field", "10");
    CHECK(bounds(t.artwork()).width() == Approx(15));
    CHECK(t.find<QLineEdit>("Size field")->text() == "50 %");
    CHECK(t.edge().width() == Approx(11.5).margin(0.02));
    t.type("Size field", "200 %");
    CHECK(bounds(t.artwork()).width() == Approx(60));
    CHECK(t.window().document().undoLabel() == "Size 200 %");
    auto* lock = t.find<QCheckBox>("Keep its proportions");
    REQUIRE(lock->isChecked());
    t.click("Keep its proportions");
    t.type("Height field", "20");
    CHECK(bounds(t.artwork()).width() == Approx(60));
    CHECK(bounds(t.artwork()).height() == Approx(20));
    CHECK(t.edge().height() == Approx(6.5 * 2).margin(0.02));
    t.type("Height field", "20000"); // out of bounds: marked, not taken
    CHECK(bounds(t.artwork()).height() == Approx(20));
    t.window().document().undo();
    CHECK(bounds(t.artwork()).height() == Approx(40));
    t.drop({bee});
    CHECK(t.find<QCheckBox>("Keep its proportions")->isChecked()); // it has to be opened again
}

TEST_CASE("artwork is turned and mirrored by buttons, field and knob; cut lines follow") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    const Box before = t.edge();
    CHECK(before.least.x == Approx(5).margin(0.02));
    t.click("Mirror across");
    CHECK(t.edge().least.x == Approx(2).margin(0.02));
    t.click("Quarter right");
    CHECK(t.window().document().undoLabel() == "Quarter turn right");
    CHECK(t.edge().width() == Approx(before.height()).margin(0.02));
    CHECK(t.find<QLineEdit>("Turn field")->text() == "90°");
    t.type("Turn field", "30");
    CHECK(t.item().place.turn == Approx(30));
    t.click("Quarter left");
    CHECK(t.item().place.turn == Approx(-60));
    t.type("Turn field", "0");
    t.bench().fit();
    // The knob stands three reaches of six pixels above the middle of the top side.
    const Box box = bounds(t.artwork());
    const Point knob = Point{box.centre().x, box.least.y} - Point{0, 18 / t.bench().pixelsPerMillimetre()};
    const Point middle = box.centre();
    t.drag(knob, middle + Point{60, -20}, Qt::ShiftModifier); // 71.6 degrees: the next step is 75
    CHECK(t.item().place.turn == Approx(75));
    CHECK(distance(bounds(t.artwork()).centre(), middle) < 0.01);
    CHECK(t.window().document().undoLabel() == "Turn artwork");
    t.window().document().undo();
    CHECK(t.item().place.turn == Approx(0));
}

TEST_CASE("a corner drawn out sizes the artwork about the opposite one, as one entry") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    const Box box = bounds(t.artwork());
    t.drag(box.most, box.most + Point{15, 10});
    const Box now = bounds(t.artwork());
    CHECK(distance(now.least, box.least) < 1e-9);
    CHECK(now.width() == Approx(45).margin(0.4)); // to a pixel of the screen
    CHECK(now.width() / now.height() == Approx(1.5));
    t.window().document().undo();
    CHECK(bounds(t.artwork()) == box);
    CHECK(t.window().document().undoLabel() == "Add box");
}

TEST_CASE("Escape takes a drag back and leaves what could be redone") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    Document& document = t.window().document();
    const Box box = bounds(t.artwork());
    t.drag(box.most, box.most + Point{15, 10});
    document.undo();
    const QString redo = document.redoLabel();
    REQUIRE_FALSE(redo.isEmpty());
    QTest::mousePress(&t.bench(), Qt::LeftButton, {}, t.screen(box.most));
    for (int i = 1; i <= 6; ++i)
        t.send(QEvent::MouseMove, box.most + Point{2.0 * i, 1.5 * i}, {});
    REQUIRE(bounds(t.artwork()).width() > box.width() + 2);
    QTest::keyClick(&t.bench(), Qt::Key_Escape);
    CHECK(bounds(t.artwork()) == box);
    QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, t.screen(box.most + Point{12, 9}));
    t.settle();
    CHECK(bounds(t.artwork()) == box);
    CHECK(document.undoLabel() == "Add box");
    CHECK(document.redoLabel() == redo);
}

TEST_CASE("artwork laid on another is held, moved, snapped, nudged, restacked, aligned and taken out") {
    Table t(bee);
    t.window().document().layOn(t.window().document().selected(), {ring});
    t.settle();
    REQUIRE(t.artwork().items.size() == 2);
    CHECK(t.window().document().undoLabel() == "Add comb-ring.png to bee");
    auto* list = t.find<QListWidget>("Artworks");
    REQUIRE(list->count() == 3);
    CHECK(list->currentItem()->text() == "All together");
    list->setCurrentRow(1); // the front one
    CHECK(t.hand().item() == 1);
    t.type("Width field", "12");
    const Box one = bounds(t.item(0));
    const Box small = bounds(t.item(1));
    CHECK(small.width() == Approx(12));
    t.drag(small.centre(), {one.most.x - 6.2, 30}); // near where its right side meets the other's
    CHECK(bounds(t.item(1)).most.x == Approx(one.most.x).margin(1e-6));
    const Point placed = bounds(t.item(1)).centre();
    t.drag(placed, placed + Point{0.6, -1}, Qt::ControlModifier); // nothing snaps
    CHECK(bounds(t.item(1)).most.x > one.most.x + 0.2);
    const Point free = t.item(1).place.at;
    t.key(Qt::Key_Left);
    t.key(Qt::Key_Left);
    t.key(Qt::Key_Down, Qt::ShiftModifier);
    CHECK(distance(t.item(1).place.at, free + Point{-0.2, 1}) < 1e-9);
    CHECK(t.window().document().undoLabel() == "Nudge artwork");
    t.window().document().undo(); // the run of keys is one entry
    CHECK(distance(t.item(1).place.at, free) < 1e-9);

    for (QAction* action : t.find<QPushButton>("Align")->menu()->actions())
        if (action->text() == "Bottoms")
            action->trigger();
    CHECK(bounds(t.item(1)).most.y == Approx(one.most.y));
    t.settle();
    CHECK(t.edge().most.x > one.most.x); // both are cut as one
    t.click("Lower");
    CHECK(t.item(0).name == "comb-ring.png");
    CHECK(t.hand().item() == 0);
    t.clickAt({2, 25}); // the bee's side, where the ring is not
    CHECK(t.hand().item() == 1);
    t.clickAt({-4, -4}); // beside all
    CHECK_FALSE(t.hand().item());
    const double before = bounds(t.artwork()).width();
    t.type("Width field", "20");
    CHECK(bounds(t.artwork()).width() == Approx(20));
    CHECK(bounds(t.item(0)).width() == Approx(12 * 20 / before));
    t.key(Qt::Key_PageUp);
    CHECK(t.hand().item() == 0);
    t.key(Qt::Key_Delete);
    REQUIRE(t.artwork().items.size() == 1);
    CHECK(t.item().name == "bee.png");
    CHECK(t.window().document().undoLabel() == "Take out comb-ring.png");
    CHECK_FALSE(t.find<QListWidget>("Artworks")->isVisible());
    t.window().document().undo();
    t.settle();
    CHECK(t.artwork().items.size() == 2);
}

TEST_CASE("artwork is cropped by its sides and to its margins, and shown whole again") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    CHECK_FALSE(t.find<QPushButton>("Show all")->isVisible());
    t.click("Crop");
    t.drag({30, 10}, {15, 10}); // the right side to the middle
    REQUIRE(t.item().crop);
    CHECK(t.item().crop->width == Approx(150).margin(2));
    CHECK(t.edge().most.x == Approx(15).margin(0.2));
    CHECK(t.window().document().undoLabel() == "Crop artwork");
    t.drag({15, 10}, {25, 10}); // and out again
    CHECK(t.item().crop->width == Approx(250).margin(3));
    t.key(Qt::Key_Escape);
    CHECK_FALSE(t.find<QPushButton>("Crop")->isChecked());
    t.click("Show all");
    CHECK_FALSE(t.item().crop);
    t.click("Crop margins");
    t.waitFor([&] { return t.item().crop.has_value(); });
    t.settle();
    CHECK(t.item().crop == PixelBox{50, 30, 230, 130});
    CHECK(t.find<QLineEdit>("Width field")->text() == "23 mm");
    CHECK(t.edge().width() == Approx(23).margin(0.02));
}

TEST_CASE("margins of one plain colour are cropped too, where there are some") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "white.png", Qt::white));
    t.click("Crop margins");
    t.waitFor([&] { return t.item().crop.has_value(); });
    CHECK(t.item().crop == PixelBox{50, 30, 230, 130});
    t.click("Crop margins");
    t.waitFor([&] { return t.find<QLabel>("Notice")->text() == "▲ The empty margins are cropped already"; });
}

TEST_CASE("guides are drawn out of the rulers, moved, met by artwork, let fall, and kept in the job") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    t.window().document().layOn(t.window().document().selected(), {ring});
    t.settle();
    t.hand().hold(std::optional<std::size_t>(1));
    t.type("Width field", "8");
    const auto guides = [&] { return t.window().document().selectedDesign()->guides; };
    const auto fromRuler = [&](QPoint from, Point to) {
        QTest::mousePress(&t.bench(), Qt::LeftButton, {}, from);
        t.send(QEvent::MouseMove, to);
        QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, t.screen(to));
        t.settle();
    };
    fromRuler({8, 300}, {7, 10}); // the left ruler gives upright ones
    REQUIRE(guides().size() == 1);
    CHECK(guides()[0].isUpright);
    CHECK(guides()[0].at == Approx(7).margin(0.1));
    fromRuler({400, 8}, {15, 0.1}); // the top one level ones; it snaps to the box's top
    REQUIRE(guides().size() == 2);
    CHECK(guides()[1] == Guide{false, 0});
    t.drag({7, 2}, {4, 2});
    CHECK(guides()[0].at == Approx(4).margin(0.1));
    CHECK(t.window().document().undoLabel().startsWith("Guide to"));

    t.hand().hold(std::optional<std::size_t>(1));
    const Box held = bounds(t.item(1));
    t.drag(held.centre(), {4 + held.width() / 2 + 0.15, held.centre().y + 1});
    CHECK(bounds(t.item(1)).least.x == guides()[0].at);

    const double at = guides()[0].at;
    t.drag({at, 2}, {t.bench().toMillimetres({4, 300}).x(), 2}); // back onto the ruler
    CHECK(guides().size() == 1);
    CHECK(t.window().document().undoLabel() == "Remove a guide");
    t.window().document().undo(); // one step, with the way there
    CHECK(guides()[0].at == at);

    const Job read = jobFromJson(jobToJson(t.window().document().job()), t.window().document().job().assets);
    CHECK(read.designs[0].guides == guides());
    t.hand().removeGuides();
    t.hand().hold(std::nullopt);
    t.hand().layGuidesThroughMiddle();
    CHECK(guides() == std::vector<Guide>{{true, 15}, {false, 10}});
}

TEST_CASE("the rulers begin where their corner is dragged to, and a double click puts them back") {
    TemporaryFolder folder;
    Table t(writeBox(folder, "box.png"));
    CHECK(t.bench().zero() == QPointF(0, 0));
    QTest::mousePress(&t.bench(), Qt::LeftButton, {}, {6, 6});
    t.send(QEvent::MouseMove, {29.9, 10.1}); // near the right side, and the middle
    QTest::mouseRelease(&t.bench(), Qt::LeftButton, {}, t.screen({29.9, 10.1}));
    CHECK(t.bench().zero() == QPointF(30, 10));
    QTest::mouseDClick(&t.bench(), Qt::LeftButton, {}, {6, 6});
    CHECK(t.bench().zero() == QPointF(0, 0));
}
