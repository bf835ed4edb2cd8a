#include "app/run/step_panel.h"

#include "app/kit/elided_combo.h"
#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/run/mark_lens.h"
#include "app/run/step_drawing.h"
#include "app/run/test_cut_panel.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <utility>

namespace hasami {

namespace {

constexpr double farthest = 100'000; // mm
constexpr int mostLines = 1'000'000;

/// The actions that have a button of their own, from the top down.
struct ActionRow {
    RunAction action;
    const char* name;
    const char* effect;
};
constexpr ActionRow actionRows[] = {
    {RunAction::cancel, N_("Cancel"), N_("Gives up printing, preparing or reading the marks")},
    {RunAction::cutNow, N_("Cut it now"), N_("Loads the sheet that was printed")},
    {RunAction::acceptMarks, N_("Use these marks"), N_("Cut the sheet as it lies by these marks")},
    {RunAction::withoutMarks, N_("Cut without marks"), N_("From the origin that is set at the machine")},
    {RunAction::stop, N_("Stop the cut"), N_("Lifts the knife; what is left can be cut later")},
    {RunAction::locateAgain, N_("Load again"), N_("The sheet is put in again, and its marks are read again")},
    {RunAction::printAgain, N_("Print again"), N_("Begins again with a new print of the sheet")},
    {RunAction::cutAgain, N_("Cut again"), N_("Cuts all lines once more, or those of the chosen stickers")},
};

QString millimetres(double value, int digits) {
    return QLocale().toString(value, 'f', digits) + " mm";
}

QString withoutMinusZero(double value, int digits) {
    const double tens = std::pow(10, digits);
    return QLocale().toString(std::round(value * tens) / tens + 0.0, 'f', digits);
}

} // namespace

QString timeText(double seconds) {
    const int whole = int(std::lround(seconds));
    return whole < 60 ? tr("%1 s").arg(whole)
                      : tr("%1 min %2 s").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

StepPanel::StepPanel(RunControl& run, QWidget* parent)
    : QScrollArea(parent), run_(run), rows_(new QVBoxLayout), what_(new QLabel), trouble_(new QLabel),
      facts_(new QLabel), drawing_(new StepDrawing), tests_(new TestCutPanel), progress_(new QProgressBar),
      lens_(new MarkLens(run)) {
    setProperty("role", "panel");
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedWidth(304);
    setObjectName("Steps of the run");
    setAccessibleName(tr("Steps of the run"));
    auto* page = new QWidget;
    layout_ = new QVBoxLayout(page);
    layout_->setContentsMargins(14, 12, 14, 12);
    layout_->setSpacing(8);
    what_->setObjectName("Run instruction");
    trouble_->setObjectName("Run trouble");
    facts_->setObjectName("Run facts");
    facts_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    setStyled(*trouble_, "role", "trouble");
    setStyled(*facts_, "role", "quiet");
    for (QLabel* label : {what_, trouble_, facts_})
        label->setWordWrap(true);
    progress_->setObjectName("Run progress");
    progress_->setTextVisible(false);
    progress_->setFixedHeight(8);
    rows_->setSpacing(1);
    layout_->addLayout(rows_);
    layout_->addWidget(drawing_);
    layout_->addWidget(what_);
    layout_->addWidget(trouble_);
    layout_->addWidget(progress_);
    putIn_ = makePrints();
    next_ = addButton(N_("Next"), N_("Does the next thing of the run"), [this] { goOn(); });
    next_->setProperty("role", "next");
    next_->setMinimumHeight(44);
    position_ = makePosition();
    first_ = makeFirstLine();
    layout_->addWidget(lens_);
    layout_->addWidget(tests_);
    connect(tests_, &TestCutPanel::forceTaken, &run, &RunControl::takeForce);
    connect(tests_, &TestCutPanel::depthEntered, &run, &RunControl::takeBladeDepth);
    found_ = addButton(N_("Cut that sheet instead"),
                       N_("Continues with the sheet in the queue that has this code"), [this] {
                           if (const QueueEntry* found = run_.foundByCode())
                               run_.chooseEntry(std::string(found->id));
                       });
    test_ = addButton(N_("Test cut first"), N_("Cuts drops with rising forces where the sheet is free"),
                      [this] { run_.cutTest(); });
    hand_ = addButton(N_("Place a mark by hand"), N_("Shows what the sensor sees, magnified"),
                      [this] { placeByHand(); });
    for (const ActionRow& row : actionRows)
        actions_[row.action] = addButton(row.name, row.effect, [this, action = row.action] {
            if (action == RunAction::cancel)
                run_.cancel(); // an entry's opening too
            else
                run_.act(action);
        });
    errors_ = addButton(N_("Show the errors"), N_("Where each line lies off the print"),
                        [this] { Q_EMIT resultWanted(errors_->isChecked()); });
    errors_->setCheckable(true);
    layout_->addWidget(facts_);
    layout_->addStretch(1);
    setWidget(page);
    connect(lens_, &MarkLens::moved, this, [this](Point place) { Q_EMIT aimed(place); });
    connect(lens_, &MarkLens::accepted, this, &StepPanel::goOn);
    connect(&run, &RunControl::changed, this, &StepPanel::showRun);
    connect(&run, &RunControl::moved, this, &StepPanel::showProgress);
    showRun();
}

QPushButton* StepPanel::addButton(const char* name, const char* effect, const std::function<void()>& act) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(QString::fromUtf8(name) + " run");
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    connect(button, &QPushButton::clicked, this, act);
    layout_->addWidget(button);
    return button;
}

QWidget* StepPanel::makePrints() {
    auto* box = new QWidget;
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    prints_ = new ElidedCombo;
    column->addWidget(labelOf(
        *prints_, N_("Sheet put in"),
        N_("Which of the printed sheets is put into the machine: its code is read there"), " of the run"));
    column->addWidget(prints_);
    connect(prints_, &QComboBox::activated, this,
            [this](int which) { run_.putIn(prints_->itemData(which).toString().toStdString()); });
    layout_->addWidget(box);
    return box;
}

QWidget* StepPanel::makePosition() {
    auto* box = new QWidget;
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    x_ = new QuantityField(QuantityKind::length, -farthest, farthest);
    y_ = new QuantityField(QuantityKind::length, -farthest, farthest);
    grid->addWidget(labelOf(*x_, N_("Along"), N_("Where the mark is along the feed"), " of the mark"), 0, 0);
    grid->addWidget(x_, 0, 1);
    grid->addWidget(labelOf(*y_, N_("Across"), N_("Where the mark is across the feed"), " of the mark"), 1,
                    0);
    grid->addWidget(y_, 1, 1);
    layout_->addWidget(box);
    typed_ = addButton(N_("Take the typed position"),
                       N_("What the machine shows for its head over this mark"), [this] { takeTyped(); });
    return box;
}

QWidget* StepPanel::makeFirstLine() {
    auto* box = new QWidget;
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    line_ = new QuantityField(QuantityKind::count, 1, mostLines);
    row->addWidget(labelOf(*line_, N_("Continue with line"),
                           N_("The first line that the machine has not cut: it is shown on the sheet"),
                           " of the run"),
                   1);
    line_->setFixedWidth(100);
    row->addWidget(line_);
    connect(line_, &QuantityField::entered, this,
            [this](double line) { run_.act(run_event::ContinueWith{std::size_t(line) - 1}); });
    layout_->addWidget(box);
    return box;
}

QString StepPanel::kindsOf(std::size_t pass) const {
    QStringList names;
    if (pass < run_.model().plan().passes.size())
        for (const LineKind kind : run_.model().plan().passes[pass].kinds)
            names << hasami::nameOf(kind);
    return names.join(", ");
}

QString StepPanel::nameOf(RunStep step) const {
    return step.task == RunTask::cut ? kindsOf(step.pass) : tr(englishNameOf(step));
}

QString StepPanel::progressText() const {
    const CuttingMachine& machine = run_.machine();
    const int percent = int(machine.share() * 100);
    if (const auto left = machine.secondsLeft(); left && machine.head())
        return tr("%1: %2 % done, %3 left.")
            .arg(hasami::nameOf(machine.head()->kind()))
            .arg(percent)
            .arg(timeText(*left));
    return tr("%1 % sent to %2").arg(percent).arg(machine.name());
}

QString StepPanel::instructionOnMarks() const {
    const RunModel& model = run_.model();
    const Registration& found = model.registration();
    const std::size_t marks = model.order().marks.size();
    if (model.order().machine.findsMarks) {
        if (model.activity() == RunActivity::locating)
            return tr("The sensor looks for the marks…");
        if (found.marks.empty() || found.fault != RunFault::none)
            return counted(marks, "Move the head over the first mark. %1 mark is looked for.",
                           "Move the head over the first mark. %1 marks are looked for.");
        return tr("%1 of %2 marks found: the cut will follow the print.").arg(found.found()).arg(marks);
    }
    if (!model.doubt().empty())
        return tr("Touch the marks again, or confirm that the sheet lies so.");
    if (model.areMarksRead())
        return tr("Touch the marks again, or cut without them.");
    return model.activity() == RunActivity::locating
               ? tr("Asking %1 where its head is…").arg(run_.machine().name())
               : tr("Put the printed sheet in, and move the head over the middle of mark %1, by the "
                    "machine's own keys.")
                     .arg(found.marks[model.mark()].id);
}

QString StepPanel::instructionOnTool() const {
    const RunModel& model = run_.model();
    const std::size_t pass = model.step().pass;
    const RunPass& tools = model.plan().passes[pass];
    const double depth = model.cutter().tool(tools.kinds.front()).bladeDepth.value_or(0);
    return tr("Tool %1 of %2: put the one for %3 into holder %4.")
               .arg(pass + 1)
               .arg(model.plan().passes.size())
               .arg(kindsOf(pass))
               .arg(tools.holder) +
           (depth > 0 ? " " + tr("Its blade stands out by %1.").arg(millimetres(depth, 2)) : QString());
}

QString StepPanel::instructionOnCut() const {
    const RunModel& model = run_.model();
    switch (model.activity()) {
    case RunActivity::cutting:
        return progressText();
    case RunActivity::paused:
        return tr("Paused: the knife is up, or will be at the end of the line under way.");
    case RunActivity::stopping:
        return tr("Stopping: the end of the command under way goes to %1, then the knife is lifted.")
            .arg(run_.machine().name());
    default:
        if (model.isConfirmed())
            return tr("Stopped before line %1 of %2: the machine says that it has cut those before.")
                .arg(model.firstLine() + 1)
                .arg(model.linesOfPass());
        return model.order().machine.mayLoseLines
                   ? tr("Stopped before line %1 of %2. Check which line the machine cut last: lines that "
                        "were "
                        "sent to its memory may be missing.")
                         .arg(model.firstLine() + 1)
                         .arg(model.linesOfPass())
                   : tr("It stopped where the knife was lifted, and goes on there, in the middle of a line "
                        "too.");
    }
}

QString StepPanel::instructionWhenDone() const {
    const RunModel& model = run_.model();
    if (model.isOnlyPrinted())
        return model.order().waits ? tr("Printed: it waits in the queue to be cut.") : tr("Printed.");
    if (!run_.trouble().isEmpty())
        return tr("The check after the cut has found something.");
    if (model.isConfirmed())
        return tr("The machine says that it has ended: weed the stickers.");
    return model.order().machine.mayLoseLines
               ? tr("All was sent: weed the stickers when the machine has ended.")
               : tr("Cut: peel away what is between the stickers.");
}

QString StepPanel::instruction() const {
    const RunModel& model = run_.model();
    if (run_.isOpening())
        return tr("Reading the sheet from the queue…");
    if (!run_.sheet())
        return tr("Lay stickers out first: the sheet is printed and cut from there.");
    if (!model.order().isReachable)
        return tr("The machine profile has no connection: choose one under Outputs in Sheet.");
    if (model.plan().steps.empty())
        return tr("This sheet is only to be printed: nothing of it is cut.");
    if (placed_)
        return tr("Move the cross hairs to the middle of the mark with the arrow keys, or click it.");
    if (model.testCut())
        return tr("Peel the drops. Take the least force with which one comes off whole and leaves the "
                  "backing unmarked.");
    if (model.activity() == RunActivity::checking)
        return tr("Looking at the marks again…");
    if (model.isDone())
        return instructionWhenDone();
    if (model.isCutting())
        return instructionOnCut();
    if (model.activity() == RunActivity::preparing && model.task() != RunTask::load)
        return tr("Preparing the cut…");
    switch (model.task()) {
    case RunTask::print:
        if (model.activity() == RunActivity::printing)
            return run_.plan().copies > 1 ? tr("Printing %1 copies…").arg(run_.plan().copies)
                                          : tr("Printing…");
        return tr("Sheet %1: %2 long, %3 wide, on a printer that shifts, turns and stretches a little, as "
                  "all do.")
            .arg(run_.sheetNumber() + 1)
            .arg(millimetres(run_.sheet()->length, 0), millimetres(run_.job()->plan.medium.width, 0));
    case RunTask::load:
        return run_.isBusy() ? tr("Preparing the printed sheet…")
                             : tr("Put the sheet in, its leading edge to the front, and let the rollers "
                                  "grip it.");
    case RunTask::findMarks:
        return instructionOnMarks();
    case RunTask::changeTool:
        return instructionOnTool();
    case RunTask::cut:
    case RunTask::weed:
        return instructionOnCut();
    }
    return {};
}

/// What the large button does.
QString StepPanel::mainText() const {
    const RunModel& model = run_.model();
    if (placed_)
        return tr("Set mark %1 here").arg(*placed_);
    if (model.isCutting())
        return model.activity() == RunActivity::cutting  ? tr("Pause")
               : model.activity() == RunActivity::paused ? tr("Go on cutting")
                                                         : tr("Stopping…");
    const MachineAbilities& machine = model.order().machine;
    if (model.isDone()) {
        const bool isLast = run_.after() == RunControl::After::again;
        if (isLast && model.offers(RunAction::cutNow))
            return tr("Cut it now");
        if (isLast && !machine.prints)
            return tr("Cut another print");
        const char* const next[] = {N_("Next copy"), N_("Next sheet"), N_("Next in the queue"),
                                    N_("Run it again")};
        return tr(next[std::size_t(run_.after())]);
    }
    switch (model.task()) {
    case RunTask::print:
        return tr("Print the sheet");
    case RunTask::load:
        return tr("The sheet is in");
    case RunTask::findMarks:
        if (!machine.findsMarks)
            return model.areMarksRead() ? tr("Touch the marks again") : tr("Ask the machine");
        return model.areMarksRead() && model.registration().fault == RunFault::none ? tr("Start cutting")
                                                                                    : tr("Find the marks");
    case RunTask::changeTool:
        return machine.hasFirstTool ? tr("The tool is in") : tr("Cut with this tool");
    case RunTask::cut:
    case RunTask::weed:
        return tr("Go on cutting");
    }
    return {};
}

QString StepPanel::factsText() const {
    const RunModel& model = run_.model();
    QStringList lines;
    if (model.isDone()) {
        if (!model.errors().lines.empty()) {
            lines << tr("Off the print: %1 on average, %2 at most")
                         .arg(millimetres(model.errors().rms, 2), millimetres(model.errors().largest, 2));
            lines << counted(model.errors().lines.size(), "%1 line cut", "%1 lines cut");
        }
        return lines.join('\n');
    }
    const Registration& lies = model.registration();
    for (const MarkReading& mark : lies.marks)
        if (mark.found || model.areMarksRead())
            lines << (!mark.found      ? tr("Mark %1: not found").arg(mark.id)
                      : mark.isDropped ? tr("Mark %1: disagrees, left out").arg(mark.id)
                      : mark.isByHand && model.order().machine.findsMarks
                          ? tr("Mark %1: placed by hand").arg(mark.id)
                          : tr("Mark %1: off by %2").arg(mark.id).arg(millimetres(mark.residual, 2)));
    if (lies.model != MapModel::none)
        lines << tr("The sheet lies turned by %1°, shifted by %2 and %3 mm, stretched by %4 and %5 %")
                     .arg(withoutMinusZero(lies.turn, 2), withoutMinusZero(lies.shift.x, 1),
                          withoutMinusZero(lies.shift.y, 1), withoutMinusZero(100 * (lies.scaleAlong - 1), 2),
                          withoutMinusZero(100 * (lies.scaleAcross - 1), 2))
                     .replace(" %", QChar(QChar::Nbsp) + QString('%'));
    return lines.join('\n');
}

/// Done, present and coming steps, each with a sign and not only a colour.
void StepPanel::showSteps() {
    const RunModel& model = run_.model();
    const std::vector<RunStep>& steps = model.plan().steps;
    auto now = std::ranges::find(steps, model.step());
    if (now == steps.end()) // a tool that is asked for beside the plan: another one is in
        now = std::ranges::find(steps, RunStep{RunTask::cut, model.step().pass});
    while (steps_.size() < steps.size()) {
        steps_.push_back(new QLabel);
        rows_->addWidget(steps_.back());
    }
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        QLabel& row = *steps_[i];
        row.setVisible(i < steps.size());
        if (i >= steps.size())
            continue;
        const auto step = steps.begin() + std::ptrdiff_t(i);
        const bool isOver = step < now || (step->task == RunTask::print && model.isDone());
        const bool isNow = step == now && !isOver;
        row.setText((isNow ? "▶ " : isOver ? "✓ " : "○ ") + nameOf(*step));
        setStyled(row, "role", isNow ? "heading" : "quiet");
    }
}

