#include "app/run/run_place.h"

#include "app/kit/elided_combo.h"
#include "app/kit/named.h"
#include "app/kit/prompt_line.h"
#include "app/paint/line_names.h"
#include "app/run/queue_panel.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr std::array speeds{1.0, 4.0, 16.0, 64.0}; // of the machine's own

} // namespace

RunPlace::RunPlace(Document& document, RunQueue& queue, QWidget* parent)
    : QWidget(parent), document_(document), queue_(queue), run_(new RunControl(document, queue, this)),
      prompt_(new PromptLine), machines_(new ElidedCombo), kinds_(new ElidedCombo), speed_(new ElidedCombo),
      fault_(new ElidedCombo), view_(new RunView(*run_)), steps_(new StepPanel(*run_)),
      queued_(new QueuePanel(document, queue, *run_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(queued_, 1, 0, 2, 1);
    layout->addWidget(makeSettings(), 1, 1);
    layout->addWidget(view_, 2, 1);
    layout->addWidget(steps_, 1, 2, 2, 1);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(2, 1);
    connect(run_, &RunControl::changed, this, &RunPlace::showRun);
    connect(run_, &RunControl::messageRaised, this, &RunPlace::messageRaised);
    connect(&document, &Document::jobChanged, this, &RunPlace::showPrompt);
    connect(queued_, &QueuePanel::messageRaised, this, &RunPlace::messageRaised);
    connect(queued_, &QueuePanel::done, prompt_, [this](const QString& sentence) { prompt_->say(sentence); });
    connect(steps_, &StepPanel::aimed, view_, &RunView::aim);
    connect(steps_, &StepPanel::resultWanted, view_, [this](bool errors) {
        view_->setResult(errors ? RunView::Result::errors : RunView::Result::stickers);
    });
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
    connect(machines_, &QComboBox::activated, this,
            [this](int which) { run_->useMachine(RunControl::Machine(which)); });
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
    kinds_->setCurrentIndex(run_->model().kind() ? std::max(0, kinds_->findData(int(*run_->model().kind())))
                                                 : 0);
}

void RunPlace::showRun() {
    const bool isFree = !run_->model().isCutting();
    const bool isSimulated = run_->machineInUse() == RunControl::Machine::simulated;
    machines_->setCurrentIndex(int(run_->machineInUse()));
    machines_->setEnabled(isFree);
    fault_->setCurrentIndex(int(run_->fault()));
    fault_->setEnabled(isSimulated && isFree);
    speed_->setEnabled(isSimulated);
    kinds_->setEnabled(isFree);
    listKinds();
    showPrompt();
}

void RunPlace::showPrompt() {
    if (const QueueEntry* interrupted = queue_.interrupted(); interrupted && !run_->model().isCutting())
        return prompt_->say(tr("A cut was interrupted: %1, sheet %2. Put the same sheet in to go on.")
                                .arg(QString::fromStdString(interrupted->job))
                                .arg(interrupted->sheet + 1),
                            tr("Go on with it"), [this, id = interrupted->id] { run_->chooseEntry(id); });
    if (!run_->sheet() && run_->isOfJob() && queue_.entries().empty())
        return prompt_->say(tr("Nothing is laid out yet."), tr("Go to Stickers"),
                            [this] { Q_EMIT stickersWanted(); });
    if (run_->isOfOlderJob())
        return prompt_->say(
            tr("The job has changed since this sheet was printed: it is cut as it was printed."),
            tr("Print again"), [this] { run_->choose(run_->sheetNumber()); });
    if (run_->machineInUse() == RunControl::Machine::ofProfile)
        return prompt_->say(tr("The cut goes to your machine, tool by tool."));
    prompt_->say(tr("Rehearse the sheet on simulated machines before it goes to yours."));
}

} // namespace hasami
