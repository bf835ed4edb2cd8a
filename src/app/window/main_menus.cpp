// The window's menus and the list of keys.

#include "app/document/nest_run.h"
#include "app/kit/scale_dialog.h"
#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/runs/run_queue.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/shelf/shelf.h"
#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/step_sheet.h"
#include "app/stickers/stickers_place.h"
#include "app/stickers/view_bar.h"
#include "app/window/main_window.h"
#include "app/words/words.h"

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
    QMenu* file = menuBar()->addMenu(tr("&File"));
    file->addAction(tr("&New job"), QKeySequence::New, this,
                    [this] { leaveJob([this] { document_.startNew(); }); });
    file->addAction(tr("&Open job…"), QKeySequence::Open, this,
                    [this] { leaveJob([this] { askForJob(); }); });
    QMenu* recent = file->addMenu(tr("&Recent jobs"));
    connect(file, &QMenu::aboutToShow, this, [this, recent] {
        recent->clear();
        for (const QString& path : Settings::recentJobs())
            recent->addAction(QFileInfo(path).completeBaseName() + "  –  " + QFileInfo(path).absolutePath(),
                              this, [this, path] { openPaths({path}); });
        recent->setEnabled(!recent->isEmpty());
    });
    file->addAction(tr("Open the &demo"), this, [this] { leaveJob([this] { openDemo(); }); });
    file->addSeparator();
    file->addAction(tr("Open &artwork…"), QKeySequence("Ctrl+Shift+O"), this, &MainWindow::askForArtwork);
    file->addSeparator();
    save_ = file->addAction(tr("&Save"), QKeySequence::Save, this, &MainWindow::save);
    file->addAction(tr("Sa&ve as…"), QKeySequence("Ctrl+Shift+S"), this, &MainWindow::saveAs);
    file->addSeparator();
    file->addAction(tr("Out&puts"), this, &MainWindow::planOutputs);
    writeOutputs_ = file->addAction(tr("&Write all outputs"), QKeySequence("Ctrl+Shift+W"), this,
                                    &MainWindow::writeOutputs);
    file->addAction(tr("Add to the qu&eue"), QKeySequence("Ctrl+Shift+R"), queue_.get(),
                    &RunQueue::addSheets);
    file->addSeparator();
    file->addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);
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
    add(tr("Re&name"), QKeySequence("F2"), [this] { rename(); });
    add(tr("Change c&ount"), QKeySequence("Shift+F2"), [this] {
        (places_->currentIndex() == stickers ? stickers_->shelf() : sheetPlace().shelf()).editCount();
    });
    add(tr("&Duplicate design"), QKeySequence("Ctrl+D"),
        [this] { document_.duplicateDesign(document_.selected()); });
    add(tr("Replace &artwork…"), {}, [this] { askForReplacement(); });
    add(tr("Move u&p the shelf"), QKeySequence("Ctrl+Shift+Up"), [moveBy] { moveBy(-1); });
    add(tr("Move do&wn the shelf"), QKeySequence("Ctrl+Shift+Down"), [moveBy] { moveBy(1); });
    add(tr("&Copy recipe"), QKeySequence("Ctrl+Shift+C"),
        [this] { document_.copyRecipe(document_.selected()); });
    recipeActions_ << add(tr("Apply rec&ipe"), QKeySequence("Ctrl+Shift+V"),
                          [apply] { apply(Document::RecipePart::whole); })
                   << add(tr("Apply only its &Edge"), {}, [apply] { apply(Document::RecipePart::edge); })
                   << add(tr("Apply only its Cut &lines"), {},
                          [apply] { apply(Document::RecipePart::cutLines); })
                   << add(tr("Apply recipe to all de&signs"), {}, [this] { applyRecipeToAll(); });
    add(tr("Delete desi&gn"), {}, [this] { document_.deleteDesign(document_.selected()); });
    return designActions_;
}