void StepPanel::showRun() {
    const RunModel& model = run_.model();
    const bool isAtMarks = model.task() == RunTask::findMarks && model.activity() == RunActivity::none;
    offer(*hand_, isAtMarks && model.order().machine.findsMarks && model.areMarksRead() &&
                      model.registration().fault != RunFault::none);
    if (hand_->isHidden())
        placed_.reset();
    showSteps();
    const bool isThrough = model.step().pass < model.plan().passes.size() &&
                           model.plan().passes[model.step().pass].kinds.back() >= LineKind::perforated;
    const QString wrong = !run_.trouble().isEmpty() ? run_.trouble() : QString::fromStdString(model.doubt());
    drawing_->showStep(model.task(), isThrough, !wrong.isEmpty());
    const QueueEntry* found = run_.isBusy() ? nullptr : run_.foundByCode();
    offer(*found_, found != nullptr);
    trouble_->setVisible(!wrong.isEmpty());
    trouble_->setText(wrong.isEmpty() ? QString() : "▲ " + wrong + ".");
    if (found)
        trouble_->setText("▲ " + tr("This is another sheet: its code is that of %1, sheet %2, in the queue.")
                                     .arg(QString::fromStdString(found->job))
                                     .arg(found->sheet + 1));
    const QString facts = factsText();
    facts_->setText(facts);
    facts_->setVisible(!facts.isEmpty());
    what_->setText(instruction());
    showNext();
    listPrints();
    showActions();
    showPlacing();
    showTest();
    offer(*errors_, model.isDone() && !model.errors().lines.empty());
    progress_->setVisible(run_.isBusy() || model.isCutting());
    showProgress();
}

