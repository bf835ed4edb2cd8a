#include "app/sheet/piece_hand.h"
#include "app/sheet/sheet_view.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Bees on a roll of a width.
struct ViewDriver : WindowDriver {
    ViewDriver(const QString& width, const QString& copies) {
        drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
        click("Artwork frame");
        type("Width field", "50");
        click("Sheet place");
        type("Copies field", copies);
        type("Medium width field", width);
        view = window().findChild<SheetView*>();
        hand = window().findChild<PieceHand*>();
        settle();
    }

    const Sheet& sheet() { return window().document().made()->layout.sheets.at(0); }
    QString feed() { return find<QPushButton>("Turn view")->text(); }
    QPoint onScreen(Point at) { return view->toScreen({at.x, at.y}).toPoint(); }

    void drag(Point from, QPoint by) {
        QTest::mousePress(view, Qt::LeftButton, {}, onScreen(from));
        const QPoint start = onScreen(from);
        for (int i = 1; i <= 8; ++i) {
            const QPointF at = start + QPointF(by) * i / 8;
            QMouseEvent event(QEvent::MouseMove, at, view->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(view, &event);
        }
        QTest::mouseRelease(view, Qt::LeftButton, {}, start + by);
        settle();
    }

    SheetView* view = nullptr;
    PieceHand* hand = nullptr;
};

} // namespace

TEST_CASE("a medium much wider than it is used is shown turned, fed from above; a click turns it back") {
    ViewDriver w("1300", "12");
    CHECK(w.feed() == "↓ Feed");
    const QPointF leading = w.view->toScreen({0, 650}), end = w.view->toScreen({w.sheet().usedLength, 650});
    CHECK(leading.y() < end.y());
    CHECK(leading.x() == Approx(end.x()));
    CHECK(w.view->toScreen({0, 0}).x() > w.view->toScreen({0, 1300}).x()); // as on the printed page
    const double turned = w.view->pixelsPerMillimetre();
    w.click("Turn view");
    CHECK(w.feed() == "→ Feed");
    CHECK(w.view->toScreen({0, 650}).x() < w.view->toScreen({100, 650}).x());
    CHECK(w.view->pixelsPerMillimetre() < turned);
    w.type("Copies field", "13"); // and it stays so
    CHECK(w.feed() == "→ Feed");
    w.click("Turn view");
    CHECK(w.view->pixelsPerMillimetre() == Approx(turned).epsilon(0.01));
}

TEST_CASE("a roll used along its length is not turned") {
    ViewDriver w("600", "120");
    CHECK(w.feed() == "→ Feed");
}

TEST_CASE("on a turned view what is dragged and nudged goes where the pointer and the arrows go") {
    ViewDriver w("1300", "6");
    REQUIRE(w.feed() == "↓ Feed");
    const Point first = w.hand->laid().front().centre;
    const double scale = w.view->pixelsPerMillimetre();
    w.drag(first, {-120, 60});
    const auto moved = std::ranges::find_if(w.hand->laid(), [](const LaidPiece& p) { return p.isPinned; });
    REQUIRE(moved != w.hand->laid().end());
    CHECK(moved->centre.x - first.x == Approx(60 / scale).margin(2 / scale));
    CHECK(moved->centre.y - first.y == Approx(120 / scale).margin(2 / scale));

    const Point before = moved->centre;
    const auto held = [&] { return w.hand->laid().at(w.hand->held().at(0)).centre; };
    w.view->setFocus();
    const QPointF seen = w.view->toScreen({before.x, before.y});
    QTest::keyClick(w.view, Qt::Key_Right, Qt::ShiftModifier);
    w.settle();
    CHECK(w.view->toScreen({held().x, held().y}).x() > seen.x());
    CHECK(held().y == Approx(before.y - 5));
    QTest::keyClick(w.view, Qt::Key_Down, Qt::ShiftModifier);
    w.settle();
    CHECK(held().x == Approx(before.x + 5));
}

TEST_CASE("after a drag a fitted view stays in place, and is fitted again once the layout is quite another") {
    ViewDriver w("300", "40");
    REQUIRE(w.feed() == "→ Feed");
    const double fitted = w.view->pixelsPerMillimetre();
    w.drag(w.hand->laid().back().centre, {3, 3});
    CHECK(w.view->pixelsPerMillimetre() == fitted);
    w.type("Copies field", "39");
    CHECK(w.view->pixelsPerMillimetre() == fitted);
    w.click("In rows");
    w.type("Copies field", "4"); // a tenth of the length
    CHECK(w.view->pixelsPerMillimetre() > 1.4 * fitted);
    w.view->zoomBy(0.3);
    const double chosen = w.view->pixelsPerMillimetre();
    w.type("Copies field", "40"); // what someone has zoomed stays as it is
    CHECK(w.view->pixelsPerMillimetre() == chosen);
    w.click("Stickers place");
    w.click("Sheet place");
    w.settle();
    CHECK(w.view->pixelsPerMillimetre() == chosen);
}

TEST_CASE("the first window fits the screen") {
    const WindowDriver driver; // keeps what the window keeps on the disk apart
    MainWindow window;
    const QSize available = window.screen()->availableGeometry().size();
    REQUIRE(available.width() < 1100); // or it would fit anyway
    CHECK(window.width() <= available.width());
    CHECK(window.height() <= available.height());
    window.show();
    CHECK(QTest::qWaitForWindowExposed(&window));
    CHECK(window.width() <= available.width());
    CHECK(window.height() <= available.height());
}
