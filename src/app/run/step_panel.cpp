#include "app/run/step_panel.h"

#include "app/kit/elided_combo.h"
#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/run/mark_lens.h"
#include "app/run/step_drawing.h"
#include "app/run/test_cut_panel.h"
#include "app/words/words.h"

#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

QString millimetres(double value, int digits) {
    return QLocale().toString(value, 'f', digits) + " mm";
}

bool isPass(RunStep step) {
    return step == RunStep::kissPass || step == RunStep::diePass;
}

} // namespace

QString toolSentence(LineKind kind, const Tool& tool) {
    const QString text = tr("%1: put its tool into holder %2").arg(nameOf(kind)).arg(tool.holder);
    return tool.bladeDepth ? text + ", " + tr("its blade out by %1.").arg(millimetres(*tool.bladeDepth, 2))
                           : text + ".";
}

QString nameOf(RunStep step) {
    constexpr std::array names{N_("Print"),       N_("Load"),     N_("Find marks"), N_("Kiss pass"),
                               N_("Change tool"), N_("Die pass"), N_("Weed")};
    return tr(names[std::size_t(step)]);
}

QString timeText(double seconds) {
    const int whole = int(std::lround(seconds));
    return whole < 60 ? tr("%1 s").arg(whole)
                      : tr("%1 min %2 s").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

StepPanel::StepPanel(GuidedRun& run, QWidget* parent)
    : QScrollArea(parent), run_(run), what_(new QLabel), trouble_(new QLabel), facts_(new QLabel),
      drawing_(new StepDrawing), putIn_(new QWidget), prints_(new ElidedCombo), tests_(new TestCutPanel),
      progress_(new QProgressBar), lens_(new MarkLens(run)) {
    setProperty("role", "panel");
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedWidth(304);
    auto* page = new QWidget;
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(14, 12, 14, 12);
    layout->setSpacing(8);
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
    auto* steps = new QVBoxLayout;
    steps->setSpacing(1);
    for (QLabel*& row : steps_) {
        row = new QLabel;
        steps->addWidget(row);
    }
    layout->addLayout(steps);
    layout->addWidget(drawing_);
    layout->addWidget(what_);
    layout->addWidget(trouble_);
    layout->addWidget(progress_);
    layout->addWidget(putIn_);
    auto* putIn = new QVBoxLayout(putIn_);
    putIn->setContentsMargins(0, 0, 0, 0);
    putIn->addWidget(labelOf(
        *prints_, N_("Sheet put in"),
        N_("Which of the printed sheets is put into the machine: its code is read there"), " of the run"));
    putIn->addWidget(prints_);
    connect(prints_, &QComboBox::activated, this,
            [this](int which) { run_.putIn(prints_->itemData(which).toString().toStdString()); });
    next_ = addButton(layout, N_("Next"), N_("Does the next thing of the run"), &StepPanel::goOn);
    next_->setProperty("role", "next");
    next_->setMinimumHeight(44);
    cancel_ =
        addButton(layout, N_("Cancel"), N_("Gives up printing, or reading the marks"), &StepPanel::cancel);
    cut_ = addButton(layout, N_("Cut it now"), N_("Loads the sheet that was printed"), &StepPanel::cutNow);
    found_ = addButton(layout, N_("Cut that sheet instead"),
                       N_("Continues with the sheet in the queue that has this code"), &StepPanel::cutFound);
    layout->addWidget(lens_);
    layout->addWidget(tests_);
    connect(tests_, &TestCutPanel::forceTaken, &run, &GuidedRun::takeForce);
    connect(tests_, &TestCutPanel::depthEntered, &run, &GuidedRun::takeBladeDepth);
    test_ = addButton(layout, N_("Test cut first"),
                      N_("Cuts drops with rising forces where the sheet is free"), &StepPanel::cutTest);
    hand_ = addButton(layout, N_("Place a mark by hand"), N_("Shows what the sensor sees, magnified"),
                      &StepPanel::placeByHand);
    stop_ = addButton(layout, N_("Stop the pass"), N_("Lifts the knife; what was cut is kept"),
                      &StepPanel::stopPass);
    load_ = addButton(layout, N_("Load again"), N_("The sheet is taken out and put in again"),
                      &StepPanel::loadAgain);
    print_ = addButton(layout, N_("Print again"), N_("Begins again with a new print of the sheet"),
                       &StepPanel::printAgain);
    again_ = addButton(layout, N_("Cut again"),
                       N_("Cuts all lines once more, or those of the chosen stickers"), &StepPanel::cutAgain);
    errors_ = addButton(layout, N_("Show the errors"), N_("Where each line lies off the print"),
                        &StepPanel::toggleErrors);
    errors_->setCheckable(true);
    layout->addWidget(facts_);
    layout->addStretch(1);
    setWidget(page);
    connect(lens_, &MarkLens::moved, this, [this](Point place) { Q_EMIT aimed(place); });
    connect(lens_, &MarkLens::accepted, this, &StepPanel::goOn);
    connect(&run, &GuidedRun::changed, this, &StepPanel::showRun);
    connect(&run, &GuidedRun::moved, this, &StepPanel::showProgress);
    showRun();
}

QPushButton* StepPanel::addButton(QVBoxLayout* layout, const char* name, const char* effect,
                                  void (StepPanel::*act)()) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(QString::fromUtf8(name) + " run");
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    connect(button, &QPushButton::clicked, this, act);
    layout->addWidget(button);
    return button;
}