void MainWindow::makeEditMenu() {
    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    undo_ = edit->addAction(tr("Undo"), QKeySequence::Undo, &document_, &Document::undo);
    redo_ = edit->addAction(tr("Redo"), &document_, &Document::redo);
    redo_->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
    edit->addSeparator();
    edit->addAction(tr("Copy artwor&k"), QKeySequence::Copy, this, &MainWindow::copy);
    edit->addAction(tr("Paste ar&twork"), QKeySequence::Paste, this, &MainWindow::paste);
    edit->addSeparator();
    edit->addActions(makeDesignActions());
    edit->addSeparator();
    edit->addAction(tr("La&y out as a nest, or stop"), QKeySequence("Ctrl+Shift+N"), this, [this] {
        goTo(sheet);
        NestRun& nest = sheetPlace().nest();
        nest.isOn() ? nest.stop() : nest.start();
    });
    stickers_->shelf().setDesignActions(designActions_);
    connect(&document_, &Document::selectionChanged, this, &MainWindow::showState);
}

void MainWindow::makeViewMenu() {
    QMenu* view = menuBar()->addMenu(tr("&View"));
    view->addAction(tr("&Stickers"), QKeySequence("Ctrl+1"), this, [this] { goTo(stickers); });
    view->addAction(tr("S&heet"), QKeySequence("Ctrl+2"), this, [this] { goTo(sheet); });
    view->addAction(tr("&Proof"), QKeySequence("Ctrl+3"), this, [this] { goTo(proof); });
    view->addAction(tr("Ru&n"), QKeySequence("Ctrl+4"), this, [this] { goTo(run); });
    view->addSeparator();
    view->addAction(tr("&Fit"), QKeySequence("Ctrl+0"), this, [this] { this->view().fit(); });
    view->addAction(tr("&True size"), QKeySequence("Ctrl+T"), this, [this] { this->view().trueSize(); });
    view->addAction(tr("&Calibrate true size…"), this, [this] {
        if (ScaleDialog(*screen(), document_.job().unit, this).exec() == QDialog::Accepted)
            this->view().trueSize();
    });
    view->addAction(tr("La&y guides through the middle"), this,
                    [this] { stickers_->items().layGuidesThroughMiddle(); });
    view->addAction(tr("Remove the &guides"), this, [this] { stickers_->items().removeGuides(); });
    view->addAction(tr("Zoom &in"), QKeySequence::ZoomIn, this, [this] { this->view().zoomBy(1.25); });
    view->addAction(tr("Zoom &out"), QKeySequence::ZoomOut, this, [this] { this->view().zoomBy(1 / 1.25); });
    view->addSeparator();
    const auto inStickers = [this](const std::function<void()>& act) {
        return [this, act] {
            if (places_->currentIndex() == stickers)
                act();
        };
    };
    QMenu* shows = view->addMenu(tr("Sho&w on the bench"));
    const std::pair<const char*, BenchView> views[] = {{N_("The &step"), {BenchView::What::step}},
                                                       {N_("&Finished"), {BenchView::What::finished}},
                                                       {N_("All that is &printed"), {BenchView::What::print}},
                                                       {N_("All that is &cut"), {BenchView::What::cut}}};
    for (int i = 0; const auto& [text, shown] : views)
        shows->addAction(tr(text), QKeySequence(QString("Alt+%1").arg(++i)), this,
                         inStickers([this, shown = shown] { stickers_->views().choose(shown); }));
    view->addSeparator();
    view->addAction(tr("Ne&xt frame"), QKeySequence("F6"), this,
                    inStickers([this] { stickers_->strip().walk(1); }));
    view->addAction(tr("P&revious frame"), QKeySequence("Shift+F6"), this,
                    inStickers([this] { stickers_->strip().walk(-1); }));
    view->addAction(tr("&More of the frame's number"), QKeySequence("Alt+Up"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(1); }));
    view->addAction(tr("&Less of the frame's number"), QKeySequence("Alt+Down"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(-1); }));
    view->addAction(tr("More of its s&econd number"), QKeySequence("Alt+Shift+Up"), this,
                    inStickers([this] { stickers_->stepSheet().stepSecondNumber(1); }));
    view->addAction(tr("Less of its secon&d number"), QKeySequence("Alt+Shift+Down"), this,
                    inStickers([this] { stickers_->stepSheet().stepSecondNumber(-1); }));
    view->addSeparator();
    QMenu* looks = view->addMenu(tr("&Appearance"));
    for (const auto& [name, appearance] :
         {std::pair(N_("&Light"), Appearance::light), std::pair(N_("&Dark"), Appearance::dark)})
        looks->addAction(tr(name), this, [appearance = appearance] {
            Settings::setAppearance(appearance);
            applyTheme(*qApp, appearance);
        });
    QMenu* units = view->addMenu(tr("&Units"));
    auto* group = new QActionGroup(this);
    const QStringList names{tr("&Millimetres"), tr("&Centimetres"), tr("&Inches"), tr("&Points")};
    for (std::size_t i = 0; i < lengthUnits.size(); ++i) {
        QAction* action = units->addAction(names[qsizetype(i)], this, [this, i] {
            document_.change(tr("Unit: %1").arg(QString::fromUtf8(unitName(lengthUnits[i]))),
                             [i](Job& job) { job.unit = lengthUnits[i]; });
        });
        action->setCheckable(true);
        group->addAction(action);
        unitActions_ << action;
    }
}

