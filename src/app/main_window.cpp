#include "app/main_window.h"

#include "app/bench.h"
#include "app/ledger.h"
#include "app/making_strip.h"
#include "app/notice_bar.h"
#include "app/recovery_keeper.h"
#include "app/settings.h"
#include "app/sheet_place.h"
#include "app/sheet_view.h"
#include "app/shelf.h"
#include "app/step_sheet.h"
#include "app/stickers_place.h"
#include "app/theme.h"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTextBrowser>

namespace hasami {

namespace {

QStringList localFiles(const QMimeData& data) {
    QStringList paths;
    for (const QUrl& url : data.urls())
        if (url.isLocalFile())
            paths << url.toLocalFile();
    return paths;
}

/// The demo job: beside the program's installed data, or in the build tree.
QString demoPath() {
    const QDir program(QApplication::applicationDirPath());
    for (const char* place : {"../share/hasami/demo/quillmoor-honey.hasami",
                              "../../demo/quillmoor-honey.hasami", "../demo/quillmoor-honey.hasami"})
        if (program.exists(place))
            return program.absoluteFilePath(place);
    return {};
}

} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), writer_(new OutputWriter(document_)), stickers_(new StickersPlace(document_)),
      sheet_(new SheetPlace(document_, *writer_)), places_(new QStackedWidget), state_(new QLabel),
      notice_(new NoticeBar), recovery_(new RecoveryKeeper(document_)),
      folder_(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation)) {
    setAcceptDrops(true);
    resize(1280, 800);
    setMinimumSize(1100, 700);
    places_->addWidget(stickers_);
    places_->addWidget(sheet_);

    auto* centre = new QWidget;
    auto* layout = new QVBoxLayout(centre);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(makeTopBar());
    layout->addWidget(notice_);
    layout->addWidget(places_, 1);
    setCentralWidget(centre);
    makeMenus();

    connect(stickers_, &StickersPlace::artworkWanted, this, &MainWindow::askForArtwork);
    connect(stickers_, &StickersPlace::demoWanted, this, [this] { leaveJob([this] { openDemo(); }); });
    connect(stickers_, &StickersPlace::sheetWanted, this, [this] { goTo(sheet); });
    connect(sheet_, &SheetPlace::artworkWanted, this, &MainWindow::askForArtwork);
    connect(sheet_, &SheetPlace::stickersWanted, this, [this] { goTo(stickers); });
    connect(&sheet_->ledger(), &Ledger::printFileWanted, this, &MainWindow::askForPrintFile);
    connect(&sheet_->ledger(), &Ledger::cutFileWanted, this, &MainWindow::askForCutFile);
    connect(&document_, &Document::refused, notice_, &NoticeBar::warn);
    connect(recovery_, &RecoveryKeeper::failed, notice_, &NoticeBar::warn);
    connect(&document_, &Document::jobChanged, this, &MainWindow::showState);
    connect(&document_, &Document::madeChanged, this, &MainWindow::showState);
    connect(&document_, &Document::filesUnderWayChanged, this, &MainWindow::showState);
    goTo(stickers);
    showState();
    offerRecovery();
}

QWidget* MainWindow::makeTopBar() {
    auto* bar = new QWidget;
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(12, 0, 16, 0);
    layout->setSpacing(4);
    const QStringList names{"Stickers", "Sheet"};
    for (int i = 0; i < names.size(); ++i) {
        auto* button = new QPushButton(names[i]);
        button->setProperty("role", "place");
        button->setObjectName(names[i] + " place");
        button->setCheckable(true);
        button->setToolTip(QString("Go to %1 (Ctrl+%2)").arg(names[i]).arg(i + 1));
        connect(button, &QPushButton::clicked, this, [this, i] { goTo(Place(i)); });
        placeButtons_ << button;
        layout->addWidget(button);
    }
    layout->addStretch(1);
    state_->setObjectName("State");
    state_->setProperty("role", "quiet");
    layout->addWidget(state_);
    return bar;
}

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
    file->addAction("Save &as…", QKeySequence("Ctrl+Shift+S"), this, &MainWindow::saveAs);
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
    add("&Duplicate design", QKeySequence("Ctrl+D"),
        [this] { document_.duplicateDesign(document_.selected()); });
    add("Replace &artwork…", {}, [this] { askForReplacement(); });
    add("Move &up the shelf", QKeySequence("Ctrl+Shift+Up"), [moveBy] { moveBy(-1); });
    add("Move do&wn the shelf", QKeySequence("Ctrl+Shift+Down"), [moveBy] { moveBy(1); });
    add("&Copy recipe", QKeySequence("Ctrl+Shift+C"), [this] { document_.copyRecipe(document_.selected()); });
    recipeActions_ << add("Apply &recipe", QKeySequence("Ctrl+Shift+V"),
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
    edit->addActions(makeDesignActions());
    stickers_->shelf().setDesignActions(designActions_);
    sheet_->shelf().setDesignActions(designActions_);
    connect(&document_, &Document::selectionChanged, this, &MainWindow::showState);
}