/// A button that has the focus and goes leaves it to the panel, where no key does anything.
void StepPanel::offer(QWidget& button, bool isOffered) {
    if (!isOffered && button.hasFocus())
        setFocus();
    button.setVisible(isOffered);
}

/// The focus waits on the panel for as long as there is no next thing. It stays there once a run is done, so
/// that a key meant for Pause does not begin another one.
void StepPanel::showNext() {
    const RunModel& model = run_.model();
    const bool isOn = !run_.isOpening() && (placed_ || model.offers(model.mainAction()));
    const bool endsCut = std::exchange(wasCutting_, model.isCutting()) && model.isDone();
    if (next_->hasFocus() && (!isOn || endsCut)) {
        setFocus();
        waitsForNext_ = !endsCut;
    }
    next_->setText(mainText());
    next_->setEnabled(isOn);
    if (isOn && hasFocus() && std::exchange(waitsForNext_, false) && !model.isDone())
        next_->setFocus();
}

/// What can be done now beside the next thing.
void StepPanel::showActions() {
    const RunModel& model = run_.model();
    const bool areTouched = !model.order().machine.findsMarks;
    // Not what the large button does already.
    const bool loadsAgain = areTouched && model.task() == RunTask::findMarks && model.areMarksRead();
    for (const auto& [action, button] : actions_)
        offer(*button, action == RunAction::cancel        ? run_.canCancel()
                       : action == RunAction::locateAgain ? model.offers(action) && !loadsAgain
                       : action == RunAction::cutNow
                           ? model.offers(action) && run_.after() != RunControl::After::again
                           : model.offers(action));
    actions_[RunAction::locateAgain]->setText(areTouched ? tr("Touch the marks again") : tr("Load again"));
    offer(*test_, model.offersTest());
    first_->setVisible(model.offersLine());
    line_->show(double(model.firstLine()) + 1);
}

