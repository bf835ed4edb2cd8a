#include "app/run/queue_panel.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/save_dialog.h"
#include "app/run/history_dialog.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"
#include "files/file_kind.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QStandardPaths>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

QString offText(double largest) {
    return tr("cut, %1 mm off at most").arg(QLocale().toString(largest, 'f', 2));
}

QString nameOf(RunWork work) {
    return tr(englishNameOf(work));
}

} // namespace

QueuePanel::QueuePanel(Document& document, RunQueue& queue, RunControl& run, QWidget* parent)
    : QFrame(parent), document_(document), queue_(queue), run_(run), list_(new QueueList),
      work_(new QComboBox), copies_(new QuantityField(QuantityKind::count, 1, mostQueueCopies)),
      code_(new QLineEdit), menu_(new QMenu(this)) {
    setProperty("role", "panel");
    setFixedWidth(260);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 10, 10, 10);
    layout->setSpacing(6);
    auto* top = new QWidget;
    auto* topRow = new QHBoxLayout(top);
    topRow->setContentsMargins(0, 0, 0, 0);
    auto* head = new QLabel(tr("Sheets"));
    head->setProperty("role", "heading");
    topRow->addWidget(head, 1);
    addButton(*top, N_("History…"), "History", N_("The runs that have ended, with their times and errors"),
              &QueuePanel::showHistory);
    layout->addWidget(top);
    nameControl(*list_, N_("Queue"), N_("Which sheet is printed and cut; the others wait in this order"),
                " of the run");
    layout->addWidget(list_, 1);
    auto* adding = new QWidget;
    auto* addingRow = new QHBoxLayout(adding);
    addingRow->setContentsMargins(0, 0, 0, 0);
    addingRow->setSpacing(6);
    addButton(*adding, N_("Add this job"), "Add this job",
              N_("Adds the sheets of this job to the queue, as they are now"), &QueuePanel::addSheets);
    addButton(*adding, N_("Add files…"), "Add files",
              N_("Adds the sheets of other jobs to the queue, or artwork as a sheet of one sticker"),
              &QueuePanel::addFiles);
    layout->addWidget(adding);
    layout->addWidget(makeWork());
    layout->addWidget(makeButtons());
    nameControl(*code_, N_("Code of a sheet"),
                N_("Finds a printed sheet in the queue by its code, which a barcode reader may type"),
                " of the run");
    code_->setPlaceholderText(tr("Scan or type a sheet's code"));
    layout->addWidget(code_);
    connect(code_, &QLineEdit::returnPressed, this, &QueuePanel::findCode);
    connect(list_, &QueueList::chosen, this, &QueuePanel::choose);
    connect(list_, &QListWidget::itemSelectionChanged, this, &QueuePanel::showSelected);
    connect(list_, &QueueList::moveWanted, this, &QueuePanel::move);
    connect(list_, &QueueList::removeWanted, this, &QueuePanel::remove);
    menu_->setObjectName("Queue menu");
    connect(menu_, &QMenu::aboutToShow, this, &QueuePanel::fillMenu);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(list_, &QWidget::customContextMenuRequested, this, [this](const QPoint& at) {
        if (list_->selected())
            menu_->popup(list_->viewport()->mapToGlobal(at));
    });
    connect(&run_, &RunControl::changed, this, &QueuePanel::showQueue); // also where the queue changes
    connect(&document_, &Document::jobChanged, this, [this] { done_.clear(); });
    setTabOrder(list_, findChild<QPushButton*>("History queue"));
    showQueue();
}

QWidget* QueuePanel::makeWork() {
    auto* box = new QWidget;
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    for (const RunWork work : runWorks)
        work_->addItem(nameOf(work));
    nameControl(*work_, N_("Work"), N_("Whether the sheet is printed, cut or both"), " of the run");
    row->addWidget(work_, 1);
    nameControl(*copies_, N_("Copies"), N_("How often the sheet is printed and cut"), " of the run");
    copies_->setFixedWidth(48);
    row->addWidget(copies_);
    connect(work_, &QComboBox::activated, this, &QueuePanel::setWork);
    connect(copies_, &QuantityField::entered, this, &QueuePanel::setCopies);
    return box;
}

