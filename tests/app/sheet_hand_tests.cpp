#include "app/document/nest_run.h"
#include "app/kit/quantity_field.h"
#include "app/sheet/piece_hand.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_settings.h"
#include "app/sheet/sheet_view.h"
#include "files/job_file.h"
#include "support/exact_layout.h"
#include "support/window_driver.h"

#include <QScrollArea>
#include <QScrollBar>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png",
              ring = HASAMI_SOURCE_DIR "/data/demo/comb-ring.png";

/// A sheet of bees, and the hand that moves them.
struct SheetDriver : WindowDriver {
    explicit SheetDriver(const QString& copies = "12") {
        drop({bee});
        click("Artwork frame");
        type("Width field", "50");
        click("Sheet place");
        type("Copies field", copies);
        view = window().findChild<SheetView*>();
        hand = window().findChild<PieceHand*>();
        nest = window().findChild<NestRun*>();
        settle();
        if (find<QPushButton>("Turn view")->text() == "↓ Feed")
            click("Turn view"); // so that arrows go as the feed does
    }

    Document& document() { return window().document(); }
    const Layout& layout() { return document().made()->layout; }
    /// The exact checker finds nothing wrong with what would be written.
    bool isExact() {
        const std::string fault = faultOf(document().job(), *document().made());
        UNSCOPED_INFO(fault);
        return fault.empty();
    }
    const std::vector<LaidPiece>& laid() { return hand->laid(); }

    QPoint onScreen(Point at) { return view->toScreen({at.x, at.y}).toPoint(); }

    void dragTo(Point from, Point to, Qt::KeyboardModifiers keys = {}) {
        QTest::mousePress(view, Qt::LeftButton, keys, onScreen(from));
        for (int i = 1; i <= 8; ++i) {
            const QPointF at = onScreen(between(from, to, i / 8.0));
            QMouseEvent event(QEvent::MouseMove, at, view->mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                              keys);
            QApplication::sendEvent(view, &event);
        }
        QTest::mouseRelease(view, Qt::LeftButton, keys, onScreen(to));
        settle();
    }

