#pragma once

#include "app/kit/canvas_view.h"
#include "app/kit/prompt_line.h"
#include "app/window/main_window.h"
#include "files/safe_write.h"
#include "support/temporary_folder.h"

#include <QAbstractItemView>
#include <QAction>
#include <QApplication>
#include <QColorDialog>
#include <QComboBox>
#include <QDeadlineTimer>
#include <QDialogButtonBox>
#include <QDropEvent>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPointer>
#include <QPushButton>
#include <QScreen>
#include <QSlider>
#include <QStyleOptionSlider>
#include <QTimer>
#include <QToolButton>
#include <QWheelEvent>
#include <QtTest>
#include <catch2/catch.hpp>

template <>
struct Catch::StringMaker<QString> {
    static std::string convert(const QString& text) { return '"' + text.toStdString() + '"'; }
};

namespace hasami::test {

/// Drives a window of Hasami as a user does: with drops, clicks, drags, keys and dialogs.
class WindowDriver {
public:
    /// `state` is where the program keeps unsaved jobs; each driver has its own unless given.
    explicit WindowDriver(const QString& state = {})
        : window_((useState(state.isEmpty() ? state_.path() : state), nullptr)) {
        QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
        window_.resize(1280, 800); // larger than the screen that it is shown on unseen
        window_.show();
        REQUIRE(QTest::qWaitForWindowExposed(&window_));
        window_.activateWindow();
        settle();
    }

    MainWindow& window() { return window_; }