QWidget* QueuePanel::makeButtons() {
    auto* box = new QWidget;
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    up_ = addButton(*box, "↑", "Up", N_("Moves the sheet up in the queue (Alt+Up)"), &QueuePanel::moveUp);
    down_ = addButton(*box, "↓", "Down", N_("Moves the sheet down in the queue (Alt+Down)"),
                      &QueuePanel::moveDown);
    for (QPushButton* arrow : {up_, down_})
        arrow->setFixedWidth(34);
    hold_ = addButton(*box, N_("Hold"), "Hold", N_("Passes the sheet over until it is released"),
                      &QueuePanel::holdOrAgain);
    remove_ = addButton(*box, N_("Remove"), "Remove", N_("Takes the sheet out of the queue (Delete)"),
                        &QueuePanel::removeSelected);
    return box;
}

QPushButton* QueuePanel::addButton(QWidget& box, const char* text, const char* name, const char* effect,
                                   void (QueuePanel::*act)()) {
    auto* button = new QPushButton(tr(text));
    button->setObjectName(QString::fromUtf8(name) + " queue");
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    button->setAccessibleName(tr(effect));
    connect(button, &QPushButton::clicked, this, act);
    box.layout()->addWidget(button);
    return button;
}

const QueueEntry* QueuePanel::selectedEntry() const {
    const QueueRow* row = list_->selected();
    return row && row->kind == QueueRow::Kind::entry ? queue_.find(row->id) : nullptr;
}

bool QueuePanel::isSelectedRun() const {
    const QueueRow* row = list_->selected();
    if (!row)
        return false;
    return row->kind == QueueRow::Kind::entry ? row->id == run_.entryId()
                                              : run_.isOfJob() && row->sheet == run_.sheetNumber();
}

QString QueuePanel::statusOfRun() const {
    const RunModel& model = run_.model();
    if (!run_.job())
        return tr("being opened");
    if (!model.isDone())
        return tr(englishNameOf(model.step()));
    if (!model.errors().lines.empty())
        return offText(model.errors().largest);
    return model.isOnlyPrinted() ? tr("printed") : tr("cut");
}

/// "copy 2 of 3" of what is run, "1 of 3 done" of what waits.
QString QueuePanel::countOf(const QueueEntry& entry, bool isRun) const {
    if (entry.copies <= 1)
        return {};
    return isRun ? tr("copy %1 of %2").arg(run_.copy() + 1).arg(entry.copies)
                 : tr("%1 of %2 done").arg(entry.done).arg(entry.copies);
}

QString QueuePanel::stateOf(const QueueEntry& entry) const {
    if (entry.isNewer)
        return tr("of a newer version");
    if (entry.isDone() && entry.largest)
        return offText(*entry.largest);
    if (entry.isDone())
        return cutsAtAll(entry.work) ? tr("cut") : tr("printed");
    if (entry.isHeld)
        return tr("on hold");
    if (entry.isBegun)
        return queue_.isElsewhere(entry.id) ? tr("in another window") : tr("cut in part");
    return entry.isPrinted ? tr("printed, to be cut") : tr("waiting");
}

QString QueuePanel::statusOf(const QueueEntry& entry) const {
    const bool saysWork = !entry.isDone() && !entry.isPrinted && entry.work != RunWork::printAndCut;
    return stateOf(entry) + (saysWork ? " · " + nameOf(entry.work) : QString());
}

QueueRow QueuePanel::rowOfJob(const QueueEntry& entry) const {
    const std::size_t sheet = entry.sheet;
    const bool isRun = run_.isOfJob() && sheet == run_.sheetNumber();
    QueueRow row;
    row.kind = QueueRow::Kind::sheet;
    row.sheet = sheet;
    row.isRun = isRun;
    row.title = (document_.job().plan.medium.isRoll() ? tr("Roll %1") : tr("Sheet %1")).arg(sheet + 1);
    row.kinds = entry.kinds;
    row.inks = entry.inks;
    if (isRun)
        row.count = countOf(run_.plan(), true);
    const auto done = done_.find(sheet);
    row.status = isRun ? statusOfRun() : done != done_.end() ? offText(done->second) : tr("waiting");
    return row;
}