void MainWindow::makeViewMenu() {
    QMenu* view = menuBar()->addMenu("&View");
    view->addAction("&Stickers", QKeySequence("Ctrl+1"), this, [this] { goTo(stickers); });
    view->addAction("S&heet", QKeySequence("Ctrl+2"), this, [this] { goTo(sheet); });
    view->addSeparator();
    view->addAction("&Fit", QKeySequence("Ctrl+0"), this, [this] { this->view().fit(); });
    view->addAction("&True size", QKeySequence("Ctrl+T"), this, [this] { this->view().trueSize(); });
    view->addAction("Zoom &in", QKeySequence::ZoomIn, this, [this] { this->view().zoomBy(1.25); });
    view->addAction("Zoom &out", QKeySequence::ZoomOut, this, [this] { this->view().zoomBy(1 / 1.25); });
    view->addSeparator();
    const auto inStickers = [this](const std::function<void()>& act) {
        return [this, act] {
            if (places_->currentIndex() == stickers)
                act();
        };
    };
    view->addAction("Next &frame", QKeySequence("F6"), this,
                    inStickers([this] { stickers_->strip().walk(1); }));
    view->addAction("P&revious frame", QKeySequence("Shift+F6"), this,
                    inStickers([this] { stickers_->strip().walk(-1); }));
    view->addAction("&More of the frame's number", QKeySequence("Alt+Up"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(1); }));
    view->addAction("&Less of the frame's number", QKeySequence("Alt+Down"), this,
                    inStickers([this] { stickers_->stepSheet().stepMainNumber(-1); }));
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
    for (const QAction* action : findChildren<QAction*>()) {
        QStringList keys;
        for (const QKeySequence& sequence : action->shortcuts())
            keys << sequence.toString(QKeySequence::NativeText);
        keys.removeDuplicates();
        const QString text = QString(action->text()).remove('&').remove("…");
        if (!keys.isEmpty() && !text.isEmpty())
            rows += QString("<tr><td>%1</td><td>%2</td></tr>")
                        .arg(keys.join(", ").toHtmlEscaped(), text.toHtmlEscaped());
    }
    rows += "<tr><td>Wheel, + and −</td><td>Zoom the bench or the sheet</td></tr>"
            "<tr><td>Middle button, Alt-drag, arrow keys</td><td>Move the bench or the sheet</td></tr>"
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

CanvasView& MainWindow::view() {
    return places_->currentIndex() == stickers ? static_cast<CanvasView&>(stickers_->bench())
                                               : sheet_->view();
}

void MainWindow::goTo(Place place) {
    document_.endRun();
    if (place != places_->currentIndex())
        recovery_->keepNow();
    places_->setCurrentIndex(place);
    for (int i = 0; i < placeButtons_.size(); ++i)
        placeButtons_[i]->setChecked(i == place);
}

void MainWindow::showState() {
    const bool modified = document_.isModified();
    if (!modified && !document_.path().isEmpty() && document_.path() != rememberedPath_) {
        rememberedPath_ = document_.path();
        Settings::rememberJob(rememberedPath_);
    }
    setWindowTitle(document_.title() + "[*] – Hasami");
    setWindowModified(modified);
    const QString work = document_.filesUnderWay() > 0 ? "reading or writing files…"
                         : !document_.isMade()         ? "working…"
                                                       : "all made";
    const bool empty = document_.job().designs.empty() && document_.filesUnderWay() == 0;
    state_->setText(document_.title() + (modified ? ", not saved" : "") +
                    (empty ? QString() : "  ·  " + work));
    const auto label = [](const QString& what, const QString& of) {
        return of.isEmpty() ? what : what + " " + of;
    };
    undo_->setText(label("&Undo", document_.undoLabel()));
    undo_->setEnabled(!document_.undoLabel().isEmpty());
    redo_->setText(label("&Redo", document_.redoLabel()));
    redo_->setEnabled(!document_.redoLabel().isEmpty());
    save_->setEnabled(modified || document_.path().isEmpty());
    for (QAction* action : designActions_)
        action->setEnabled(document_.selectedDesign() != nullptr);
    for (QAction* action : recipeActions_)
        action->setEnabled(document_.selectedDesign() != nullptr && document_.hasCopiedRecipe());
    for (std::size_t i = 0; i < lengthUnits.size(); ++i)
        unitActions_[qsizetype(i)]->setChecked(lengthUnits[i] == document_.job().unit);
    const bool hasSheet = !document_.made()->layout.sheets.empty();
    printFile_->setEnabled(hasSheet);
    cutFile_->setEnabled(hasSheet);
}

void MainWindow::offerRecovery() {
    if (recovery_->abandoned() == 0)
        return;
    const auto take = [this] {
        leaveJob([this] {
            QString why;
            if (!recovery_->takeAbandoned(why))
                notice_->warn(why);
            offerRecovery();
        });
    };
    const auto discard = [this] { recovery_->discardAbandoned(); };
    notice_->offer("Hasami ended last time before everything was saved. What you had made is still there.",
                   {"Take it up again", take}, {"Throw it away", discard});
}