StepPanel::Words StepPanel::wordsOnPass() const {
    const CutHead* head = run_.head();
    if (run_.isMoving())
        return {tr("%1: %2 % done, %3 left.")
                    .arg(nameOf(head->kind()))
                    .arg(int(head->share() * 100))
                    .arg(timeText(head->secondsLeft())),
                tr("Pause")};
    return {
        run_.record().empty()
            ? tr("The knife cuts through the vinyl, not its backing.")
            : tr("It stopped where the knife was lifted, and goes on there, in the middle of a line too."),
        tr("Go on cutting")};
}

StepPanel::Words StepPanel::wordsWhenDone() const {
    const char* const next[] = {N_("Next copy"), N_("Next sheet"), N_("Next in the queue"),
                                N_("Run it again")};
    const bool isWaiting = run_.waitsToBeCut();
    const QString button = isWaiting && run_.after() == GuidedRun::After::again
                               ? tr("Cut it now")
                               : tr(next[std::size_t(run_.after())]);
    if (run_.step() == RunStep::print)
        return {isWaiting ? tr("Printed: it waits in the queue to be cut.") : tr("Printed."), button};
    return {run_.trouble().isEmpty() ? tr("Cut: peel away what is between the stickers.")
                                     : tr("The check after the cut has found something."),
            button};
}

StepPanel::Words StepPanel::wordsFor(RunStep step) const {
    if (!run_.sheet() && run_.isBusy())
        return {tr("Reading the sheet from the queue…"), tr("Print the sheet"), false};
    if (run_.isDone())
        return wordsWhenDone();
    if (!run_.sheet())
        return {tr("Lay stickers out first: the sheet is printed and cut from there."), tr("Print the sheet"),
                false};
    const std::size_t marks = run_.sheet()->marks.size();
    switch (step) {
    case RunStep::print:
        return {run_.isBusy()
                    ? (run_.plan().copies > 1 ? tr("Printing %1 copies…").arg(run_.plan().copies)
                                              : tr("Printing…"))
                    : tr("Sheet %1: %2 long, %3 wide, on a printer that shifts, turns and stretches a "
                         "little, as all do.")
                          .arg(run_.sheetNumber() + 1)
                          .arg(millimetres(run_.sheet()->length, 0),
                               millimetres(run_.job()->plan.medium.width, 0)),
                tr("Print the sheet"), !run_.isBusy()};
    case RunStep::load:
        return {run_.isBusy() ? tr("Preparing the printed sheet…")
                              : tr("Put the sheet in, its leading edge to the front, and let the rollers "
                                   "grip it."),
                tr("The sheet is in"), !run_.isBusy()};
    case RunStep::findMarks:
        if (run_.isBusy())
            return {tr("The sensor looks for the marks…"), tr("Find the marks"), false};
        if (run_.registration().marks.empty() || !run_.trouble().isEmpty())
            return {counted(marks, "Move the head over the first mark. %1 mark is looked for.",
                            "Move the head over the first mark. %1 marks are looked for."),
                    tr("Find the marks")};
        return {tr("%1 of %2 marks found: the cut will follow the print.")
                    .arg(run_.registration().found())
                    .arg(marks),
                tr("Start cutting")};
    case RunStep::kissPass:
    case RunStep::diePass:
        return wordsOnPass();
    case RunStep::changeTool: {
        const LineKind kind = run_.head()->kind();
        return {toolSentence(kind, run_.job()->profile.cutter.tool(kind)), tr("The tool is in")};
    }
    case RunStep::weed:
        return wordsWhenDone();
    }
    return {};
}