QueueRow QueuePanel::rowOf(const QueueEntry& entry) const {
    QueueRow row;
    row.kind = QueueRow::Kind::entry;
    row.id = entry.id;
    row.isRun = entry.id == run_.entryId();
    row.isQuiet = !row.isRun && (entry.isHeld || entry.isDone());
    row.title = QString::fromStdString(entry.job);
    if (entry.sheets > 1)
        row.title += " · " + tr("%1 of %2").arg(entry.sheet + 1).arg(entry.sheets);
    row.kinds = entry.kinds;
    row.inks = entry.inks;
    row.status = row.isRun ? statusOfRun() : statusOf(entry);
    row.count = countOf(entry, row.isRun);
    return row;
}

/// Of what was made last; which kinds and inks a sheet has takes a look at each of its pieces.
void QueuePanel::listJob() {
    if (listed_ == document_.made())
        return;
    listed_ = document_.made();
    ofJob_.clear();
    for (std::size_t i = 0; i < listed_->layout.sheets.size(); ++i)
        if (!listed_->layout.sheets[i].pieces.empty())
            ofJob_.push_back(entryOf(document_.job(), *listed_, i));
}

std::vector<QueueRow> QueuePanel::rows() const {
    std::vector<QueueRow> rows;
    const auto addText = [&](QueueRow::Kind kind, const QString& text) {
        QueueRow row;
        row.kind = kind;
        row.title = text;
        rows.push_back(row);
    };
    if (!ofJob_.empty())
        addText(QueueRow::Kind::heading, tr("This job"));
    for (const QueueEntry& sheet : ofJob_)
        rows.push_back(rowOfJob(sheet));
    addText(QueueRow::Kind::heading, tr("Queue"));
    bool isEmpty = true;
    for (const QueueEntry& entry : queue_.entries()) {
        if (run_.isOfJob() && entry.id == run_.entryId())
            continue; // it is shown among the job's sheets
        isEmpty = false;
        rows.push_back(rowOf(entry));
    }
    if (queue_.reading() > 0)
        addText(QueueRow::Kind::hint,
                counted(std::size_t(queue_.reading()), "Reading %1 file…", "Reading %1 files…"));
    else if (isEmpty)
        addText(QueueRow::Kind::hint, tr("Empty. Drop jobs or artwork here."));
    return rows;
}

void QueuePanel::showQueue() {
    if (run_.isOfJob() && run_.model().isDone() && !run_.model().errors().lines.empty())
        done_[run_.sheetNumber()] = run_.model().errors().largest;
    listJob();
    list_->showRows(rows());
    const std::pair<std::string, std::size_t> now{run_.isOfJob() ? std::string() : run_.entryId(),
                                                  run_.sheetNumber()};
    if (now != shownRun_ || !list_->selected()) {
        shownRun_ = now;
        if (run_.isOfJob())
            list_->selectSheet(run_.sheetNumber());
        else
            list_->selectEntry(run_.entryId());
    }
    code_->setVisible(
        std::ranges::any_of(queue_.entries(), [](const QueueEntry& entry) { return !entry.code.empty(); }));
    showSelected();
}

void QueuePanel::showSelected() {
    const QueueEntry* entry = selectedEntry();
    const bool isRun = isSelectedRun();
    const QueueEntry& plan = entry ? *entry : run_.plan();
    const bool canPlan = (entry || isRun) && !(isRun && (run_.isBusy() || run_.model().isCutting()));
    work_->setEnabled(canPlan && !plan.isBegun && !(plan.isPrinted && isRun));
    copies_->setEnabled(canPlan && !plan.isDone());
    work_->setCurrentIndex(int(plan.work));
    copies_->show(plan.copies);
    const auto ids = listed();
    up_->setEnabled(entry && entry->id != ids.front());
    down_->setEnabled(entry && entry->id != ids.back());
    const bool isDone = entry && entry->isDone();
    hold_->setText(isDone ? tr("Again") : entry && entry->isHeld ? tr("Release") : tr("Hold"));
    hold_->setToolTip(isDone                   ? tr("Prints and cuts the sheet once more")
                      : entry && entry->isHeld ? tr("The sheet is run again when its turn comes")
                                               : tr("Passes the sheet over until it is released"));
    hold_->setEnabled(entry && !isRun);
    remove_->setEnabled(entry && !(isRun && run_.model().isCutting()));
}

