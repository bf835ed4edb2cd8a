// The window's menus and the keys that they tell.

#include "app/document/nest_run.h"
#include "app/kit/scale_dialog.h"
#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/shelf/shelf.h"
#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/step_sheet.h"
#include "app/stickers/stickers_place.h"
#include "app/stickers/view_bar.h"
#include "app/window/main_window.h"

#include <QActionGroup>
#include <QApplication>
#include <QDialog>
#include <QFileInfo>
#include <QMenuBar>
#include <QMessageBox>
#include <QSet>
#include <QStackedWidget>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace hasami {

void MainWindow::makeMenus() {
    makeFileMenu();
    makeEditMenu();
    makeViewMenu();
    makeHelpMenu();
}

void MainWindow::makeFileMenu() {
    QMenu* file = menuBar()->addMenu("&File");
    file->addAction("&New job", QKeySequence::New, this,
                    [this] { leaveJob([this] { document_.startNew(); }); });
    file->addAction("&Open job…", QKeySequence::Open, this, [this] { leaveJob([this] { askForJob(); }); });
    QMenu* recent = file->addMenu("&Recent jobs");
    connect(file, &QMenu::aboutToShow, this, [this, recent] {
        recent->clear();
        for (const QString& path : Settings::recentJobs())
            recent->addAction(QFileInfo(path).completeBaseName() + "  –  " + QFileInfo(path).absolutePath(),
                              this, [this, path] { openPaths({path}); });
        recent->setEnabled(!recent->isEmpty());
    });
    file->addAction("Open the &demo", this, [this] { leaveJob([this] { openDemo(); }); });
    file->addSeparator();
    file->addAction("Open &artwork…", QKeySequence("Ctrl+Shift+O"), this, &MainWindow::askForArtwork);
    file->addSeparator();
    save_ = file->addAction("&Save", QKeySequence::Save, this, &MainWindow::save);
    file->addAction("Sa&ve as…", QKeySequence("Ctrl+Shift+S"), this, &MainWindow::saveAs);
    file->addSeparator();
    printFile_ = file->addAction("Write &print file…", this, &MainWindow::askForPrintFile);
    cutFile_ = file->addAction("Write &cut file…", this, &MainWindow::askForCutFile);
    file->addSeparator();
    file->addAction("&Quit", QKeySequence::Quit, this, &QWidget::close);
}

QList<QAction*> MainWindow::makeDesignActions() {
    const auto add = [this](const QString& text, const QKeySequence& keys, const std::function<void()>& act) {
        auto* action = new QAction(text, this);
        action->setShortcut(keys);
        connect(action, &QAction::triggered, this, act);
        designActions_ << action;
        return action;
    };
    const auto moveBy = [this](int by) {
        const auto& designs = document_.job().designs;
        for (std::size_t i = 0; i < designs.size(); ++i)
            if (designs[i].id == document_.selected() && (by > 0 || i > 0))
                return document_.moveDesign(designs[i].id, by > 0 ? i + 2 : i - 1);
    };
    const auto apply = [this](Document::RecipePart part) {
        document_.applyRecipe({document_.selected()}, part);
    };
    add("Re&name", QKeySequence("F2"), [this] { rename(); });
    add("Change c&ount", QKeySequence("Shift+F2"), [this] {
        (places_->currentIndex() == stickers ? stickers_->shelf() : sheetPlace().shelf()).editCount();
    });
    add("&Duplicate design", QKeySequence("Ctrl+D"),
        [this] { document_.duplicateDesign(document_.selected()); });
    add("Replace &artwork…", {}, [this] { askForReplacement(); });
    add("Move u&p the shelf", QKeySequence("Ctrl+Shift+Up"), [moveBy] { moveBy(-1); });
    add("Move do&wn the shelf", QKeySequence("Ctrl+Shift+Down"), [moveBy] { moveBy(1); });
    add("&Copy recipe", QKeySequence("Ctrl+Shift+C"), [this] { document_.copyRecipe(document_.selected()); });
    recipeActions_ << add("Apply rec&ipe", QKeySequence("Ctrl+Shift+V"),
                          [apply] { apply(Document::RecipePart::whole); })
                   << add("Apply only its &Edge", {}, [apply] { apply(Document::RecipePart::edge); })
                   << add("Apply only its Cut &lines", {}, [apply] { apply(Document::RecipePart::cutLines); })
                   << add("Apply recipe to all de&signs", {}, [this] { applyRecipeToAll(); });
    add("Delete desi&gn", {}, [this] { document_.deleteDesign(document_.selected()); });
    return designActions_;
}