QString StepPanel::factsOf(RunStep step) const {
    const Registration& found = run_.registration();
    QStringList lines;
    if (step == RunStep::findMarks && !found.marks.empty()) {
        for (const MarkReading& mark : found.marks)
            lines << (!mark.found      ? tr("Mark %1: not found").arg(mark.id)
                      : mark.isDropped ? tr("Mark %1: disagrees, left out").arg(mark.id)
                      : mark.isByHand
                          ? tr("Mark %1: placed by hand").arg(mark.id)
                          : tr("Mark %1: off by %2").arg(mark.id).arg(millimetres(mark.residual, 2)));
        if (found.found() >= 2)
            lines << tr("Print: shifted %1 and %2, turned %3°, stretched %4 % and %5 %")
                         .arg(millimetres(found.shift.x, 2), millimetres(found.shift.y, 2))
                         .arg(QLocale().toString(found.turn, 'f', 2),
                              QLocale().toString((found.scaleAlong - 1) * 100, 'f', 2),
                              QLocale().toString((found.scaleAcross - 1) * 100, 'f', 2));
    }
    if (step == RunStep::weed && !run_.errors().lines.empty()) {
        lines << tr("Off the print: %1 on average, %2 at most")
                     .arg(millimetres(run_.errors().rms, 2), millimetres(run_.errors().largest, 2));
        lines << counted(run_.errors().lines.size(), "%1 line cut", "%1 lines cut");
    }
    return lines.join('\n');
}

/// Done, present and coming steps, each with a sign and not only a colour.
void StepPanel::showSteps() {
    const auto steps = run_.steps();
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        QLabel& row = *steps_[i];
        row.setVisible(i < steps.size());
        if (i >= steps.size())
            continue;
        const bool isOver = steps[i] < run_.step() || (steps[i] == RunStep::print && run_.isDone());
        const bool isNow = steps[i] == run_.step() && !isOver;
        row.setText((isNow ? "▶ " : isOver ? "✓ " : "○ ") + nameOf(steps[i]));
        setStyled(row, "role", isNow ? "heading" : "quiet");
    }
}