/// What is selected is run, unless a cut is under way: that is not stopped by a click.
void QueuePanel::choose() {
    const QueueRow* row = list_->selected();
    if (!row || isSelectedRun())
        return;
    if (row->kind == QueueRow::Kind::sheet)
        run_.choose(row->sheet);
    else
        run_.chooseEntry(std::string(row->id));
}

void QueuePanel::setWork(int which) {
    const RunWork work = runWorks[std::size_t(which)];
    if (isSelectedRun())
        run_.setWork(work);
    else if (const QueueEntry* entry = selectedEntry())
        queue_.change(entry->id, [work](QueueEntry& changed) { changed.work = work; });
}

void QueuePanel::setCopies(double copies) {
    if (isSelectedRun())
        run_.setCopies(int(copies));
    else if (const QueueEntry* entry = selectedEntry())
        queue_.change(entry->id, [copies](QueueEntry& changed) {
            changed.copies = std::max(int(copies), changed.done);
        });
}

/// The entries as they are listed: a sheet of the job that is run is not among them.
std::vector<std::string> QueuePanel::listed() const {
    std::vector<std::string> ids;
    for (const QueueRow& row : list_->rows())
        if (row.kind == QueueRow::Kind::entry)
            ids.push_back(row.id);
    return ids;
}

/// Before the one that is listed at `place`, or last.
void QueuePanel::move(const std::string& id, std::size_t place) {
    const auto ids = listed();
    const QueueEntry* before = place < ids.size() ? queue_.find(ids[place]) : nullptr;
    const auto& all = queue_.entries();
    queue_.move(id, before ? std::size_t(before - all.data()) : all.size());
}

void QueuePanel::moveBy(int by) {
    const auto ids = listed();
    const QueueEntry* entry = selectedEntry();
    const auto found = entry ? std::ranges::find(ids, entry->id) : ids.end();
    if (found == ids.end() || (by < 0 && found == ids.begin()))
        return;
    const std::size_t place = std::size_t(found - ids.begin());
    move(*found, by < 0 ? place - 1 : place + 2);
}

void QueuePanel::moveUp() {
    moveBy(-1);
}

void QueuePanel::moveDown() {
    moveBy(1);
}

void QueuePanel::holdOrAgain() {
    const QueueEntry* entry = selectedEntry();
    if (!entry)
        return;
    if (entry->isDone())
        queue_.again(entry->id);
    else
        queue_.change(entry->id, [](QueueEntry& changed) { changed.isHeld = !changed.isHeld; });
}

void QueuePanel::removeSelected() {
    if (const QueueEntry* entry = selectedEntry())
        remove(entry->id);
}

/// What was printed or cut in part is not thrown away by accident.
void QueuePanel::remove(const std::string& id) {
    const QueueEntry* entry = queue_.find(id);
    if (!entry || (id == run_.entryId() && run_.model().isCutting()))
        return;
    if (!entry->isDone() && (entry->isBegun || entry->isPrinted)) {
        QMessageBox question(QMessageBox::Question, "Hasami",
                             entry->isBegun ? tr("A part of this sheet is cut. Remove it from the queue?")
                                            : tr("This sheet is printed. Remove it from the queue?"),
                             QMessageBox::NoButton, this);
        question.setInformativeText(tr("The cut can't be continued then."));
        auto* removing = question.addButton(tr("Remove"), QMessageBox::AcceptRole);
        question.setDefaultButton(question.addButton(tr("Keep it"), QMessageBox::RejectRole));
        question.exec();
        if (question.clickedButton() != removing)
            return;
    }
    const std::string removed = id; // the row goes
    if (removed == run_.entryId())
        run_.choose(0);
    queue_.remove(removed);
}