void MainWindow::makeHelpMenu() {
    QMenu* help = menuBar()->addMenu(tr("&Help"));
    help->addAction(tr("&Keys"), QKeySequence::HelpContents, this, &MainWindow::showKeys);
    help->addAction(tr("&About Hasami"), this, [this] {
        QMessageBox::about(
            this, tr("About Hasami"),
            tr("<b>Hasami %1</b><p>Artwork to contour cuts and print-and-cut sheets.</p>"
               "<p>Free software under the GNU General Public License, version 3 or later. "
               "Letters: Open Sans, Apache License 2.0; lettering fonts, SIL Open Font License 1.1.</p>"
               "<p>It is built on Qt, Clipper, Eigen, qpdf, HarfBuzz, FriBidi, fontconfig, zint, libzip, "
               "zlib, "
               "JSON for Modern C++ and CLI11, each under its own free licence.</p>")
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
    const auto add = [&rows](const QString& keys, const QString& effect) {
        rows += QString("<tr><td>%1</td><td>%2</td></tr>").arg(keys.toHtmlEscaped(), effect.toHtmlEscaped());
    };
    add(tr("Wheel, + and −"), tr("Zoom the bench or the sheet"));
    add(tr("Middle button, Alt-drag, arrow keys"), tr("Move the bench or the sheet"));
    add(tr("Drag, or sweep and drag"), tr("Move stickers on the sheet"));
    add(tr("Arrow keys, with Shift farther"), tr("Nudge the stickers held"));
    add(tr("Comma, full stop, with Shift less"), tr("Turn the stickers held"));
    add(tr("P, Ctrl+D, Delete"), tr("Pin, duplicate, take out the stickers held"));
    add(tr("Page Up, Page Down, Ctrl+A"), tr("Hold the next sticker, or all"));
    add(tr("Shift-click"), tr("Hold several artworks on the bench"));
    add(tr("Double-click, Enter"), tr("Type in the lettering held"));
    add(tr("Shift, Ctrl while a shape's corner is dragged"), tr("Keep its proportions, its middle"));
    add(tr("Escape"), tr("Cancel what is being typed"));
    QDialog dialog(this);
    dialog.setObjectName("Keys");
    dialog.setWindowTitle(tr("Keys"));
    auto* text = new QTextBrowser;
    text->setHtml("<table cellpadding=\"4\">" + rows + "</table>");
    auto* layout = new QVBoxLayout(&dialog);
    layout->addWidget(text);
    dialog.resize(560, 520);
    dialog.exec();
}

} // namespace hasami
