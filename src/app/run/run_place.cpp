#include "app/run/run_place.h"

#include "app/kit/elided_combo.h"
#include "app/kit/named.h"
#include "app/kit/prompt_line.h"
#include "app/paint/line_names.h"
#include "app/run/cutter_panel.h"
#include "app/run/queue_panel.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"

#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <utility>

namespace hasami {

namespace {

constexpr std::array speeds{1.0, 4.0, 16.0, 64.0}; // of the machine's own

} // namespace

RunPlace::RunPlace(Document& document, RunQueue& queue, QWidget* parent)
    : QWidget(parent), document_(document), queue_(queue), run_(new GuidedRun(document, queue, this)),
      machine_(new MachineRun(document, this)), prompt_(new PromptLine), machines_(new ElidedCombo),
      kinds_(new ElidedCombo), speed_(new ElidedCombo), fault_(new ElidedCombo), view_(new RunView(*run_)),
      sides_(new QStackedWidget), steps_(new StepPanel(*run_)),
      queued_(new QueuePanel(document, queue, *run_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(queued_, 1, 0, 2, 1);
    layout->addWidget(makeSettings(), 1, 1);
    layout->addWidget(view_, 2, 1);
    layout->addWidget(makeSteps(), 1, 2, 2, 1);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(2, 1);
    connect(run_, &GuidedRun::changed, this, &RunPlace::showRun);
    connect(run_, &GuidedRun::told, this, &RunPlace::told);
    connect(&document, &Document::jobChanged, this, &RunPlace::showPrompt);
    connect(queued_, &QueuePanel::sheetWanted, this, [this](std::size_t sheet) {
        if (run_->isCutting())
            return;
        run_->choose(sheet);
        loadMachine();
    });
    connect(queued_, &QueuePanel::entryWanted, this,
            [this](const std::string& id) { run_->chooseEntry(id); });
    connect(queued_, &QueuePanel::told, this, &RunPlace::told);
    connect(queued_, &QueuePanel::done, prompt_, [this](const QString& sentence) { prompt_->say(sentence); });
    connect(steps_, &StepPanel::aimed, view_, &RunView::aim);
    connect(steps_, &StepPanel::resultWanted, view_, [this](bool errors) {
        view_->setResult(errors ? RunView::Result::errors : RunView::Result::stickers);
    });
    connect(machine_, &MachineRun::changed, this, &RunPlace::showMachine);
    showRun();
}

/// What the machines are, above the bed.
QWidget* RunPlace::makeSettings() {
    auto* box = new QWidget;
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(2);
    const auto add = [&](QComboBox& choice, const char* name, const char* effect, int stretch) {
        const int column = grid->columnCount();
        choice.setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        grid->addWidget(labelOf(choice, name, effect, " of the run"), 0, column);
        grid->addWidget(&choice, 1, column);
        grid->setColumnStretch(column, stretch);
    };
    machines_->addItems({tr("Simulated"), tr("Of the profile")});
    add(*machines_, N_("Cutter"),
        N_("Simulated, to rehearse; or the one that the machine profile has a connection to"), 25);
    connect(machines_, &QComboBox::activated, this, [this](int which) { useMachine(which == 1); });
    add(*kinds_, N_("Lines"), N_("All lines of the sheet are cut, or one kind alone"), 22);
    connect(kinds_, &QComboBox::activated, this, [this](int which) {
        run_->chooseKind(which == 0 ? std::nullopt
                                    : std::optional(LineKind(kinds_->itemData(which).toInt())));
    });
    for (const double times : speeds)
        speed_->addItem(tr("%1 ×").arg(int(times)));
    add(*speed_, N_("Speed"),
        N_("How fast the head moves in the window: as fast as the machine, or some times as fast"), 14);
    connect(speed_, &QComboBox::activated, this,
            [this](int which) { run_->setSpeed(speeds[std::size_t(which)]); });
    for (const TrainingFault fault : trainingFaults)
        fault_->addItem(tr(englishNameOf(fault)));
    add(*fault_, N_("Training"), N_("Something that goes wrong, to see how it is noticed"), 39);
    connect(fault_, &QComboBox::activated, this,
            [this](int which) { run_->setFault(trainingFaults[std::size_t(which)]); });
    return box;
}

QWidget* RunPlace::makeSteps() {
    sides_->addWidget(steps_);
    auto* real = new QFrame;
    real->setProperty("role", "panel");
    auto* column = new QVBoxLayout(real);
    column->setContentsMargins(0, 0, 0, 0);
    auto* cutter = new CutterPanel(*machine_);
    column->addWidget(cutter);
    connect(cutter, &CutterPanel::forceTaken, this, [this](double force) {
        machine_->takeForce(force);
        run_->takeForce(force);
    });
    connect(cutter, &CutterPanel::depthEntered, this, [this](double depth) {
        machine_->takeBladeDepth(depth);
        run_->takeBladeDepth(depth);
    });
    sides_->addWidget(real);
    sides_->setFixedWidth(304);
    return sides_;
}

bool RunPlace::isReal() const {
    return sides_->currentIndex() == 1;
}

/// All, then each kind that the sheet has.
void RunPlace::listKinds() {
    std::vector<LineKind> kinds;
    if (const Sheet* sheet = run_->sheet())
        kinds = kindsOn(*run_->made(), *sheet);
    QStringList names{tr("All lines")};
    for (const LineKind kind : kinds)
        names << nameOf(kind);
    QStringList shown;
    for (int i = 0; i < kinds_->count(); ++i)
        shown << kinds_->itemText(i);
    if (shown != names) {
        kinds_->clear();
        kinds_->addItem(names[0]);
        for (std::size_t i = 0; i < kinds.size(); ++i)
            kinds_->addItem(names[qsizetype(i) + 1], int(kinds[i]));
    }
    kinds_->setCurrentIndex(run_->kind() ? std::max(0, kinds_->findData(int(*run_->kind()))) : 0);
}

void RunPlace::useMachine(bool isReal) {
    if (run_->isCutting()) { // nothing but its own buttons stops a cut
        machines_->setCurrentIndex(sides_->currentIndex());
        return;
    }
    sides_->setCurrentIndex(isReal ? 1 : 0);
    machines_->setCurrentIndex(isReal ? 1 : 0);
    queued_->showRealMachine(isReal);
    if (run_->isOfJob())
        run_->choose(run_->sheetNumber());
    else if (!isReal && run_->state().isOnCutter)
        run_->choose(0); // what a real cutter has begun is not for a simulated one
    if (isReal)
        loadMachine();
    else
        view_->aim({});
    showRun();
}

/// The sheet that is run goes onto the profile's cutter, if that is chosen.
void RunPlace::loadMachine() {
    if (!isReal() || !run_->sheet() || machine_->isSending())
        return;
    isNoted_ = false;
    sinceLoaded_.start();
    loaded_ = run_->entryId();
    const RunState& state = run_->state();
    machine_->choose(run_->runSheet(), run_->pieces(), run_->kind());
    if (state.isOnCutter)
        machine_->goOnWith(state);
}

void RunPlace::showRun() {
    fault_->setCurrentIndex(int(run_->fault()));
    machines_->setEnabled(!run_->isCutting());
    speed_->setEnabled(!isReal());
    fault_->setEnabled(!isReal() && !run_->isCutting());
    kinds_->setEnabled(!run_->isCutting());
    listKinds();
    showPrompt();
    if (run_->state().isOnCutter && !isReal())
        return useMachine(true);
    if (!isReal() || !run_->sheet() || machine_->isSending())
        return;
    if (isOnMachine())
        machine_->setChoice(run_->pieces(), run_->kind());
    else
        loadMachine();
}

bool RunPlace::isOnMachine() const {
    return machine_->sheet().made == run_->made() && machine_->sheet().number == run_->sheetNumber() &&
           loaded_ == run_->entryId();
}

/// The mark that is to be touched, or where the line begins that is cut next after a stop.
std::optional<Point> RunPlace::placeOnMachine() const {
    if (machine_->state() == MachineRun::State::marks && machine_->current() < machine_->marks().size())
        return machine_->marks()[machine_->current()].expected;
    if (machine_->state() == MachineRun::State::ready && machine_->firstLine() > 0)
        return machine_->startOfLine();
    return {};
}

void RunPlace::showMachine() {
    if (isReal())
        view_->aim(placeOnMachine());
    if (!isReal())
        return;
    const bool isBegun = machine_->progress() || machine_->current() > 0 || machine_->isSending();
    if (isBegun && loaded_ == run_->entryId()) {
        run_->holdSheet();
        if (std::exchange(loaded_, run_->entryId()) != loaded_)
            queued_->showRealMachine(true); // the list shows it among the job's sheets, not in the queue too
    }
    run_->setOnCutter(machine_->isSending());
    if (loaded_ != run_->entryId() || loaded_.empty())
        return; // another sheet is being put in
    if (machine_->state() != MachineRun::State::done) {
        isNoted_ = false;
        if (const auto progress = machine_->progress())
            run_->keepByMachine(*progress);
    } else if (!isNoted_) {
        isNoted_ = true;
        run_->noteCutByMachine(double(sinceLoaded_.elapsed()) / 1000, machine_->lines(),
                               machine_->isRepeating());
    }
}

void RunPlace::showPrompt() {
    if (const QueueEntry* begun = queue_.interrupted(); begun && !run_->isMoving())
        return prompt_->say(tr("A cut was interrupted: %1, sheet %2. Put the same sheet in to go on.")
                                .arg(QString::fromStdString(begun->job))
                                .arg(begun->sheet + 1),
                            tr("Go on with it"), [this, id = begun->id] { run_->chooseEntry(id); });
    if (!run_->sheet() && run_->isOfJob() && queue_.entries().empty())
        return prompt_->say(tr("Nothing is laid out yet."), tr("Go to Stickers"),
                            [this] { Q_EMIT stickersWanted(); });
    if (run_->isOfOlderJob())
        return prompt_->say(
            tr("The job has changed since this sheet was printed: it is cut as it was printed."),
            tr("Print again"), [this] { run_->choose(run_->sheetNumber()); });
    if (isReal())
        return prompt_->say(tr("The cut goes to your machine, tool by tool."));
    prompt_->say(tr("Rehearse the sheet on simulated machines before it goes to yours."));
}

} // namespace hasami
