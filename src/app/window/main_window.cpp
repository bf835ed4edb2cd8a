#include "app/window/main_window.h"

#include "app/document/artwork_watch.h"
#include "app/document/findings_watch.h"
#include "app/document/nest_run.h"
#include "app/document/recovery_keeper.h"
#include "app/document/send_run.h"
#include "app/kit/input_guard.h"
#include "app/kit/notice_bar.h"
#include "app/kit/save_dialog.h"
#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/proof/proof_place.h"
#include "app/run/run_place.h"
#include "app/runs/run_queue.h"
#include "app/sheet/ledger.h"
#include "app/sheet/outputs_panel.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/shelf/shelf.h"
#include "app/stickers/bench.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/step_sheet.h"
#include "app/stickers/stickers_place.h"
#include "app/window/cut_bar.h"
#include "app/words/words.h"
#include "files/file_kind.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTimer>

namespace hasami {

namespace {

/// For file dialogs; what a file is follows from its content.
QString artworkKinds() {
    QStringList patterns;
    for (const std::string_view ending : artworkEndings)
        patterns << "*." + QString::fromLatin1(ending.data(), qsizetype(ending.size()));
    return tr("Artwork (%1)").arg(patterns.join(' ')) + ";;" + tr("All files (*)");
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

static constexpr QSize frameOfWindow(16, 48); // about what the desktop draws around it

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), queue_(std::make_unique<RunQueue>(document_)),
      writer_(new OutputWriter(document_)), centre_(new QWidget(this)), places_(new QStackedWidget(centre_)),
      stickers_(new StickersPlace(document_, places_)), findings_(new FindingsWatch(document_, this)),
      state_(new QLabel), notice_(new NoticeBar), cut_(new CutBar), recovery_(new RecoveryKeeper(document_)),
      watch_(new ArtworkWatch(document_, this)),
      folder_(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation)) {
    new InputGuard(this);
    setAcceptDrops(true);
    const QSize available = screen()->availableGeometry().size() - frameOfWindow;
    resize(QSize(1280, 800).boundedTo(available));
    setMinimumSize(QSize(1100, 700).boundedTo(available));
    places_->addWidget(stickers_);

    setCentralWidget(centre_);
    auto* layout = new QVBoxLayout(centre_);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(makeTopBar());
    layout->addWidget(cut_);
    layout->addWidget(notice_);
    layout->addWidget(places_, 1);
    makeMenus();
    document_.askBeforeLeaving = [this](const std::function<void()>& goOn) { leaveJob(goOn); };

    connect(stickers_, &StickersPlace::artworkWanted, this, &MainWindow::askForArtwork);
    connect(stickers_, &StickersPlace::moreArtworkWanted, this, &MainWindow::askForMoreArtwork);
    connect(stickers_, &StickersPlace::pictureWanted, this, &MainWindow::askForPictureInside);
    connect(stickers_, &StickersPlace::demoWanted, this, [this] { leaveJob([this] { openDemo(); }); });
    connect(stickers_, &StickersPlace::sheetWanted, this, [this] { goTo(sheet); });
    connect(&document_, &Document::refused, notice_, &NoticeBar::warn);
    connect(&stickers_->bench(), &Bench::told, notice_, &NoticeBar::warn);
    connect(recovery_, &RecoveryKeeper::failed, notice_, &NoticeBar::warn);
    connect(queue_.get(), &RunQueue::messageRaised, notice_, &NoticeBar::warn);
    connect(&document_, &Document::jobChanged, this, &MainWindow::showState);
    connect(&document_, &Document::jobChanged, this, &MainWindow::prepareSheetPlace);
    connect(&document_, &Document::madeChanged, this, &MainWindow::showState);
    connect(&document_, &Document::filesUnderWayChanged, this, &MainWindow::showState);
    connect(findings_, &FindingsWatch::changed, this, &MainWindow::showCounts);
    connect(watch_, &ArtworkWatch::noticed, this, &MainWindow::offerNewer);
    connect(watch_, &ArtworkWatch::noticed, this, &MainWindow::tellFilesOutside);
    connect(writer_, &OutputWriter::changed, this, &MainWindow::tellFilesOutside);
    connect(&document_, &Document::madeChanged, this, &MainWindow::tellFilesOutside);
    writer_->mayWriteWithErrors = [this](const QStringList& errors) { return mayWriteWithErrors(errors); };
    stickers_->shelf().showFindings(*findings_);
    connect(notice_, &NoticeBar::answered, this, &MainWindow::offerNewer);
    goTo(stickers);
    showState();
    offerRecovery();
    styleWindow(*this);
}

/// When nothing else is to be done, once there is something to lay out.
void MainWindow::prepareSheetPlace() {
    if (!sheet_ && !document_.job().designs.empty())
        QTimer::singleShot(0, this, [this] { sheetPlace(); });
}

SheetPlace& MainWindow::sheetPlace() {
    if (sheet_)
        return *sheet_;
    sheet_ = new SheetPlace(document_, *writer_); // styled once, when it comes into the window
    places_->addWidget(sheet_);
    sheet_->shelf().setDesignActions(designActions_);
    sheet_->shelf().showFindings(*findings_);
    connect(sheet_, &SheetPlace::artworkWanted, this, &MainWindow::askForArtwork);
    connect(sheet_, &SheetPlace::stickersWanted, this, [this] { goTo(stickers); });
    connect(sheet_, &SheetPlace::proofWanted, this, [this] { goTo(proof); });
    connect(sheet_, &SheetPlace::runWanted, this, [this] { goTo(run); });
    connect(sheet_, &SheetPlace::queueWanted, queue_.get(), &RunQueue::addSheets);
    connect(queue_.get(), &RunQueue::added, sheet_, &SheetPlace::sayQueued);
    connect(&sheet_->outputs().sending(), &SendRun::changed, this, &MainWindow::showCut);
    cut_->add(actionsOfSending());
    return *sheet_;
}

ProofPlace& MainWindow::proofPlace() {
    if (proof_)
        return *proof_;
    proof_ = new ProofPlace(document_, *findings_);
    places_->addWidget(proof_);
    connect(proof_, &ProofPlace::stickersWanted, this, [this] { goTo(stickers); });
    connect(proof_, &ProofPlace::sheetWanted, this, [this] { goTo(sheet); });
    connect(proof_, &ProofPlace::profileWanted, this, [this] { sheetPlace().editProfiles(); });
    connect(proof_, &ProofPlace::priceWanted, this, [this] {
        goTo(sheet);
        sheetPlace().askForPrice();
    });
    connect(proof_, &ProofPlace::told, notice_, &NoticeBar::warn);
    return *proof_;
}

RunPlace& MainWindow::runPlace() {
    if (run_)
        return *run_;
    run_ = new RunPlace(document_, *queue_);
    places_->addWidget(run_);
    connect(run_, &RunPlace::stickersWanted, this, [this] { goTo(stickers); });
    connect(run_, &RunPlace::messageRaised, notice_, &NoticeBar::warn);
    connect(&run_->run(), &RunControl::changed, this, &MainWindow::showCut);
    connect(&run_->run(), &RunControl::moved, this, &MainWindow::showCut);
    cut_->add(actionsOfRun());
    return *run_;
}

void MainWindow::stopNest() {
    if (sheet_)
        sheet_->nest().stop();
}

QWidget* MainWindow::makeTopBar() {
    auto* bar = new QWidget;
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(12, 0, 16, 0);
    layout->setSpacing(4);
    const char* const names[] = {N_("Stickers"), N_("Sheet"), N_("Proof"), N_("Run")};
    for (int i = 0; i < int(std::size(names)); ++i) {
        auto* button = new QPushButton(tr(names[i]));
        button->setProperty("role", "place");
        button->setObjectName(QString::fromUtf8(names[i]) + " place");
        button->setCheckable(true);
        button->setToolTip(tr("Go to %1 (Ctrl+%2)").arg(tr(names[i])).arg(i + 1));
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

CanvasView& MainWindow::view() {
    if (proof_ && places_->currentWidget() == proof_)
        return proof_->view();
    if (run_ && places_->currentWidget() == run_)
        return run_->view();
    return places_->currentWidget() == stickers_ ? static_cast<CanvasView&>(stickers_->bench())
                                                 : sheetPlace().view();
}

/// A field that is being typed in gives what it holds to the document as it loses the focus: while there is
/// one.
MainWindow::~MainWindow() {
    if (QWidget* focused = focusWidget())
        focused->clearFocus();
    delete run_; // it keeps how far a sheet is cut, in the document's background
}

void MainWindow::goTo(Place place) {
    document_.endRun();
    QWidget* shown = stickers_;
    if (place == sheet)
        shown = &sheetPlace();
    else if (place == proof)
        shown = &proofPlace();
    else if (place == run)
        shown = &runPlace();
    if (shown != places_->currentWidget())
        recovery_->keepNow();
    places_->setCurrentWidget(shown);
    for (int i = 0; i < placeButtons_.size(); ++i)
        placeButtons_[i]->setChecked(i == place);
    showCut();
}

void MainWindow::showState() {
    const bool modified = document_.isModified();
    if (!modified && !document_.path().isEmpty() && document_.path() != rememberedPath_) {
        rememberedPath_ = document_.path();
        Settings::rememberJob(rememberedPath_);
    }
    setWindowTitle(document_.title() + "[*] – Hasami");
    setWindowModified(modified);
    showWork();
    const QString undo = document_.undoLabel(), redo = document_.redoLabel();
    undo_->setText(undo.isEmpty() ? tr("&Undo") : tr("&Undo %1").arg(undo));
    undo_->setEnabled(!undo.isEmpty());
    redo_->setText(redo.isEmpty() ? tr("&Redo") : tr("&Redo %1").arg(redo));
    redo_->setEnabled(!redo.isEmpty());
    save_->setEnabled(modified || document_.path().isEmpty());
    for (QAction* action : designActions_)
        action->setEnabled(document_.selectedDesign() != nullptr);
    for (QAction* action : recipeActions_)
        action->setEnabled(document_.selectedDesign() != nullptr && document_.hasCopiedRecipe());
    for (std::size_t i = 0; i < lengthUnits.size(); ++i)
        unitActions_[qsizetype(i)]->setChecked(lengthUnits[i] == document_.job().unit);
    const bool hasSheet = !document_.made()->layout.sheets.empty();
    writeOutputs_->setEnabled(hasSheet && !document_.job().outputs.outputs.empty());
}

void MainWindow::showWork() {
    const auto& files = document_.filesUnderWay();
    const auto& designs = document_.made()->designs;
    const auto failed = std::count_if(designs.begin(), designs.end(),
                                      [](const MadeDesign& made) { return !made.trouble.empty(); });
    QString work;
    if (!files.empty())
        work = files.front()->text + "…";
    else if (!document_.isMade())
        work = tr("Working…");
    else if (!document_.made()->trouble.empty())
        work = "▲ " + QString::fromStdString(document_.made()->trouble);
    else if (failed > 0)
        work = tr("▲ Failed: %1 of %2 designs").arg(failed).arg(designs.size());
    else if (!designs.empty())
        work = tr("All made");
    state_->setText(
        (document_.isModified() ? tr("%1, not saved").arg(document_.title()) : document_.title()) +
        (work.isEmpty() ? QString() : "  ·  " + work));
    setStyled(*state_, "role", work.startsWith(QChar(u'▲')) ? "trouble" : "quiet");
}

void MainWindow::tellFilesOutside() {
    FilesOutside around;
    for (const auto& [path, sha256] : watch_->changed())
        around.changedFiles[sha256] = QFileInfo(path).fileName().toStdString();
    for (const QString& name : writer_->outOfDate())
        around.oldOutputs.push_back(name.toStdString());
    for (const QString& difference : writer_->differences())
        around.printDifferences.push_back(difference.toStdString());
    findings_->setFilesOutside(around);
}

bool MainWindow::mayWriteWithErrors(const QStringList& errors) {
    QMessageBox question(QMessageBox::Warning, "Hasami",
                         counted(std::size_t(errors.size()),
                                 "%1 error is not put right yet. Write all the same?",
                                 "%1 errors are not put right yet. Write all the same?"),
                         QMessageBox::NoButton, this);
    constexpr qsizetype most = 5;
    question.setInformativeText(errors.first(std::min(errors.size(), most)).join(".\n") + ".");
    auto* write = question.addButton(tr("Write all the same"), QMessageBox::AcceptRole);
    auto* look = question.addButton(tr("Look at them"), QMessageBox::RejectRole);
    question.setDefaultButton(look);
    question.setEscapeButton(look);
    question.exec();
    if (question.clickedButton() == write)
        return true;
    goTo(proof);
    return false;
}

/// On the button of the place that lists them.
void MainWindow::showCounts() {
    const auto count = std::ranges::count_if(
        findings_->findings(), [](const Finding& finding) { return finding.severity != Severity::note; });
    placeButtons_[proof]->setText(count > 0 ? tr("Proof ▲ %1").arg(count) : tr("Proof"));
}

void MainWindow::offerRecovery() {
    if (recovery_->abandoned() == 0)
        return;
    const auto take = [this] {
        leaveJob([this] {
            recovery_->takeAbandoned([this](const QString& why) {
                if (!why.isEmpty())
                    notice_->warn(why);
                offerRecovery();
            });
        });
    };
    const auto discard = [this] { recovery_->discardAbandoned(); };
    notice_->offer(
        tr("Hasami ended last time before everything was saved. What was not saved has been kept."),
        {tr("Continue with it"), take}, {tr("Throw it away"), discard});
}

void MainWindow::offerNewer() {
    if (watch_->changed().empty() || (notice_->offers() && !offersNewer_))
        return; // another offer comes first
    offersNewer_ = true;
    const auto& changed = watch_->changed();
    const bool isOne = changed.size() == 1;
    notice_->offer(isOne ? tr("%1 has changed on disk.").arg(QFileInfo(changed.begin()->first).fileName())
                         : counted(changed.size(), "%1 artwork has changed on disk.",
                                   "%1 artworks have changed on disk."),
                   {isOne ? tr("Take the new one") : tr("Take the new ones"),
                    [this] {
                        offersNewer_ = false;
                        watch_->takeAll();
                    }},
                   {tr("Keep what is shown"), [this] {
                        offersNewer_ = false;
                        watch_->keepAll();
                    }});
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
        notice_->warn(tr("The demo job is not installed"));
    else
        document_.openCopy(path, "Quillmoor Honey");
}

void MainWindow::askForArtwork() {
    const QStringList paths =
        QFileDialog::getOpenFileNames(this, tr("Open artwork"), folder_, artworkKinds());
    if (paths.isEmpty())
        return;
    folder_ = QFileInfo(paths.front()).absolutePath();
    openPaths(paths);
}

void MainWindow::askForMoreArtwork() {
    const std::string id = document_.selected();
    const QStringList paths =
        QFileDialog::getOpenFileNames(this, tr("Lay artwork on it"), folder_, artworkKinds());
    if (paths.isEmpty())
        return;
    folder_ = QFileInfo(paths.front()).absolutePath();
    notice_->clearWarning();
    document_.layOn(id, paths);
}

void MainWindow::askForPictureInside() {
    const auto item = stickers_->items().item();
    const std::string id = document_.selected();
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Show a picture inside"), folder_, artworkKinds());
    if (path.isEmpty() || !item)
        return;
    folder_ = QFileInfo(path).absolutePath();
    notice_->clearWarning();
    document_.putInside(id, *item, path);
}

void MainWindow::askForReplacement() {
    const std::string id = document_.selected();
    const std::size_t item = stickers_->items().item().value_or(0);
    const QString path = QFileDialog::getOpenFileName(this, tr("Replace artwork"), folder_, artworkKinds());
    if (path.isEmpty())
        return;
    folder_ = QFileInfo(path).absolutePath();
    notice_->clearWarning();
    document_.replaceArtwork(id, item, path);
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
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open job"), folder_, tr("Hasami jobs (*.hasami)"));
    if (path.isEmpty())
        return;
    folder_ = QFileInfo(path).absolutePath();
    notice_->clearWarning();
    document_.open(path);
}

void MainWindow::writeOutputs() {
    goTo(sheet);
    sheetPlace().outputs().writeAll();
}

void MainWindow::planOutputs() {
    goTo(sheet);
    sheetPlace().ledger().outputs().toggle();
}

void MainWindow::save() {
    saveThen({});
}

QString MainWindow::askForJobPath() {
    const QString path = askWhereToSave(this, tr("Save job"), QDir(folder_).filePath(document_.title()),
                                        {{tr("Hasami job"), ".hasami"}});
    if (!path.isEmpty())
        folder_ = QFileInfo(path).absolutePath();
    return path;
}

void MainWindow::saveAs() {
    const QString path = askForJobPath();
    if (!path.isEmpty())
        document_.save(path);
}

/// The job's file, another one that is chosen, or none. What somebody else has saved there meanwhile is not
/// overwritten unasked.
QString MainWindow::pathToSaveTo() {
    const QString path = document_.path();
    const QString conflict = document_.fileConflict();
    if (path.isEmpty() || conflict.isEmpty())
        return path.isEmpty() ? askForJobPath() : path;
    QMessageBox question(QMessageBox::Warning, "Hasami", conflict, QMessageBox::NoButton, this);
    question.setInformativeText(tr("Saving replaces it by what this window shows."));
    auto* replace = question.addButton(tr("Replace the file"), QMessageBox::DestructiveRole);
    auto* other = question.addButton(tr("Save as…"), QMessageBox::AcceptRole);
    question.setEscapeButton(question.addButton(tr("Cancel"), QMessageBox::RejectRole));
    question.setDefaultButton(other);
    question.exec();
    return question.clickedButton() == replace ? path
           : question.clickedButton() == other ? askForJobPath()
                                               : QString();
}

/// What was changed while it was saved is not saved: the question comes again.
void MainWindow::saveThen(const std::function<void()>& then) {
    notice_->clearWarning();
    const QString path = pathToSaveTo();
    if (!path.isEmpty())
        document_.save(path, [this, then](bool saved) {
            if (saved && then)
                leaveJob(then);
        });
}

void MainWindow::leaveJob(const std::function<void()>& then) {
    stopNest(); // what it has found is part of what may be lost
    document_.endRun();
    if (!document_.isModified())
        return then();
    const auto goOn = [this, then](bool saved) {
        if (saved)
            leaveJob(then);
    };
    if (document_.joinSave(goOn))
        return; // what is there is just being saved
    QMessageBox question(QMessageBox::Question, "Hasami",
                         tr("Save the changes to %1?").arg(document_.title()),
                         QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    question.setInformativeText(tr("They are lost otherwise."));
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

/// Where a cut is sent, only once the machine has the end of it and its knife is up.
void MainWindow::closeEvent(QCloseEvent* event) {
    if (onceCutEnded_ || !mayStopMachines()) {
        event->ignore();
        return;
    }
    if (isCutting()) {
        event->ignore();
        onceCutEnded_ = [this] { close(); };
        return;
    }
    stopNest();
    document_.endRun();
    if (leaving_ || !document_.isModified()) {
        recovery_->endWell();
        event->accept();
        return;
    }
    event->ignore();
    leaveJob([this] {
        leaving_ = document_.isModified(); // and not to be saved
        QMetaObject::invokeMethod(
            this, [this] { close(); }, Qt::QueuedConnection); // not inside this event
    });
}

} // namespace hasami