/// A mark's place, in the lens or as the machine shows it.
void StepPanel::showPlacing() {
    const RunModel& model = run_.model();
    lens_->setVisible(placed_.has_value());
    drawing_->setVisible(!placed_ && !model.testCut());
    const bool isTouched = model.offers(RunAction::withoutMarks) && !model.areMarksRead();
    position_->setVisible(isTouched);
    typed_->setVisible(isTouched);
    if (isTouched && !x_->hasFocus() && !y_->hasFocus()) {
        const Point expected = model.registration().marks[model.mark()].expected;
        x_->show(expected.x);
        y_->show(expected.y);
    }
    if (!placed_)
        Q_EMIT aimed(aim());
}

/// The mark that is touched next, or where the line begins with which the cut continues.
std::optional<Point> StepPanel::aim() const {
    const RunModel& model = run_.model();
    if (model.task() == RunTask::findMarks && !model.order().machine.findsMarks && !model.areMarksRead() &&
        model.mark() < model.registration().marks.size())
        return model.registration().marks[model.mark()].expected;
    const auto start = model.offersLine() && model.firstLine() > 0 ? model.startOfLine() : std::nullopt;
    return start && run_.machine().bed() ? std::optional(model.registration().map(*start)) : start;
}

void StepPanel::showTest() {
    const RunModel& model = run_.model();
    tests_->setVisible(model.testCut().has_value());
    if (model.testCut())
        tests_->showTest(model.testCut(), model.cutter().tool(LineKind::kiss).bladeDepth,
                         [this](double force) { return run_.machine().depthOf(force); });
}