    void press(Point at, Qt::KeyboardModifiers keys = {}) {
        QTest::mouseClick(view, Qt::LeftButton, keys, onScreen(at));
        settle();
    }

    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        view->setFocus();
        QTest::keyClick(view, Qt::Key(key), modifiers);
        settle();
    }

    void nestUntilShorterThan(double length) {
        nest->setLength(60);
        click("In nest");
        REQUIRE(QTest::qWaitFor([&] { return nest->best() && nest->best()->usedLength() < length; }, 30'000));
    }

    void waitForNest() {
        REQUIRE(QTest::qWaitFor([&] { return !nest->isOn(); }, 60'000));
        settle();
    }

    SheetView* view = nullptr;
    PieceHand* hand = nullptr;
    NestRun* nest = nullptr;
};

} // namespace

TEST_CASE("a nest improves in view, is stopped, and is one undo step") {
    SheetDriver w("30");
    const double rows = w.layout().usedLength();
    w.nestUntilShorterThan(rows);
    CHECK(w.find<QPushButton>("Search for a nest")->text() == "Stop");
    CHECK(w.find<QLabel>("Nest state")->text().contains("% covered"));
    CHECK(w.find<QWidget>("Density curve")->isVisible());
    CHECK(w.layout().usedLength() == rows); // nothing is in the job yet
    const double shown = w.nest->best()->usedLength();
    QTest::mouseClick(w.find<QPushButton>("Search for a nest"), Qt::LeftButton);
    CHECK_FALSE(w.nest->isOn());
    w.settle();
    CHECK(w.document().undoLabel() == "Nest");
    CHECK(w.layout().pieces() == 30);
    CHECK(w.layout().usedLength() <= shown + 1e-6);
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    CHECK(w.find<QLabel>("Saved against rows figure")->text().contains("%"));

    // Rows are there to compare with, and the nest is kept.
    const double nested = w.layout().usedLength();
    w.click("In rows");
    CHECK(w.layout().usedLength() == Approx(rows));
    w.click("In nest");
    CHECK(w.layout().usedLength() == Approx(nested));
    for (int i = 0; i < 3; ++i)
        w.keys(Qt::Key_Z, Qt::ControlModifier); // to the rows, to the nest, and back before it
    CHECK(w.layout().usedLength() == Approx(rows));
    CHECK(w.document().job().plan.laid->empty());
    w.keys(Qt::Key_Y, Qt::ControlModifier);
    CHECK(w.layout().usedLength() == Approx(nested));
}

TEST_CASE("choosing the nest begins the search, in view of the button that stops it") {
    SheetDriver w("20");
    w.window().resize(1100, 700);
    w.click("In nest");
    CHECK(w.nest->isOn());
    auto* button = w.find<QPushButton>("Search for a nest");
    CHECK(button->visibleRegion().boundingRect() == button->rect());
    CHECK(w.find<QLineEdit>("Seconds to search field")->visibleRegion().boundingRect().width() > 40);
    w.click("In nest"); // which it is
    CHECK(w.nest->isOn());
    w.click("Search for a nest");
    CHECK_FALSE(w.nest->isOn());
    w.document().startNew();
    w.settle();
    CHECK_FALSE(button->isVisible());
}

TEST_CASE("figures that take long give way to dots, not to those of before") {
    SheetDriver w("1");
    auto* cut = w.find<QLabel>("Cut length figure");
    const auto isKnown = [&] { return cut->text().endsWith(" m"); };
    REQUIRE(QTest::qWaitFor(isKnown, 30'000));
    const QString ofOne = cut->text();
    w.type("Copies field", "3900"); // whose route takes seconds
    QTest::qWait(600);
    CHECK(cut->text() != ofOne);
    REQUIRE(QTest::qWaitFor(isKnown, 60'000));
    CHECK(cut->text() != ofOne);
    CHECK(w.find<QLabel>("Cutting figure")->text().endsWith(" min"));
}

TEST_CASE("a nest ends by itself, and goes on from where it is; its key starts and stops it") {
    SheetDriver w("20");
    w.nest->setLength(1);
    w.click("In nest");
    w.waitForNest();
    const double first = w.layout().usedLength();
    w.type("Seconds to search field", "2");
    CHECK(w.nest->length() == 2);
    CHECK(w.find<QPushButton>("Search for a nest")->text() == "Search on");
    w.click("Search for a nest");
    CHECK(w.nest->isOn());
    w.waitForNest();
    CHECK(w.layout().usedLength() <= first + 1e-6);
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    w.waitForNest();
    CHECK(w.layout().usedLength() <= first + 1e-6);
    CHECK(w.layout().pieces() == 20);
}

TEST_CASE("an edit of what is being nested stops it and keeps its best; others leave it alone") {
    SheetDriver w("30");
    const double rows = w.layout().usedLength();
    w.nestUntilShorterThan(rows);
    w.document().change("Price", [](Job& job) { job.plan.medium.price = 3; });
    w.settle();
    CHECK(w.nest->isOn());
    w.type("Copies field", "31");
    CHECK_FALSE(w.nest->isOn());
    CHECK(w.layout().pieces() == 31);
    CHECK(w.document().job().plan.laid->size() == 30);
    CHECK(w.document().job().plan.medium.price == 3);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document().undoLabel() == "Nest");
    CHECK(w.layout().pieces() == 30);
    CHECK(w.layout().usedLength() < rows);

    // A new job takes nothing of it.
    QTest::mouseClick(w.find<QPushButton>("Search for a nest"), Qt::LeftButton);
    w.document().startNew();
    w.settle();
    CHECK_FALSE(w.nest->isOn());
    CHECK(w.document().job().plan.laid->empty());
}

TEST_CASE("a job that is left amid a nest asks to be saved with what was found") {
    SheetDriver w("20");
    const TemporaryFolder folder;
    w.window().document().save(folder.path() + "/market.hasami");
    w.settle();
    REQUIRE_FALSE(w.document().isModified());
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    REQUIRE(QTest::qWaitFor([&] { return w.nest->best() != nullptr; }, 30'000));
    w.answerNextQuestion(QMessageBox::Save);
    w.window().close();
    w.settle();
    CHECK_FALSE(w.window().isVisible());
    CHECK(openJob((folder.path() + "/market.hasami").toStdString()).plan.laid->size() == 20);
}

TEST_CASE("a sticker is dragged where there is room, and pinned there") {
    SheetDriver w;
    const LaidPiece last = w.laid().back();
    const Point to = last.centre + Point{25, 20};
    QTest::mousePress(w.view, Qt::LeftButton, {}, w.onScreen(last.centre));
    for (int i = 1; i <= 4; ++i)
        QTest::mouseMove(w.view, w.onScreen(between(last.centre, to, i / 4.0)));
    CHECK(w.hand->isDragging());
    REQUIRE(w.hand->moving().size() == 1);
    CHECK_FALSE(w.hand->moving()[0].collides);
    REQUIRE_FALSE(w.hand->ways().empty()); // to what is nearest
    CHECK(w.hand->ways()[0].length > 3);
    CHECK(distance(w.hand->ways()[0].from, w.hand->ways()[0].to) == Approx(w.hand->ways()[0].length));
    QTest::mouseRelease(w.view, Qt::LeftButton, {}, w.onScreen(to));
    w.settle();
    CHECK(w.document().undoLabel() == "Move 1 sticker");
    const LaidPiece moved = w.document().job().plan.laid->back();
    CHECK(distance(moved.centre, to) < 1.5 / w.view->pixelsPerMillimetre());
    CHECK(moved.isPinned);
    CHECK(w.document().job().plan.packing == Packing::nest);
    CHECK(w.document().job().plan.laid->size() == 12);
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    CHECK(w.hand->held().size() == 1);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(distance(w.laid().back().centre, last.centre) < 1e-6);

    // Let go of amid a drag, it stays where it was.
    QTest::mousePress(w.view, Qt::LeftButton, {}, w.onScreen(last.centre));
    QTest::mouseMove(w.view, w.onScreen(between(last.centre, to, 0.5)));
    QTest::keyClick(w.view, Qt::Key_Escape);
    QTest::mouseRelease(w.view, Qt::LeftButton, {}, w.onScreen(to));
    w.settle();
    CHECK(w.document().job().plan.laid->empty());
}

TEST_CASE("what is let go on another sticker is told while it is dragged, and pushed off it") {
    SheetDriver w;
    const LaidPiece last = w.laid().back(), free = w.laid()[w.laid().size() - 2];
    // First out into the open, then half onto its neighbour from behind.
    const Point out = last.centre + Point{100, 0};
    w.dragTo(last.centre, out);
    const Point onto = free.centre + Point{30, 0};
    QTest::mousePress(w.view, Qt::LeftButton, {}, w.onScreen(out));
    for (int i = 1; i <= 4; ++i)
        QTest::mouseMove(w.view, w.onScreen(between(out, onto, i / 4.0)));
    REQUIRE(w.hand->moving().size() == 1);
    CHECK(w.hand->moving()[0].collides);
    CHECK_FALSE(w.hand->hindering().empty());
    QTest::mouseRelease(w.view, Qt::LeftButton, {}, w.onScreen(onto));
    w.settle();
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    CHECK(distance(w.document().job().plan.laid->back().centre, onto) < 60);
    CHECK(distance(w.document().job().plan.laid->back().centre, onto) > 5);
}

TEST_CASE("several are swept over, nudged, turned, aligned, pinned, duplicated and taken out") {
    SheetDriver w;
    const Box work = w.layout().sheets[0].work;
    w.dragTo({work.least.x - 4, work.least.y - 4}, {work.least.x + 60, work.most.y + 4});
    const std::size_t held = w.hand->held().size();
    REQUIRE(held >= 8);
    w.press({work.most.x + 2, work.least.y - 6}); // beside them all
    CHECK(w.hand->held().empty());

    const Point last = w.laid().back().centre;
    w.press(last);
    REQUIRE(w.hand->held() == PieceHand::Numbers{11});
    w.key(Qt::Key_Right, Qt::ShiftModifier);
    CHECK(w.document().undoLabel() == "Move 1 sticker");
    CHECK(w.laid()[11].centre.x == Approx(last.x + 5));
    for (int i = 0; i < 6; ++i)
        w.key(Qt::Key_Right, Qt::ShiftModifier);
    w.key(Qt::Key_Period);
    CHECK(w.laid()[11].turn == Approx(15));
    w.type("Turned by field", "90");
    CHECK(w.laid()[11].turn == Approx(90));
    CHECK(w.laid()[11].isPinned);
    w.key(Qt::Key_P);
    CHECK_FALSE(w.laid()[11].isPinned);
    w.click("Pin stickers");
    CHECK(w.laid()[11].isPinned);

    w.key(Qt::Key_D, Qt::ControlModifier);
    CHECK(w.document().job().designs.size() == 1); // the sticker, not its design
    CHECK(w.document().job().designs[0].count == 13);
    CHECK(w.laid().size() == 13);
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    CHECK(w.layout().pieces() == 13);
    w.press(w.laid()[11].centre, Qt::ControlModifier);
    CHECK(w.hand->held().size() == 2);
    w.window().findChild<QAction*>("Towards the end"); // the menu's, by name
    w.hand->align(Alignment::right);
    w.settle();
    CHECK(w.document().undoLabel() == "Align 2 stickers");
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    w.key(Qt::Key_Delete);
    CHECK(w.document().job().designs[0].count == 11);
    CHECK(w.layout().pieces() == 11);
    CHECK(w.hand->held().empty());
    w.key(Qt::Key_PageDown);
    CHECK(w.hand->held() == PieceHand::Numbers{0});
    w.key(Qt::Key_A, Qt::ControlModifier);
    CHECK(w.hand->held().size() == 11);
    w.key(Qt::Key_Escape);
    CHECK(w.hand->held().empty());
}

TEST_CASE("what is held stays held when the sheet is laid out anew: by undo, by a change of the recipe") {
    SheetDriver w;
    w.press(w.laid()[7].centre);
    REQUIRE(w.hand->held().size() == 1);
    const PieceId id = w.laid()[w.hand->held()[0]].id();
    const auto isHeld = [&] {
        return w.hand->held().size() == 1 && w.laid().at(w.hand->held()[0]).id() == id;
    };
    w.key(Qt::Key_Right, Qt::ShiftModifier);
    CHECK(isHeld());
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(isHeld());
    w.document().change("Offset", [](Job& job) { job.designs[0].recipe.lines[0].offset = 2.5; });
    w.settle();
    CHECK(isHeld());
    w.press(w.laid()[0].centre);
    w.key(Qt::Key_Delete); // another one goes
    CHECK(w.hand->held().empty());
}

TEST_CASE("stickers are turned by the knob above them, in steps where Shift is held") {
    SheetDriver w;
    const LaidPiece last = w.laid().back();
    const Point out = last.centre + Point{110, 10};
    w.dragTo(last.centre, out);
    const Box box = w.hand->boxOfHeld();
    const Point knob{box.centre().x, box.least.y - 27 / w.view->pixelsPerMillimetre()};
    const double away = distance(knob, box.centre());
    w.dragTo(knob, box.centre() + Point{away, 0}); // a quarter, clockwise
    CHECK(w.document().undoLabel() == "Turn 1 sticker");
    CHECK(w.laid().back().turn == Approx(90).margin(1.5));
    const double first = w.laid().back().turn;
    const Box turned = w.hand->boxOfHeld();
    CHECK(turned.width() == Approx(box.height()).margin(1));
    CHECK(distance(turned.centre(), box.centre()) < 0.5);
    const Point again{turned.centre().x, turned.least.y - 27 / w.view->pixelsPerMillimetre()};
    w.dragTo(again, turned.centre() + Point{20, -distance(again, turned.centre())}, Qt::ShiftModifier);
    const double steps = (w.laid().back().turn - first) / 15;
    CHECK(std::round(steps) >= 1);
    CHECK(steps == Approx(std::round(steps)).margin(1e-6));
}

TEST_CASE("pinned stickers stay where they are in a nest") {
    SheetDriver w("16");
    const LaidPiece last = w.laid().back();
    const Point to = last.centre + Point{120, 60};
    w.dragTo(last.centre, to);
    const LaidPiece pinned = w.document().job().plan.laid->back();
    w.type("Seconds to search field", "2");
    w.click("Search for a nest");
    w.waitForNest();
    const auto& laid = *w.document().job().plan.laid;
    CHECK(laid.size() == 16);
    CHECK(std::count_if(laid.begin(), laid.end(), [&](const LaidPiece& piece) {
              return piece.isPinned && distance(piece.centre, pinned.centre) < 1e-6;
          }) == 1);
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
}

TEST_CASE("a sticker is dragged to another sheet, and is held there") {
    SheetDriver w("15");
    w.choose("Medium kind", "Sheet A4");
    REQUIRE(w.layout().sheets.size() == 2);
    const std::size_t before = w.layout().sheets[0].pieces.size();
    const LaidPiece first = w.laid().front();
    REQUIRE(w.layout().sheets[1].pieces.size() == 3);
    const Point free{200, 150};
    w.dragTo(first.centre, free + Point{297 + 40, 0}); // sheets lie 40 mm apart
    CHECK(w.layout().sheets[0].pieces.size() == before - 1);
    CHECK(w.layout().sheets[1].pieces.size() == 4);
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    REQUIRE(w.hand->held().size() == 1);
    const LaidPiece& moved = w.laid()[w.hand->held().front()];
    CHECK(moved.sheet == 1);
    CHECK(moved.isPinned);
    CHECK(distance(moved.centre, free) < 30);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layout().sheets[0].pieces.size() == before);
}

TEST_CASE("used areas are drawn, kept free and forgotten; tracks are typed") {
    SheetDriver w("24");
    w.click("More of the medium");
    w.click("Draw used areas");
    w.dragTo({20, 100}, {120, 220});
    REQUIRE(w.document().job().plan.medium.used.size() == 1);
    const Box used = w.document().job().plan.medium.used[0].box;
    CHECK(used.width() == Approx(100).margin(2));
    CHECK(w.layout().pieces() == 24);
    for (const LaidPiece& piece : w.laid())
        CHECK_FALSE(used.grownBy(2).meets({piece.centre, piece.centre}));
    w.dragTo({10, 400}, {40, 430});
    REQUIRE(w.document().job().plan.medium.used.size() == 2);
    w.press({25, 415}); // a click takes it away again
    CHECK(w.document().job().plan.medium.used.size() == 1);
    CHECK(w.document().undoLabel() == "Forget a used area");
    w.click("Draw used areas");
    w.type("Tracks field", "300-320, 40 - 50");
    CHECK(w.document().job().plan.medium.tracks == std::vector<Track>{{300, 20}, {40, 10}});
    w.type("Tracks field", "nonsense");
    CHECK(w.document().job().plan.medium.tracks.size() == 2);
    CHECK(w.find<QLineEdit>("Tracks field")->property("wrong").toBool());
    w.click("Forget used areas");
    CHECK(w.document().job().plan.medium.used.empty());
}

TEST_CASE("filling, sets, turned sheets and a price are a click or a number each") {
    SheetDriver w("2");
    w.choose("Medium kind", "Sheet A3");
    w.click("Turn the sheet");
    CHECK(w.document().job().plan.medium.isAsLarge(420, 297));
    w.click("Fill");
    CHECK(w.document().job().designs[0].fills);
    CHECK(w.layout().sheets.size() == 1);
    const std::size_t full = w.layout().pieces();
    CHECK(full > 20);
    w.type("Copies field", "3"); // a number again
    CHECK_FALSE(w.document().job().designs[0].fills);
    w.type("Sets field", "4");
    CHECK(w.layout().pieces() == 12);
    w.type("Price field", "2.5");
    CHECK(w.find<QLabel>("Medium figure")->text().contains("2.5"));
    CHECK(w.find<QLabel>("Left over figure")->text().contains("mm"));
    w.click("Staggered rows");
    CHECK(w.document().job().plan.rows.isStaggered);
    CHECK(w.layout().pieces() == 12);
}

TEST_CASE("the ledger tells what one more would take") {
    SheetDriver w("11"); // a row of the roll
    auto* figure = w.find<QLabel>("One more figure");
    const Box one = w.document().made()->designs[0].sticker->footprint;
    const QString another = "+" + quantityText(one.width() + 3, QuantityKind::length);
    CHECK(QTest::qWaitFor([&] { return figure->text() == another; }, 10'000));
    w.type("Price field", "2");
    const double euros = 2 * (one.width() + 3) / 1000;
    CHECK(QTest::qWaitFor(
        [&] { return figure->text() == another + " · " + QLocale::system().toCurrencyString(euros); },
        10'000));
    w.type("Copies field", "12");
    CHECK(QTest::qWaitFor([&] { return figure->text().startsWith("0 mm"); }, 10'000));
    w.click("Fill");
    CHECK(QTest::qWaitFor([&] { return figure->text() == "–"; }, 10'000));
}

TEST_CASE("stickers that lie where they can't after a change are told, and pushed apart") {
    SheetDriver w("6");
    w.nest->setLength(1);
    w.click("In nest");
    w.waitForNest();
    REQUIRE(w.layout().conflicts.empty());
    w.type("Gap field", "12");
    REQUIRE_FALSE(w.layout().conflicts.empty());
    CHECK(w.prompt().contains("closer together than the gap"));
    w.click("Prompt button");
    CHECK(w.layout().conflicts.empty());
    CHECK(w.isExact());
    CHECK(w.layout().pieces() == 6);
}

TEST_CASE(
    "while stickers lie on each other the ledger says so in place of figures, and lays them out again") {
    SheetDriver w("6");
    w.nest->setLength(1);
    w.click("In nest");
    w.waitForNest();
    REQUIRE(w.find<QLabel>("Covered figure")->isVisible());
    w.type("Medium width field", "160"); // of which one of the columns lies beside
    REQUIRE_FALSE(w.layout().conflicts.empty());
    CHECK_FALSE(w.find<QLabel>("Covered figure")->isVisible());
    CHECK(w.find<QLabel>("Collisions")->text().contains("can't be cut"));
    w.click("Lay out again");
    CHECK(w.layout().conflicts.empty());
    CHECK(w.layout().pieces() == 6);
    CHECK(w.isExact());
    CHECK(w.find<QLabel>("Covered figure")->isVisible());
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(w.layout().conflicts.empty());
}

TEST_CASE("the wheel over a panel scrolls it, and changes no field that has no focus") {
    SheetDriver w("6");
    auto* scroll = w.window().findChild<SheetSettings*>()->findChild<QScrollArea*>();
    REQUIRE(scroll);
    w.window().resize(1100, 700);
    w.click("More of the medium");
    REQUIRE(scroll->verticalScrollBar()->maximum() > 0);
    scroll->verticalScrollBar()->setValue(0);
    const Job before = w.document().job();
    int combos = 0;
    for (auto* combo : scroll->findChildren<QComboBox*>())
        if (combo->isVisible() && !combo->hasFocus()) {
            CHECK(combo->focusPolicy() == Qt::StrongFocus);
            w.wheel(*combo, QRectF(combo->rect()).center(), -120);
            ++combos;
        }
    w.settle();
    CHECK(combos > 2);
    CHECK(w.document().job() == before);
    CHECK(scroll->verticalScrollBar()->value() > 0);
}

TEST_CASE("rings that pop out, with seals in their openings, in sets of six: the walk W4, in at most 12 "
          "operations") {
    WindowDriver w;
    const TemporaryFolder folder;
    w.countOperations();
    w.drop({HASAMI_SOURCE_DIR "/data/demo/bee.svg"});           // 1: the seal, and the ring after it
    w.drop({ring});                                             // 2; its openings are cut from the start
    w.click("Artwork frame");                                   // 3
    w.type("Width field", "140");                               // 4
    w.click("Cut lines frame");                                 // 5
    w.type("Offset field", "1");                                // 6
    w.trigger("Add perforated die cut");                        // 7; 5 tabs are a start value
    w.type("Offset field", "3");                                // 8
    w.click("Sheet place");                                     // 9
    w.type("Sets field", "6");                                  // 10
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier); // 11
    auto* nest = w.window().findChild<NestRun*>();
    REQUIRE(QTest::qWaitFor([&] { return nest->curve().size() > 1; }, 30'000));
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier); // 12
    CHECK(w.operations() <= 12);
    const Made& made = *w.window().document().made();
    CHECK(made.layout.pieces() == 12);
    CHECK(made.layout.conflicts.empty());
    CHECK(faultOf(w.window().document().job(), made).empty());
    CHECK(made.layout.usedLength() < made.plainLength);
    const Sticker& popped = *made.designs[1].sticker;
    CHECK(popped.lines.front().kind == LineKind::kiss);
    CHECK(popped.lines.back().kind == LineKind::perforated);
    for (const CutLine& line : popped.lines)
        if (line.kind == LineKind::perforated && line.role == LineRole::outer)
            CHECK(line.tabs.size() == 5);
}

TEST_CASE("eight designs for the market, in rows, then nested: the walk W5, in at most 14 operations") {
    WindowDriver w;
    const TemporaryFolder folder;
    QStringList artworks;
    for (int i = 0; i < 8; ++i) {
        artworks << folder.path() + QString("/market %1.png").arg(i);
        REQUIRE(QFile::copy(i % 2 == 0 ? bee : ring, artworks.back()));
    }
    const Document& document = w.window().document();
    w.countOperations();
    w.drop(artworks);                    // 1: all with the start recipe
    w.click("Sheet place");              // 2
    w.type("Medium width field", "450"); // 3
    w.type("Sets field", "5");           // 4: five of each
    w.shelf()->scrollTo(w.shelf()->model()->index(5, 0));
    const QPoint card = w.shelf()->visualRect(w.shelf()->model()->index(5, 0)).center();
    QTest::mouseClick(w.shelf()->viewport(), Qt::LeftButton, {}, card);
    QTest::mouseDClick(w.shelf()->viewport(), Qt::LeftButton, {}, card); // 5
    for (const char* count : {"2", "4", "8"}) { // 6 to 8: Tab goes on to the next card
        INFO("for " << count);
        auto* field = w.find<QLineEdit>("Card count field");
        REQUIRE(field->isVisible());
        QTest::keyClicks(field, count);
        QTest::keyClick(field, Qt::Key_Tab);
        w.settle();
    }
    std::vector<int> counts;
    for (const Design& design : document.job().designs)
        counts.push_back(design.count * document.job().plan.sets);
    CHECK(counts == std::vector{5, 5, 5, 5, 5, 10, 20, 40});
    const double rows = document.made()->layout.usedLength();
    auto* nest = w.window().findChild<NestRun*>();
    CHECK(nest->length() == 30); // seconds; fewer do for a test
    nest->setLength(2);
    w.keys(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier); // 9
    REQUIRE(QTest::qWaitFor([&] { return !nest->isOn(); }, 60'000));
    w.settle();
    CHECK(document.made()->layout.pieces() == 95);
    CHECK(document.made()->layout.usedLength() < rows);
    CHECK(w.find<QLabel>("Saved against rows figure")->text().contains("%"));
    auto* view = w.window().findChild<SheetView*>();
    const PieceHand& hand = *w.window().findChild<PieceHand*>();
    const auto& laid = hand.laid();
    std::vector<Point> middles; // of those that can be clicked there: bees have bays, and others lie in them
    for (std::size_t i = 0; i < laid.size(); ++i)
        if (hand.pieceAt(0, laid[i].centre) == i)
            middles.push_back(laid[i].centre);
    REQUIRE(middles.size() > 2);
    for (const Qt::KeyboardModifiers keys :
         {Qt::KeyboardModifiers(), Qt::KeyboardModifiers(Qt::ControlModifier)}) {
        const Point at = middles[keys ? 1 : 0]; // 10, 11
        QTest::mouseClick(view, Qt::LeftButton, keys, view->toScreen({at.x, at.y}).toPoint());
        w.settle();
    }
    QTest::keyClick(view, Qt::Key_P); // 12
    w.settle();
    CHECK(std::count_if(laid.begin(), laid.end(), [](const LaidPiece& p) { return p.isPinned; }) == 2);
    w.clickAndSave("Write all", folder.path()); // 13
    CHECK(w.find<QLabel>("Write result")
              ->text()
              .startsWith("Wrote " + w.window().document().title() + "-1-print.pdf, "));
    CHECK(document.made()->layout.conflicts.empty());
    CHECK(faultOf(document.job(), *document.made()).empty());
}