    /// Waits until all is made, read and written.
    void settle() {
        const QDeadlineTimer end(60'000);
        int quietRounds = 0;
        while (quietRounds < 3) {
            REQUIRE_FALSE(end.hasExpired());
            QTest::qWait(5);
            const auto* writer = window_.document().findChild<OutputWriter*>();
            const bool busy = !window_.document().isMade() || !window_.document().filesUnderWay().empty() ||
                              writer->state() == OutputWriter::State::working;
            quietRounds = busy ? 0 : quietRounds + 1;
        }
    }

    /// The widget of that name; of several (each place has a prompt), the visible one.
    template <class T>
    T* find(const QString& name) {
        const auto all = window_.findChildren<T*>(name);
        for (T* widget : all)
            if (widget->isVisible())
                return widget;
        INFO("there is no " << name.toStdString());
        REQUIRE_FALSE(all.isEmpty());
        return all.front();
    }

    /// What a view shows once all of it is drawn.
    static QImage pictureOf(CanvasView& view) {
        const QDeadlineTimer end(60'000);
        QImage picture = view.grab().toImage();
        while (!view.isUpToDate()) {
            REQUIRE_FALSE(end.hasExpired());
            picture = view.grab().toImage();
        }
        return picture;
    }

    QString prompt() { return find<QLabel>("Prompt")->text(); }

    QListView* shelf() { return find<QListView>("Shelf"); }

    void countOperations() { operations_ = 0; }
    int operations() const { return operations_; }

    void drop(const QStringList& paths) {
        ++operations_;
        QMimeData data;
        QList<QUrl> urls;
        for (const QString& path : paths)
            urls << QUrl::fromLocalFile(path);
        data.setUrls(urls);
        QDragEnterEvent enter({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&window_, &enter);
        REQUIRE(enter.isAccepted());
        QDropEvent drop({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&window_, &drop);
        settle();
    }

    /// Drops a file on a widget.
    void dropOn(QWidget& widget, QPoint at, const QString& path) {
        ++operations_;
        const QPoint place = widget.mapTo(&window_, at);
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(path)});
        QDragEnterEvent enter(place, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&window_, &enter);
        QDropEvent drop(place, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&window_, &drop);
        settle();
    }

    /// Types letters into a widget that has no field, as on the bench.
    void typeInto(QWidget& widget, const QString& text) {
        ++operations_;
        QTest::keyClicks(&widget, text);
        settle();
    }

    /// Chooses an entry of a menu, or of one in it, by the menu's and the entry's names.
    void pick(const QString& menuName, const QString& entry) {
        ++operations_;
        auto* menu = window_.findChild<QMenu*>(menuName);
        REQUIRE(menu);
        Q_EMIT menu->aboutToShow();
        for (QAction* action : menu->actions())
            for (QAction* inner : action->menu() ? action->menu()->actions() : QList<QAction*>{action})
                if (inner->text() == entry) {
                    inner->trigger();
                    return settle();
                }
        FAIL("there is no entry " << entry.toStdString());
    }

    void click(const QString& name) {
        ++operations_;
        auto* button = find<QAbstractButton>(name);
        REQUIRE(button->isVisible());
        REQUIRE(button->isEnabled());
        QTest::mouseClick(button, Qt::LeftButton);
        settle();
    }

    /// Chooses an entry of a menu by its name.
    void trigger(const QString& name) {
        ++operations_;
        auto* action = window_.findChild<QAction*>(name);
        REQUIRE(action);
        REQUIRE(action->isEnabled());
        action->trigger();
        settle();
    }

    void type(const QString& name, const QString& text) {
        ++operations_;
        auto* field = find<QLineEdit>(name);
        REQUIRE(field->isVisible());
        REQUIRE(field->isEnabled());
        field->setFocus();
        field->selectAll();
        QTest::keyClick(field, Qt::Key_Delete);
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        settle();
    }

    void choose(const QString& name, const QString& text) {
        ++operations_;
        auto* box = find<QComboBox>(name);
        box->setFocus();
        QTest::keyClick(box, Qt::Key_Space); // opens the list
        auto* list = box->view();
        REQUIRE(QTest::qWaitForWindowExposed(list->window()));
        const QModelIndex item = list->model()->index(box->findText(text), 0);
        REQUIRE(item.isValid());
        list->scrollTo(item);
        QTest::qWait(QApplication::doubleClickInterval() + 50); // a list just opened takes no click at once
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(item).center());
        settle();
        REQUIRE(box->currentText() == text);
    }

    void keys(int key, Qt::KeyboardModifiers modifiers = {}) {
        ++operations_;
        comeToFront();
        QTest::keyClick(&window_, Qt::Key(key), modifiers);
        settle();
    }

    void wheel(QWidget& widget, QPointF at, int angle) {
        QWheelEvent event(at, widget.mapToGlobal(at), {}, {0, angle}, Qt::NoButton, {}, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(&widget, &event);
    }

    void dragSlider(const QString& name, int pixels) {
        ++operations_;
        const auto [slider, from] = grip(name);
        QTest::mousePress(slider, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i) {
            QTest::mouseMove(slider, from + QPoint(pixels * i / 10, 0));
            QTest::qWait(2);
        }
        QTest::mouseRelease(slider, Qt::LeftButton, {}, from + QPoint(pixels, 0));
        settle();
    }

    void dragSliderAndBack(const QString& name, int pixels) {
        const auto [slider, from] = grip(name);
        QTest::mousePress(slider, Qt::LeftButton, {}, from);
        for (const int at : {pixels / 2, pixels, pixels / 2, 0}) {
            QTest::mouseMove(slider, from + QPoint(at, 0));
            QTest::qWait(2);
        }
        QTest::mouseRelease(slider, Qt::LeftButton, {}, from);
        settle();
    }

    /// Clicks a button that opens a save dialog, and saves under the path there.
    void clickAndSave(const QString& name, const QString& path) {
        saveInNextDialog(path);
        click(name);
    }
    void keysAndSave(int key, Qt::KeyboardModifiers modifiers, const QString& path) {
        saveInNextDialog(path);
        keys(key, modifiers);
    }

    /// Answers the next question; where that leads to a save dialog, saves under the path.
    void answerNextQuestion(QMessageBox::StandardButton answer, const QString& path = {}) {
        whenModal<QMessageBox>([this, answer, path](QMessageBox* question) {
            if (!path.isEmpty())
                saveInNextDialog(path);
            QTest::mouseClick(question->button(answer), Qt::LeftButton);
        });
    }

    /// Clicks the button of that text in the next question, and gives what it asked.
    std::shared_ptr<QString> answerNextQuestion(const QString& button) {
        auto asked = std::make_shared<QString>();
        whenModal<QMessageBox>([button, asked](QMessageBox* question) {
            *asked = question->text();
            for (QAbstractButton* each : question->buttons())
                if (each->text() == button)
                    return QTest::mouseClick(each, Qt::LeftButton);
        });
        return asked;
    }
    /// Cancels the next dialog for files.
    void cancelNextFileDialog() {
        whenModal<QFileDialog>([](QFileDialog* dialog) { dialog->reject(); });
    }
    void takeInNextColourDialog(const QColor& colour) {
        whenModal<QColorDialog>([colour](QColorDialog* dialog) {
            dialog->setCurrentColor(colour);
            dialog->accept();
        });
    }
    void saveInNextDialogAs(const QString& path) { saveInNextDialog(path); }

    /// Chooses from the menu what opens a dialog for a file, and opens the path there.
    void chooseAndOpen(const QString& action, const QString& path) {
        ++operations_;
        saveInNextDialog(path);
        for (QAction* one : window_.findChildren<QAction*>())
            if (one->text() == action)
                one->trigger();
        settle();
    }

    /// Opens the dialog that learns the screen's scale, and acts on it.
    void calibrate(std::function<void(QDialog&)> act) {
        whenModal<QDialog>([act](QDialog* dialog) { act(*dialog); });
        for (QAction* action : window_.findChildren<QAction*>())
            if (action->text() == "&Calibrate true size…")
                action->trigger();
        settle();
    }

private:
    /// After a dialog no window has the focus, where there is no window manager to give it back.
    void comeToFront() {
        window_.activateWindow();
        REQUIRE(QTest::qWaitForWindowActive(&window_));
        QDeadlineTimer end(2000);
        while (QGuiApplication::focusWindow() != window_.windowHandle() && !end.hasExpired())
            QTest::qWait(5);
    }

    std::pair<QSlider*, QPoint> grip(const QString& name) {
        auto* slider = find<QSlider>(name);
        QStyleOptionSlider option;
        option.initFrom(slider);
        option.orientation = Qt::Horizontal;
        option.minimum = slider->minimum();
        option.maximum = slider->maximum();
        option.sliderPosition = option.sliderValue = slider->value();
        return {slider, slider->style()
                            ->subControlRect(QStyle::CC_Slider, &option, QStyle::SC_SliderHandle, slider)
                            .center()};
    }

    void saveInNextDialog(const QString& path) {
        whenModal<QFileDialog>([path](QFileDialog* dialog) {
            auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
            const auto* buttons = dialog->findChild<QDialogButtonBox*>();
            auto* save = buttons->button(QDialogButtonBox::Save);
            if (!save)
                save = buttons->button(QDialogButtonBox::Open);
            name->setCompleter(nullptr); // its list would take clicks or not, as the disk is fast
            // While the dialog reads its folder, it may put another name into the field or take no click.
            const QPointer<QFileDialog> open(dialog);
            for (int attempt = 0; attempt < 600 && open && open->isVisible(); ++attempt) {
                if (name->text() != path || !save->isEnabled()) { // it may not see what was typed too early
                    // Without the focus, what it finds while one types takes the place of what is typed.
                    open->activateWindow();
                    if (!QTest::qWaitForWindowActive(open, 1000) || !open)
                        continue;
                    name->setFocus();
                    name->selectAll();
                    QTest::keyClicks(name, path);
                }
                if (name->text() == path)
                    QTest::mouseClick(save, Qt::LeftButton);
                if (open && open->isVisible())
                    QTest::qWait(50);
            }
        });
    }

    /// Acts on the next modal dialog of the kind; gives up after a minute. A dialog that is still there a
    /// minute after that is dismissed, so that a failure is a failed check and not a hang.
    template <class Dialog>
    void whenModal(std::function<void(Dialog*)> act) {
        auto* timer = new QTimer(&window_);
        auto rounds = std::make_shared<int>(0);
        QObject::connect(timer, &QTimer::timeout, timer, [timer, rounds, act = std::move(act)] {
            auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
            if (!dialog && ++*rounds < 3000)
                return;
            timer->stop();
            timer->deleteLater();
            if (!dialog)
                return;
            QTimer::singleShot(60'000, dialog, &QDialog::reject);
            act(dialog);
        });
        timer->start(20);
    }

    static void useState(const QString& folder) {
        qputenv("XDG_STATE_HOME", folder.toUtf8());
        qputenv("XDG_CONFIG_HOME", folder.toUtf8());
        qputenv("XDG_DATA_HOME", folder.toUtf8());
    }

    TemporaryFolder state_;
    MainWindow window_;
    int operations_ = 0;
};

} // namespace hasami::test
