#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "support/window_driver.h"

#include <QMenuBar>
#include <catch2/catch.hpp>

#include <set>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

} // namespace

TEST_CASE("everything is reached by Tab, and every menu by its letter") {
    WindowDriver w;
    w.drop({bee});
    for (const char* page : {"Artwork frame", "Edge frame", "Border frame", "Cut lines frame", "Bleed frame",
                             "Inks frame", "Sheet place", "Proof place", "Run place"}) {
        w.click(page);
        std::set<QWidget*> reached;
        QWidget* const first = w.find<QPushButton>("Stickers place");
        first->setFocus();
        for (int presses = 0; presses < 200; ++presses) {
            QWidget* focus = QApplication::focusWidget();
            if (!focus || !reached.insert(focus).second)
                break;
            QTest::keyClick(focus, Qt::Key_Tab);
        }
        for (QWidget* widget : w.window().findChildren<QWidget*>()) {
            const bool isControl = qobject_cast<QAbstractButton*>(widget) ||
                                   qobject_cast<QLineEdit*>(widget) || qobject_cast<QSlider*>(widget) ||
                                   qobject_cast<QComboBox*>(widget) || qobject_cast<QListView*>(widget) ||
                                   qobject_cast<CanvasView*>(widget);
            if (!isControl || !widget->isVisible() || !widget->isEnabled() ||
                widget->objectName().startsWith("qt_") ||
                qobject_cast<StripFrame*>(widget)) // of these Tab reaches the chosen one; F6 and arrows walk
                continue;
            INFO(page << ": " << widget->metaObject()->className() << " "
                      << widget->objectName().toStdString());
            CHECK(reached.contains(widget));
        }
    }
    for (QAction* menu : w.window().menuBar()->actions()) {
        QStringList letters;
        for (QAction* action : menu->menu()->actions()) {
            if (action->isSeparator())
                continue;
            const QString letter = QKeySequence::mnemonic(action->text()).toString();
            INFO(action->text().toStdString());
            CHECK_FALSE(letter.isEmpty());
            CHECK_FALSE(letters.contains(letter));
            letters << letter;
        }
    }
}

TEST_CASE("everything that can be acted on has an accessible name and a tooltip") {
    WindowDriver w;
    w.drop({bee});
    w.window().goTo(MainWindow::proof);
    w.settle();
    w.window().goTo(MainWindow::run);
    w.settle();
    for (QWidget* widget : w.window().findChildren<QWidget*>()) {
        const bool isControl = qobject_cast<QAbstractButton*>(widget) || qobject_cast<QLineEdit*>(widget) ||
                               qobject_cast<QSlider*>(widget) || qobject_cast<QComboBox*>(widget);
        if (!isControl || widget->objectName().startsWith("qt_") || widget->objectName() == "Prompt button" ||
            widget->objectName().endsWith(" answer")) // these get their words with what they are about
            continue;
        auto* button = qobject_cast<QAbstractButton*>(widget);
        INFO(widget->metaObject()->className() << " " << widget->objectName().toStdString());
        CHECK((!widget->accessibleName().isEmpty() || (button && !button->text().isEmpty())));
        const bool opensByItsWords = button && button->text().endsWith("…");
        CHECK((!widget->toolTip().isEmpty() || opensByItsWords));
    }
}

TEST_CASE("after a number is entered, undo and redo in its field are the job's") {
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    Document& document = w.window().document();
    const double before = document.job().plan.gap;
    w.type("Gap field", "7");
    auto* field = w.find<QLineEdit>("Gap field");
    REQUIRE(field->hasFocus());
    REQUIRE(document.job().plan.gap == 7);
    QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().plan.gap == before);
    QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(document.job().plan.gap == 7);
    // What is being typed is undone first.
    QTest::keyClicks(field, "9");
    REQUIRE(field->isModified());
    QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().plan.gap == 7);
    CHECK(field->text() == "7 mm");
}

TEST_CASE("Alt and an arrow open the choice that has the focus, and else step the frame's number") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    const double offset = w.window().document().job().designs.front().recipe.lines.front().offset;
    w.keys(Qt::Key_Up, Qt::AltModifier);
    const double stepped = w.window().document().job().designs.front().recipe.lines.front().offset;
    CHECK(stepped > offset);
    w.click("Sheet place");
    auto* choice = w.find<QComboBox>("Medium kind");
    choice->setFocus();
    QTest::keyClick(choice, Qt::Key_Down, Qt::AltModifier);
    CHECK(choice->view()->isVisible());
    choice->hidePopup();
    CHECK(w.window().document().job().designs.front().recipe.lines.front().offset == stepped);
}
