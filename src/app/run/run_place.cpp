#include "app/run/run_place.h"

#include "app/kit/named.h"
#include "app/kit/prompt_line.h"
#include "app/paint/line_names.h"
#include "app/run/cutter_panel.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QListWidget>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr std::array speeds{1.0, 4.0, 16.0, 64.0}; // of the machine's own

} // namespace

RunPlace::RunPlace(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), run_(new GuidedRun(document, this)),
      machine_(new MachineRun(document, this)), prompt_(new PromptLine), sheets_(new QListWidget),
      machines_(new QComboBox), kinds_(new QComboBox), speed_(new QComboBox), fault_(new QComboBox),
      view_(new RunView(*run_)), sides_(new QStackedWidget), steps_(new StepPanel(*run_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(makeSide(), 1, 0);
    layout->addWidget(view_, 1, 1);
    sides_->addWidget(steps_);
    auto* real = new QFrame;
    real->setProperty("role", "panel");
    auto* column = new QVBoxLayout(real);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(new CutterPanel(*machine_));
    sides_->addWidget(real);
    sides_->setFixedWidth(304);
    layout->addWidget(sides_, 1, 2);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(1, 1);
    connect(run_, &GuidedRun::changed, this, [this] {
        if (run_->isDone() && !run_->errors().lines.empty())
            done_[run_->sheetNumber()] = run_->errors().largest;
        listSheets();
        showPrompt();
    });
    connect(&document, &Document::jobChanged, this, [this] {
        done_.clear();
        showPrompt();
    });
    connect(steps_, &StepPanel::aimed, view_, &RunView::aim);
    connect(steps_, &StepPanel::resultWanted, view_, [this](bool errors) {
        view_->setResult(errors ? RunView::Result::errors : RunView::Result::stickers);
    });
    connect(machine_, &MachineRun::changed, view_, [this] {
        const bool isTouching = sides_->currentIndex() == 1 &&
                                machine_->state() == MachineRun::State::marks &&
                                machine_->current() < machine_->marks().size();
        view_->aim(isTouching ? std::optional(machine_->marks()[machine_->current()].expected)
                              : std::nullopt);
    });
    listSheets();
    showPrompt();
}

QWidget* RunPlace::makeSide() {
    auto* side = new QFrame;
    side->setProperty("role", "panel");
    side->setFixedWidth(220);
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(10, 10, 10, 10);
    layout->setSpacing(6);
    auto* head = new QLabel(tr("Sheets"));
    head->setProperty("role", "heading");
    layout->addWidget(head);
    nameControl(*sheets_, N_("Sheets"), N_("Which sheet is printed and cut"), " of the run");
    connect(sheets_, &QListWidget::itemActivated, this,
            [this](QListWidgetItem* item) { chooseSheet(std::size_t(sheets_->row(item))); });
    connect(sheets_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (std::size_t(sheets_->row(item)) != run_->sheetNumber())
            chooseSheet(std::size_t(sheets_->row(item)));
    });
    sheets_->setWordWrap(true);
    sheets_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    sheets_->setFrameShape(QFrame::NoFrame);
    layout->addWidget(sheets_, 1);
    machines_->addItems({tr("Simulated"), tr("Of the profile")});
    layout->addWidget(
        labelOf(*machines_, N_("Cutter"),
                N_("Simulated, to rehearse; or the one that the machine profile has a connection to"),
                " of the run"));
    layout->addWidget(machines_);
    connect(machines_, &QComboBox::activated, this, [this](int which) { useMachine(which == 1); });
    layout->addWidget(labelOf(*kinds_, N_("Lines"), N_("All lines of the sheet are cut, or one kind alone"),
                              " of the run"));
    layout->addWidget(kinds_);
    connect(kinds_, &QComboBox::activated, this, [this](int which) {
        run_->chooseKind(which == 0 ? std::nullopt
                                    : std::optional(LineKind(kinds_->itemData(which).toInt())));
    });
    for (const double times : speeds)
        speed_->addItem(times == 1 ? tr("As fast as the machine") : tr("%1 times as fast").arg(int(times)));
    layout->addWidget(
        labelOf(*speed_, N_("Speed"), N_("How fast the head moves in the window"), " of the run"));
    layout->addWidget(speed_);
    connect(speed_, &QComboBox::activated, this,
            [this](int which) { run_->setSpeed(speeds[std::size_t(which)]); });
    for (const TrainingFault fault : trainingFaults)
        fault_->addItem(tr(englishNameOf(fault)));
    layout->addWidget(labelOf(*fault_, N_("Training"),
                              N_("Something that goes wrong, to see how it is noticed"), " of the run"));
    layout->addWidget(fault_);
    connect(fault_, &QComboBox::activated, this,
            [this](int which) { run_->setFault(trainingFaults[std::size_t(which)]); });
    return side;
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

void RunPlace::chooseSheet(std::size_t sheet) {
    run_->choose(sheet);
    if (sides_->currentIndex() == 1)
        machine_->choose(sheet);
}

void RunPlace::useMachine(bool isReal) {
    sides_->setCurrentIndex(isReal ? 1 : 0);
    machines_->setCurrentIndex(isReal ? 1 : 0);
    for (QWidget* control : std::initializer_list<QWidget*>{kinds_, speed_, fault_})
        control->setEnabled(!isReal);
    run_->choose(run_->sheetNumber());
    if (isReal)
        machine_->choose(run_->sheetNumber());
    else
        view_->aim({});
    listSheets();
    showPrompt();
}

/// With the kinds of line that each holds, and how it went.
void RunPlace::listSheets() {
    const Made* made = run_->made().get();
    const std::size_t count = made ? made->layout.sheets.size() : 0;
    while (sheets_->count() > int(count))
        delete sheets_->takeItem(sheets_->count() - 1);
    while (sheets_->count() < int(count))
        sheets_->addItem(new QListWidgetItem);
    for (std::size_t i = 0; i < count; ++i) {
        QStringList kinds;
        for (const LineKind kind : kindsOn(*made, made->layout.sheets[i]))
            kinds << nameOf(kind);
        const auto done = done_.find(i);
        const bool isNow = i == run_->sheetNumber();
        QString text = (run_->job()->plan.medium.isRoll() ? tr("Roll %1") : tr("Sheet %1")).arg(i + 1) +
                       ": " + (kinds.isEmpty() ? tr("print only") : kinds.join(", ")) + "\n";
        text += isNow && sides_->currentIndex() == 1 ? tr("on your machine")
                : isNow && !run_->isDone()           ? nameOf(run_->step())
                : done != done_.end()
                    ? tr("cut, %1 mm off at most").arg(QLocale().toString(done->second, 'f', 2))
                    : tr("waiting");
        sheets_->item(int(i))->setText(text);
        sheets_->item(int(i))->setToolTip(text);
    }
    if (count > 0)
        sheets_->setCurrentRow(int(run_->sheetNumber()));
    fault_->setCurrentIndex(int(run_->fault()));
    listKinds();
}

void RunPlace::showPrompt() {
    if (run_->hasInterrupted())
        return prompt_->say(run_->interruptedText(), tr("Go on with it"), [this] {
            run_->goOnWithInterrupted([this](const QString& why) {
                if (!why.isEmpty())
                    Q_EMIT told(why);
            });
        });
    if (!run_->sheet())
        return prompt_->say(tr("Nothing is laid out yet."), tr("Go to Stickers"),
                            [this] { Q_EMIT stickersWanted(); });
    if (run_->isOfOlderJob())
        return prompt_->say(
            tr("The job has changed since this sheet was printed: it is cut as it was printed."),
            tr("Print again"), [this] { run_->choose(run_->sheetNumber()); });
    if (sides_->currentIndex() == 1)
        return prompt_->say(tr("The cut goes to your machine, tool by tool."));
    prompt_->say(tr("Rehearse the sheet on simulated machines before it goes to yours."));
}

} // namespace hasami
