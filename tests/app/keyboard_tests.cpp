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