void StepPanel::showRun() {
    const RunStep step = run_.step();
    showSteps();
    drawing_->showStep(step, !run_.trouble().isEmpty());
    const Words words = wordsFor(step);
    what_->setText(words.what);
    next_->setText(words.button);
    next_->setEnabled(words.isEnabled);
    trouble_->setText(run_.trouble().isEmpty() ? QString() : "▲ " + run_.trouble() + ".");
    trouble_->setVisible(!run_.trouble().isEmpty());
    const QString facts = factsOf(step);
    facts_->setText(facts);
    facts_->setVisible(!facts.isEmpty());
    const bool isOver = step == RunStep::weed;
    cancel_->setVisible(run_.canCancel());
    listPrints();
    const QueueEntry* found = run_.isBusy() ? nullptr : run_.foundByCode();
    found_->setVisible(found != nullptr);
    cut_->setVisible(run_.isDone() && run_.waitsToBeCut() && run_.after() != GuidedRun::After::again);
    if (found)
        trouble_->setText("▲ " + tr("This is another sheet: its code is that of %1, sheet %2, in the queue.")
                                     .arg(QString::fromStdString(found->job))
                                     .arg(found->sheet + 1));
    if (step != RunStep::findMarks || run_.trouble().isEmpty())
        placed_.reset();
    const bool isPlacing = placed_.has_value();
    lens_->setVisible(isPlacing);
    drawing_->setVisible(!isPlacing);
    if (isPlacing) {
        next_->setText(tr("Set mark %1 here").arg(*placed_));
        what_->setText(
            tr("Move the cross hairs to the middle of the mark with the arrow keys, or click it."));
    }
    hand_->setVisible(step == RunStep::findMarks && !run_.isBusy() && !run_.trouble().isEmpty());
    const bool isRead = step == RunStep::findMarks && !run_.isBusy() && run_.trouble().isEmpty() &&
                        !run_.registration().marks.empty();
    test_->setVisible(isRead && !run_.testCut());
    showDrops();
    progress_->setVisible(run_.isBusy() || isPass(step));
    stop_->setVisible(isPass(step) && (run_.isMoving() || run_.isPaused()));
    load_->setVisible(!run_.isBusy() && step == RunStep::findMarks);
    print_->setVisible(!run_.isBusy() && printsHere(run_.plan().work) &&
                       (step == RunStep::findMarks || isOver));
    again_->setVisible(isOver && !run_.isBusy());
    errors_->setVisible(isOver && !run_.errors().lines.empty());
    if (!isPlacing)
        Q_EMIT aimed({});
    showProgress();
}

void StepPanel::showDrops() {
    const bool isShown = run_.testCut() && run_.job();
    tests_->setVisible(isShown);
    if (!isShown)
        return;
    what_->setText(tr("Peel the drops. Take the least force with which one comes off whole and leaves the "
                      "backing unmarked."));
    tests_->showTest(run_.testCut(), run_.job()->profile.cutter.tool(LineKind::kiss).bladeDepth,
                     [this](double force) { return run_.depthOf(force); });
}

void StepPanel::cutTest() {
    run_.cutTest();
}

void StepPanel::showProgress() {
    if (run_.isBusy()) {
        progress_->setRange(
            0, run_.printShare() > 0 && run_.printShare() < 1 ? 1000 : 0); // 0: how long is not known
        progress_->setValue(int(run_.printShare() * 1000));
        return;
    }
    progress_->setRange(0, 1000);
    progress_->setValue(run_.head() ? int(run_.head()->share() * 1000) : 0);
    if (run_.isMoving())
        what_->setText(wordsOnPass().what);
}

void StepPanel::goOn() {
    if (placed_)
        setMark();
    else if (run_.isMoving())
        run_.pause();
    else
        run_.next();
}

/// The first mark that is missing or disagrees; of several the next one with each click.
void StepPanel::placeByHand() {
    const auto& marks = run_.registration().marks;
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
    lens_->look(run_.registration().map(found->expected));
    showRun();
    lens_->setFocus();
    Q_EMIT aimed(lens_->place());
}

void StepPanel::setMark() {
    const int id = *placed_;
    placed_.reset();
    run_.placeMark(id, lens_->place());
}

/// Where other printed sheets lie beside the machine, one of them may be put in by mistake.
void StepPanel::listPrints() {
    const std::vector<QueueEntry> others = run_.otherPrints();
    const bool canPutIn =
        run_.step() == RunStep::load && !run_.isBusy() && !others.empty() && run_.plan().isPrinted;
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

void StepPanel::cancel() {
    run_.cancel();
}

void StepPanel::cutNow() {
    run_.cutNow();
}

void StepPanel::cutFound() {
    if (const QueueEntry* found = run_.foundByCode())
        run_.chooseEntry(std::string(found->id));
}

void StepPanel::stopPass() {
    run_.stop();
}

void StepPanel::loadAgain() {
    run_.loadAgain();
}

void StepPanel::printAgain() {
    run_.printAgain();
}

void StepPanel::cutAgain() {
    run_.cutAgain();
}

void StepPanel::toggleErrors() {
    Q_EMIT resultWanted(errors_->isChecked());
}

} // namespace hasami