void MainWindow::openPaths(const QStringList& paths) {
    notice_->clearWarning();
    QStringList artworks;
    for (const QString& path : paths) {
        if (path.endsWith(".hasami", Qt::CaseInsensitive)) {
            leaveJob([this, path] { document_.open(path); });
            return; // a job is opened alone
        }
        artworks << path;
    }
    if (!artworks.isEmpty())
        document_.addArtworks(artworks);
}

void MainWindow::openDemo() {
    const QString path = demoPath();
    if (path.isEmpty())
        notice_->warn("The demo job is not installed");
    else
        document_.openCopy(path);
}

void MainWindow::askForArtwork() {
    const QStringList paths =
        QFileDialog::getOpenFileNames(this, "Open artwork", folder_, "Pictures (*.png);;All files (*)");
    if (paths.isEmpty())
        return;
    folder_ = QFileInfo(paths.front()).absolutePath();
    openPaths(paths);
}

void MainWindow::askForReplacement() {
    const std::string id = document_.selected();
    const QString path =
        QFileDialog::getOpenFileName(this, "Replace artwork", folder_, "Pictures (*.png);;All files (*)");
    if (path.isEmpty())
        return;
    folder_ = QFileInfo(path).absolutePath();
    notice_->clearWarning();
    document_.replaceArtwork(id, path);
}

void MainWindow::applyRecipeToAll() {
    std::vector<std::string> all;
    for (const Design& design : document_.job().designs)
        all.push_back(design.id);
    document_.applyRecipe(all, Document::RecipePart::whole);
}

void MainWindow::rename() {
    goTo(stickers);
    stickers_->strip().setStep(RecipeStep::artwork);
    stickers_->stepSheet().editName();
}

void MainWindow::askForJob() {
    const QString path = QFileDialog::getOpenFileName(this, "Open job", folder_, "Hasami jobs (*.hasami)");
    if (path.isEmpty())
        return;
    folder_ = QFileInfo(path).absolutePath();
    notice_->clearWarning();
    document_.open(path);
}

QString MainWindow::askForPath(const QString& title, const QString& name, const QString& kind,
                               const QString& ending) {
    QString path = QFileDialog::getSaveFileName(this, title, QDir(folder_).filePath(name + ending),
                                                QString("%1 (*%2)").arg(kind, ending));
    if (path.isEmpty())
        return {};
    folder_ = QFileInfo(path).absolutePath();
    if (!path.endsWith(ending))
        path += ending;
    return path;
}

void MainWindow::askForPrintFile() {
    const QString path = askForPath("Write print file", document_.title() + " print", "Print file", ".pdf");
    if (!path.isEmpty())
        writer_->writePrint(path, sheet_->ledger().withCutLines());
}

void MainWindow::askForCutFile() {
    QString kind;
    QString path = QFileDialog::getSaveFileName(
        this, "Write cut file", QDir(folder_).filePath(document_.title() + " cut.svg"),
        "SVG with the marks (*.svg);;HPGL for the machine (*.plt)", &kind);
    if (path.isEmpty())
        return;
    folder_ = QFileInfo(path).absolutePath();
    if (QFileInfo(path).suffix().isEmpty())
        path += kind.contains("*.plt") ? ".plt" : ".svg";
    writer_->writeCut(path);
}

void MainWindow::save() {
    saveThen({});
}

void MainWindow::saveAs() {
    const QString path = askForPath("Save job", document_.title(), "Hasami job", ".hasami");
    if (!path.isEmpty())
        document_.save(path);
}

void MainWindow::saveThen(const std::function<void()>& then) {
    notice_->clearWarning();
    const QString path = document_.path().isEmpty()
                             ? askForPath("Save job", document_.title(), "Hasami job", ".hasami")
                             : document_.path();
    if (!path.isEmpty())
        document_.save(path, [then](bool saved) {
            if (saved && then)
                then();
        });
}

void MainWindow::leaveJob(const std::function<void()>& then) {
    document_.endRun();
    if (!document_.isModified())
        return then();
    QMessageBox question(QMessageBox::Question, "Hasami",
                         QString("Save the changes to %1?").arg(document_.title()),
                         QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    question.setInformativeText("They are lost otherwise.");
    question.setDefaultButton(QMessageBox::Save);
    switch (question.exec()) {
    case QMessageBox::Save:
        return saveThen(then);
    case QMessageBox::Discard:
        return then();
    default:
        return;
    }
}

void MainWindow::closeEvent(QCloseEvent* event) {
    document_.endRun();
    if (leaving_ || !document_.isModified()) {
        recovery_->endWell();
        event->accept();
        return;
    }
    event->ignore();
    leaveJob([this] {
        leaving_ = true;
        QMetaObject::invokeMethod(
            this, [this] { close(); }, Qt::QueuedConnection); // not inside this event
    });
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (!localFiles(*event->mimeData()).isEmpty())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    openPaths(localFiles(*event->mimeData()));
}

} // namespace hasami