void StepPanel::showProgress() {
    const RunModel& model = run_.model();
    const double share = run_.machine().share();
    const bool isKnown = !run_.isBusy() || (share > 0 && share < 1 && !run_.isOpening());
    progress_->setRange(0, isKnown ? 1000 : 0); // 0: how long is not known
    progress_->setValue(int(share * 1000));
    if (model.activity() == RunActivity::cutting)
        what_->setText(instruction());
}

void StepPanel::goOn() {
    if (placed_)
        setMark();
    else
        run_.act(run_.model().mainAction());
}

/// The first mark that is missing or disagrees; of several the next one with each click.
void StepPanel::placeByHand() {
    const auto& marks = run_.model().registration().marks;
    const auto isWrong = [](const MarkReading& mark) {
        return (!mark.found || mark.isDropped) && !mark.isByHand;
    };
    auto found = std::ranges::find_if(
        marks, [&](const MarkReading& mark) { return isWrong(mark) && (!placed_ || mark.id > *placed_); });
    if (found == marks.end())
        found = std::ranges::find_if(marks, isWrong);
    if (found == marks.end())
        found = marks.begin();
    placed_ = found->id;
    lens_->look(run_.model().registration().map(found->expected));
    showRun();
    lens_->setFocus();
    Q_EMIT aimed(lens_->place());
}