void MainWindow::makeEditMenu() {
    QMenu* edit = menuBar()->addMenu("&Edit");
    undo_ = edit->addAction("Undo", QKeySequence::Undo, &document_, &Document::undo);
    redo_ = edit->addAction("Redo", &document_, &Document::redo);
    redo_->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
    edit->addSeparator();
    edit->addAction("Paste ar&twork", QKeySequence::Paste, this, &MainWindow::paste);
    edit->addSeparator();
    edit->addActions(makeDesignActions());
    edit->addSeparator();
    edit->addAction("La&y out as a nest, or stop", QKeySequence("Ctrl+Shift+N"), this, [this] {
        goTo(sheet);
        NestRun& nest = sheetPlace().nest();
        nest.isOn() ? nest.stop() : nest.start();
    });
    stickers_->shelf().setDesignActions(designActions_);
    connect(&document_, &Document::selectionChanged, this, &MainWindow::showState);
}

void MainWindow::makeViewMenu() {
    QMenu* view = menuBar()->addMenu("&View");
    view->addAction("&Stickers", QKeySequence("Ctrl+1"), this, [this] { goTo(stickers); });
    view->addAction("S&heet", QKeySequence("Ctrl+2"), this, [this] { goTo(sheet); });
    view->addSeparator();
    view->addAction("&Fit", QKeySequence("Ctrl+0"), this, [this] { this->view().fit(); });
    view->addAction("&True size", QKeySequence("Ctrl+T"), this, [this] { this->view().trueSize(); });
    view->addAction("&Calibrate true size…", this, [this] {
        if (ScaleDialog(*screen(), document_.job().unit, this).exec() == QDialog::Accepted)
            this->view().trueSize();
    });
    view->addAction("La&y guides through the middle", this,
                    [this] { stickers_->items().layGuidesThroughMiddle(); });
    view->addAction("Remove the &guides", this, [this] { stickers_->items().removeGuides(); });
    view->addAction("Zoom &in", QKeySequence::ZoomIn, this, [this] { this->view().zoomBy(1.25); });
    view->addAction("Zoom &out", QKeySequence::ZoomOut, this, [this] { this->view().zoomBy(1 / 1.25); });
    view->addSeparator();
    const auto inStickers = [this](const std::function<void()>& act) {
        return [this, act] {
            if (places_->currentIndex() == stickers)
                act();
        };
    };
    QMenu* shows = view->addMenu("Sho&w on the bench");
    const std::pair<const char*, BenchView> views[] = {{"The &step", {BenchView::What::step}},
                                                       {"&Finished", {BenchView::What::finished}},
                                                       {"All that is &printed", {BenchView::What::print}},
                                                       {"All that is &cut", {BenchView::What::cut}}};
    for (int i = 0; const auto& [text, shown] : views)
        shows->addAction(text, QKeySequence(QString("Alt+%1").arg(++i)), this,
                         inStickers([this, shown = shown] { stickers_->views().choose(shown); }));
    view->addSeparator();
    view->addAction("&Next frame", QKeySequence("F6"), this,
                    inStickers([this] { stickers_->strip().walk(1); }));
    view->addAction("P&revious frame", QKeySequence("Shift+F6"), this,
                    inStickers([this] { stickers_->strip().walk(-1); }));
    view->addAction("&More of the frame's number", QKeySequence("Alt+Up"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(1); }));
    view->addAction("&Less of the frame's number", QKeySequence("Alt+Down"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(-1); }));
    view->addAction("More of its s&econd number", QKeySequence("Alt+Shift+Up"), this,
                    inStickers([this] { stickers_->stepSheet().stepSecondNumber(1); }));
    view->addAction("Less of its secon&d number", QKeySequence("Alt+Shift+Down"), this,
                    inStickers([this] { stickers_->stepSheet().stepSecondNumber(-1); }));
    view->addSeparator();
    QMenu* looks = view->addMenu("&Appearance");
    for (const auto& [name, appearance] :
         {std::pair("&Light", Appearance::light), std::pair("&Dark", Appearance::dark)})
        looks->addAction(name, this, [appearance = appearance] {
            Settings::setAppearance(appearance);
            applyTheme(*qApp, appearance);
        });
    QMenu* units = view->addMenu("&Units");
    auto* group = new QActionGroup(this);
    const QStringList names{"&Millimetres", "&Centimetres", "&Inches", "&Points"};
    for (std::size_t i = 0; i < lengthUnits.size(); ++i) {
        QAction* action = units->addAction(names[qsizetype(i)], this, [this, i] {
            document_.change("Units " + QString::fromUtf8(unitName(lengthUnits[i])),
                             [i](Job& job) { job.unit = lengthUnits[i]; });
        });
        action->setCheckable(true);
        group->addAction(action);
        unitActions_ << action;
    }
}

