#include "app/run/cutter_panel.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/run/test_cut_panel.h"
#include "app/words/words.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

constexpr double farthest = 100'000; // mm
constexpr int mostLines = 1'000'000;

} // namespace

CutterPanel::CutterPanel(MachineRun& run, QWidget* parent)
    : QWidget(parent), run_(run), what_(new QLabel), trouble_(new QLabel), facts_(new QLabel),
      position_(makePosition()), first_(makeFirstLine()), tests_(new TestCutPanel),
      progress_(new QProgressBar) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(14, 12, 14, 12);
    layout->setSpacing(8);
    what_->setObjectName("Machine instruction");
    trouble_->setObjectName("Machine trouble");
    facts_->setObjectName("Machine facts");
    setStyled(*trouble_, "role", "trouble");
    setStyled(*facts_, "role", "quiet");
    for (QLabel* label : {what_, trouble_, facts_})
        label->setWordWrap(true);
    progress_->setTextVisible(false);
    progress_->setFixedHeight(8);
    progress_->setRange(0, 1000);
    layout->addWidget(what_);
    layout->addWidget(trouble_);
    layout->addWidget(progress_);
    next_ = addButton(N_("Next"), N_("Does the next thing of the cut"), &CutterPanel::goOn);
    next_->setProperty("role", "next");
    next_->setMinimumHeight(44);
    layout->addWidget(position_);
    layout->addWidget(first_);
    layout->addWidget(tests_);
    connect(tests_, &TestCutPanel::forceTaken, this, &CutterPanel::forceTaken);
    connect(tests_, &TestCutPanel::depthEntered, this, &CutterPanel::depthEntered);
    test_ = addButton(N_("Test cut first"), N_("Cuts drops with rising forces where the sheet is free"),
                      &CutterPanel::cutTest);
    typed_ = addButton(N_("Take the typed position"),
                       N_("What the machine shows for its head over this mark"), &CutterPanel::takeTyped);
    without_ = addButton(N_("Cut without marks"), N_("From the origin that is set at the machine"),
                         &CutterPanel::withoutMarks);
    again_ = addButton(N_("Touch the marks again"), N_("Forgets where the marks were found"),
                       &CutterPanel::touchAgain);
    accept_ = addButton(N_("Use these marks"), N_("Cut the sheet as it lies by these marks"),
                        &CutterPanel::acceptMarks);
    repeat_ = addButton(N_("Cut these lines again"), N_("Cut the chosen lines of this print once more"),
                        &CutterPanel::cutAgain);
    stop_ = addButton(N_("Stop sending"), N_("Lifts the knife; the lines that were not sent are cut later"),
                      &CutterPanel::stop);
    layout->addWidget(facts_);
    layout->addStretch(1);
    connect(&run, &MachineRun::changed, this, &CutterPanel::showRun);
    showRun();
}

QPushButton* CutterPanel::addButton(const char* name, const char* effect, void (CutterPanel::*act)()) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(QString::fromUtf8(name) + " machine");
    button->setProperty("role", "small");
    button->setToolTip(tr(effect));
    connect(button, &QPushButton::clicked, this, act);
    layout()->addWidget(button);
    return button;
}

QWidget* CutterPanel::makePosition() {
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
    return box;
}

QWidget* CutterPanel::makeFirstLine() {
    auto* box = new QWidget;
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    line_ = new QuantityField(QuantityKind::count, 1, mostLines);
    row->addWidget(labelOf(*line_, N_("Continue with line"),
                           N_("The first line that the machine has not cut: it is shown on the sheet"),
                           " of the machine"),
                   1);
    line_->setFixedWidth(100);
    row->addWidget(line_);
    connect(line_, &QuantityField::entered, this,
            [this](double line) { run_.setFirstLine(std::size_t(line) - 1); });
    return box;
}

QString CutterPanel::whatToDo() const {
    if (run_.target().isEmpty())
        return tr("The machine profile has no connection: choose one under Outputs in Sheet.");
    if (run_.passes() == 0 && run_.isAsking())
        return tr("Preparing the cut…");
    if (run_.passes() == 0)
        return tr("There is nothing on the sheet to cut");
    switch (run_.state()) {
    case MachineRun::State::marks:
        if (!run_.doubt().isEmpty())
            return tr("Touch the marks again, or confirm that the sheet lies so.");
        if (!run_.trouble().isEmpty() && run_.current() == run_.marks().size())
            return tr("Touch the marks again, or cut without them.");
        return run_.isAsking()
                   ? tr("Asking %1 where its head is…").arg(run_.target())
                   : tr("Put the printed sheet in, and move the head over the middle of mark %1, by the "
                        "machine's own keys.")
                         .arg(run_.marks().at(run_.current()).id);
    case MachineRun::State::ready: {
        if (run_.testCut())
            return tr("Peel the drops. Take the least force with which one comes off whole and leaves the "
                      "backing unmarked.");
        if (run_.firstLine() > 0)
            return tr("Stopped before line %1 of %2. Check which line the machine cut last: lines that were "
                      "sent "
                      "to its memory may be missing.")
                .arg(run_.firstLine() + 1)
                .arg(run_.linesOfPass());
        QStringList kinds;
        for (const LineKind kind : run_.kinds())
            kinds << nameOf(kind);
        const double depth =
            kinds.isEmpty() ? 0 : run_.cutter().tool(run_.kinds().front()).bladeDepth.value_or(0);
        return tr("Tool %1 of %2: put the one for %3 into holder %4.")
                   .arg(run_.pass() + 1)
                   .arg(run_.passes())
                   .arg(kinds.join(", "))
                   .arg(run_.holder()) +
               (depth > 0 ? " " + tr("Its blade stands out by %1 mm.").arg(QLocale().toString(depth, 'f', 2))
                          : QString());
    }
    case MachineRun::State::sending:
        return run_.isPaused() ? tr("Paused: the machine ends what it has, knife up.")
                               : tr("%1 % sent to %2").arg(int(run_.share() * 100)).arg(run_.target());
    case MachineRun::State::stopping:
        return tr("Stopping: the end of the command under way goes to %1, then the knife is lifted.")
            .arg(run_.target());
    case MachineRun::State::done:
        return tr("All was sent: weed the stickers when the machine has ended.");
    }
    return {};
}