void StepPanel::setMark() {
    const int id = *placed_;
    placed_.reset();
    run_.act(run_event::PlaceMark{id, lens_->place()});
}

void StepPanel::takeTyped() {
    const Point typed{x_->typed().value_or(x_->value()), y_->typed().value_or(y_->value())};
    typed_->setFocus(); // the fields show the next mark
    const RunModel& model = run_.model();
    if (model.mark() < model.registration().marks.size())
        run_.act(run_event::PlaceMark{model.registration().marks[model.mark()].id, typed});
}

/// Where other printed sheets lie beside the machine, one of them may be put in by mistake.
void StepPanel::listPrints() {
    const std::vector<QueueEntry> others = run_.otherPrints();
    const bool canPutIn =
        run_.model().task() == RunTask::load && !run_.isBusy() && !others.empty() && run_.plan().isPrinted;
    putIn_->setVisible(canPutIn);
    if (!canPutIn)
        return;
    prints_->clear();
    prints_->addItem(tr("This sheet"), QString());
    for (const QueueEntry& entry : others)
        prints_->addItem(tr("%1, sheet %2").arg(QString::fromStdString(entry.job)).arg(entry.sheet + 1),
                         QString::fromStdString(entry.id));
    prints_->setCurrentIndex(std::max(0, prints_->findData(QString::fromStdString(run_.inMachine()))));
}

} // namespace hasami