void MainWindow::makeHelpMenu() {
    QMenu* help = menuBar()->addMenu("&Help");
    help->addAction("&Keys", QKeySequence::HelpContents, this, &MainWindow::showKeys);
    help->addAction("&About Hasami", this, [this] {
        QMessageBox::about(
            this, "About Hasami",
            QString("<b>Hasami %1</b><p>Artwork to contour cuts and print-and-cut sheets.</p>"
                    "<p>Free software under the GNU General Public License, version 3 or later. "
                    "Letters: Open Sans, Apache License 2.0.</p>"
                    "<p>It stands on Qt, Clipper, Eigen, qpdf, libzip, zlib, JSON for Modern C++ and "
                    "CLI11, each under its own free licence.</p>")
                .arg(HASAMI_VERSION));
    });
}

void MainWindow::showKeys() {
    QString rows;
    QSet<QString> listed; // both shelves have an action to delete
    for (const QAction* action : findChildren<QAction*>()) {
        QStringList keys;
        for (const QKeySequence& sequence : action->shortcuts())
            keys << sequence.toString(QKeySequence::NativeText);
        keys.removeDuplicates();
        const QString text = QString(action->text()).remove('&').remove("…");
        if (keys.isEmpty() || text.isEmpty() || listed.contains(text))
            continue;
        listed << text;
        rows += QString("<tr><td>%1</td><td>%2</td></tr>")
                    .arg(keys.join(", ").toHtmlEscaped(), text.toHtmlEscaped());
    }
    rows += "<tr><td>Wheel, + and −</td><td>Zoom the bench or the sheet</td></tr>"
            "<tr><td>Middle button, Alt-drag, arrow keys</td><td>Move the bench or the sheet</td></tr>"
            "<tr><td>Drag, or sweep and drag</td><td>Move stickers on the sheet</td></tr>"
            "<tr><td>Arrow keys, with Shift farther</td><td>Nudge the stickers held</td></tr>"
            "<tr><td>Comma, full stop, with Shift less</td><td>Turn the stickers held</td></tr>"
            "<tr><td>P, Ctrl+D, Delete</td><td>Pin, duplicate, take out the stickers held</td></tr>"
            "<tr><td>Page Up, Page Down, Ctrl+A</td><td>Hold the next sticker, or all</td></tr>"
            "<tr><td>Escape</td><td>Give up what is being typed</td></tr>";
    QDialog dialog(this);
    dialog.setObjectName("Keys");
    dialog.setWindowTitle("Keys");
    auto* text = new QTextBrowser;
    text->setHtml("<table cellpadding=\"4\">" + rows + "</table>");
    auto* layout = new QVBoxLayout(&dialog);
    layout->addWidget(text);
    dialog.resize(560, 520);
    dialog.exec();
}

} // namespace hasami