/// And do not fit, or are in doubt: else it would be ready.
bool CutterPanel::areAllTouched() const {
    return run_.state() == MachineRun::State::marks && run_.current() == run_.marks().size();
}

QString CutterPanel::nextText() const {
    switch (run_.state()) {
    case MachineRun::State::marks:
        return areAllTouched() ? tr("Touch the marks again") : tr("Ask the machine");
    case MachineRun::State::ready:
        return tr("Cut with this tool");
    case MachineRun::State::sending:
        return run_.isPaused() ? tr("Go on cutting") : tr("Pause");
    case MachineRun::State::stopping:
        return tr("Stopping…");
    case MachineRun::State::done:
        return tr("Cut another print");
    }
    return {};
}

QString CutterPanel::factsText() const {
    QStringList lines;
    for (const MarkReading& mark : run_.marks())
        if (mark.found)
            lines << tr("Mark %1: off by %2")
                         .arg(mark.id)
                         .arg(QLocale().toString(mark.residual, 'f', 2) + " mm");
    const Registration& lies = run_.registration();
    if (lies.model != MapModel::none) {
        const auto number = [](double value, int digits) { // without "-0.0"
            const double tens = std::pow(10, digits);
            return QLocale().toString(std::round(value * tens) / tens + 0.0, 'f', digits);
        };
        lines << tr("The sheet lies turned by %1°, shifted by %2 and %3 mm, stretched by %4 and %5 %")
                     .arg(number(lies.turn, 2), number(lies.shift.x, 1), number(lies.shift.y, 1),
                          number(100 * (lies.scaleAlong - 1), 2), number(100 * (lies.scaleAcross - 1), 2));
    }
    return lines.join('\n');
}

void CutterPanel::showRun() {
    const MachineRun::State state = run_.state();
    const bool canCut = !run_.target().isEmpty() && run_.passes() > 0;
    const bool touches = canCut && state == MachineRun::State::marks;
    const bool isNext = touches && run_.current() < run_.marks().size();
    what_->setText(whatToDo());
    const QString wrong = run_.trouble().isEmpty() ? run_.doubt() : run_.trouble();
    trouble_->setText("▲ " + wrong + ".");
    trouble_->setVisible(!wrong.isEmpty());
    facts_->setText(factsText());
    next_->setText(nextText());
    next_->setEnabled(canCut && !run_.isAsking() && state != MachineRun::State::stopping);
    showReady();
    position_->setVisible(isNext);
    typed_->setVisible(isNext);
    without_->setVisible(touches);
    again_->setVisible(canCut && run_.current() > 0 && !run_.isSending() && !areAllTouched() &&
                       state != MachineRun::State::done);
    accept_->setVisible(!run_.doubt().isEmpty());
    repeat_->setVisible(canCut && state == MachineRun::State::done);
    stop_->setVisible(run_.isSending());
    stop_->setEnabled(state == MachineRun::State::sending);
    progress_->setVisible(run_.isSending());
    progress_->setValue(int(run_.share() * 1000));
    if (isNext && !x_->hasFocus() && !y_->hasFocus()) {
        x_->show(run_.marks()[run_.current()].expected.x);
        y_->show(run_.marks()[run_.current()].expected.y);
    }
}

/// What there is beside the button for the next thing while a pass is to be sent.
void CutterPanel::showReady() {
    const bool isReady = run_.state() == MachineRun::State::ready && !run_.target().isEmpty();
    first_->setVisible(isReady && (run_.firstLine() > 0 || run_.isContinued()));
    line_->show(double(run_.firstLine()) + 1);
    test_->setVisible(isReady && run_.pass() == 0 && run_.firstLine() == 0 && !run_.testCut());
    tests_->setVisible(isReady && run_.testCut());
    if (isReady && run_.testCut())
        tests_->showTest(run_.testCut(), run_.cutter().tool(LineKind::kiss).bladeDepth);
}

void CutterPanel::cutTest() {
    run_.cutTest();
}

void CutterPanel::goOn() {
    switch (run_.state()) {
    case MachineRun::State::marks:
        return areAllTouched() ? run_.touchAgain() : run_.askPosition();
    case MachineRun::State::ready:
        return run_.sendPass();
    case MachineRun::State::sending:
        return run_.setPaused(!run_.isPaused());
    case MachineRun::State::stopping:
        return;
    case MachineRun::State::done:
        return run_.chooseAgain();
    }
}

void CutterPanel::takeTyped() {
    const double x = x_->typed().value_or(x_->value()), y = y_->typed().value_or(y_->value());
    typed_->setFocus(); // the fields show the next mark
    run_.setPosition({x, y});
}

void CutterPanel::stop() {
    run_.stop();
}

void CutterPanel::touchAgain() {
    run_.touchAgain();
}

void CutterPanel::withoutMarks() {
    run_.cutWithoutMarks();
}

void CutterPanel::acceptMarks() {
    run_.acceptMarks();
}

void CutterPanel::cutAgain() {
    run_.cutAgain();
}

} // namespace hasami
