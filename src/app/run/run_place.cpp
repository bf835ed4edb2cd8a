#include "app/run/run_place.h"

#include "app/kit/named.h"
#include "app/kit/prompt_line.h"
#include "app/paint/line_names.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QListWidget>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr std::array speeds{1.0, 4.0, 16.0, 64.0}; // of the machine's own

} // namespace

RunPlace::RunPlace(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), run_(new GuidedRun(document, this)), prompt_(new PromptLine),
      sheets_(new QListWidget), speed_(new QComboBox), fault_(new QComboBox), view_(new RunView(*run_)),
      steps_(new StepPanel(*run_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(makeSide(), 1, 0);
    layout->addWidget(view_, 1, 1);
    layout->addWidget(steps_, 1, 2);
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(1, 1);
    connect(run_, &GuidedRun::changed, this, [this] {
        if (run_->isDone() && !run_->errors().lines.empty())
            done_[run_->sheetNumber()] = run_->errors().largest;
        listSheets();
        showPrompt();
    });
    connect(&document, &Document::jobChanged, this, [this] { done_.clear(); });
    connect(steps_, &StepPanel::aimed, view_, &RunView::aim);
    connect(steps_, &StepPanel::resultWanted, view_, [this](bool errors) {
        view_->setResult(errors ? RunView::Result::errors : RunView::Result::stickers);
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
            [this](QListWidgetItem* item) { run_->choose(std::size_t(sheets_->row(item))); });
    connect(sheets_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (std::size_t(sheets_->row(item)) != run_->sheetNumber())
            run_->choose(std::size_t(sheets_->row(item)));
    });
    sheets_->setWordWrap(true);
    sheets_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    sheets_->setFrameShape(QFrame::NoFrame);
    layout->addWidget(sheets_, 1);
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
        text += isNow && !run_->isDone() ? nameOf(run_->step())
                : done != done_.end()
                    ? tr("cut, %1 mm off at most").arg(QLocale().toString(done->second, 'f', 2))
                    : tr("waiting");
        sheets_->item(int(i))->setText(text);
        sheets_->item(int(i))->setToolTip(text);
    }
    if (count > 0)
        sheets_->setCurrentRow(int(run_->sheetNumber()));
    fault_->setCurrentIndex(int(run_->fault()));
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
    prompt_->say(tr("Rehearse the sheet on simulated machines before it goes to yours."));
}

} // namespace hasami