void QueuePanel::addSheets() {
    queue_.addSheets();
}

void QueuePanel::addFiles() {
    QStringList patterns{"*.hasami"};
    for (const std::string_view ending : artworkEndings)
        patterns << "*." + QString::fromLatin1(ending.data(), qsizetype(ending.size()));
    const QString folder = document_.path().isEmpty()
                               ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation)
                               : QFileInfo(document_.path()).path();
    const QStringList paths = QFileDialog::getOpenFileNames(
        this, tr("Add files to the queue"), folder,
        tr("Jobs and artwork (%1)").arg(patterns.join(' ')) + ";;" + tr("All files (*)"));
    if (!paths.isEmpty())
        queue_.addFiles(paths);
}

void QueuePanel::findCode() {
    const QString code = code_->text().trimmed();
    if (code.isEmpty())
        return;
    code_->clear();
    bool isDoubtful = false;
    const QueueEntry* found = findByCode(queue_.entries(), code.toStdString(), &isDoubtful);
    if (isDoubtful)
        return Q_EMIT messageRaised(
            tr("Several sheets in the queue have the code %1, from different states of the job: choose "
               "the one that was printed")
                .arg(code));
    if (!found)
        return Q_EMIT messageRaised(tr("No sheet in the queue has the code %1").arg(code));
    const std::string id = found->id;
    if (id != run_.entryId())
        run_.chooseEntry(id);
    if (id == run_.entryId())
        list_->selectEntry(id);
}

/// What the buttons do, and what is needed less often.
void QueuePanel::fillMenu() {
    menu_->clear();
    const QueueEntry* entry = selectedEntry();
    const bool isRun = isSelectedRun();
    menu_->addAction(tr("Run this sheet"), this, &QueuePanel::choose)->setEnabled(!isRun);
    if (!entry)
        return;
    menu_->addAction(hold_->text(), this, &QueuePanel::holdOrAgain)->setEnabled(hold_->isEnabled());
    menu_->addAction(tr("Move up"), this, &QueuePanel::moveUp)->setEnabled(up_->isEnabled());
    menu_->addAction(tr("Move down"), this, &QueuePanel::moveDown)->setEnabled(down_->isEnabled());
    menu_->addSeparator();
    menu_->addAction(tr("Save its files…"), this, &QueuePanel::saveFiles);
    menu_->addAction(tr("Remove"), this, &QueuePanel::removeSelected)->setEnabled(remove_->isEnabled());
    menu_->addAction(tr("Remove all that are done"), &queue_, &RunQueue::removeDone);
}

/// For a memory stick that is carried to the machines.
void QueuePanel::saveFiles() {
    const QueueEntry* entry = selectedEntry();
    if (!entry)
        return;
    const QueueEntry saved = *entry; // the queue may change while the dialog is open
    const QString folder = QFileDialog::getExistingDirectory(
        this, tr("Where the print and cut files of %1 are saved").arg(QString::fromStdString(saved.job)));
    if (folder.isEmpty())
        return;
    Q_EMIT done(tr("Making the files of %1…").arg(QString::fromStdString(saved.job)));
    queue_.makeFiles(saved, folder,
                     [this, folder](const std::vector<Output>& files) { writeFiles(folder, files); });
}

void QueuePanel::writeFiles(const QString& folder, const std::vector<Output>& files) {
    QStringList there;
    for (const Output& file : files)
        if (std::error_code ignored; std::filesystem::exists(file.path, ignored))
            there << QString::fromStdString(file.path.filename().string());
    if (!there.isEmpty() && !mayReplace(this, there))
        return Q_EMIT done(tr("No file was saved."));
    queue_.writeFiles(files, [this, folder, count = files.size()] {
        Q_EMIT done(counted(count, "%1 file was saved in %2.", "%1 files were saved in %2.").arg(folder));
    });
}

void QueuePanel::showHistory() {
    HistoryDialog dialog(queue_, this);
    dialog.exec();
}

} // namespace hasami
