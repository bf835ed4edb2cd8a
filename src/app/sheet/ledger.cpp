#include "app/sheet/ledger.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "checks/costs.h"
#include "sheet/conflicts.h"
#include "workshop/route_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <cmath>

namespace hasami {

namespace {

QString metres(double millimetres) {
    return QLocale().toString(millimetres / 1000, 'f', 2) + " m";
}

QString money(double amount) {
    return QLocale::system().toCurrencyString(amount);
}

QString percent(double share) {
    return QLocale().toString(share * 100, 'f', 1) + " %";
}

} // namespace

/// What takes a moment to find: of all sheets together.
struct Ledger::Costs {
    SheetCosts sum;
    std::optional<OneMore> oneMore;
};

namespace {

SheetCosts sumOfCosts(const Job& job, const Made& made, const std::stop_token& stop) {
    SheetCosts sum;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        const SheetCosts costs = costsOf(job, made, i, programOf(job, made, made.layout.sheets[i], {}, stop));
        for (const auto& [kind, length] : costs.cutLength)
            sum.cutLength[kind] += length;
        sum.minutes += costs.minutes;
    }
    return sum;
}

} // namespace

Ledger::Ledger(Document& document, OutputWriter& writer, const NestRun& nest, QWidget* parent)
    : QFrame(parent), document_(document), writer_(writer), nest_(nest), result_(new QLabel),
      top_(new QStackedWidget), queue_(new QPushButton(tr("Add to queue"))), outputs_(new QPushButton),
      writeAll_(new QPushButton(tr("Write all"))), stop_(new QPushButton(tr("Stop"))) {
    setProperty("role", "panel");
    top_->addWidget(makeFigures());
    top_->addWidget(makeCollisions());
    outputs_->setCheckable(true);
    outputs_->setObjectName("Outputs");
    outputs_->setToolTip(tr("What is written of this job: formats, folder, names, contents"));
    writeAll_->setObjectName("Write all");
    writeAll_->setProperty("role", "next");
    writeAll_->setToolTip(tr("Write all outputs of the job, or write them again (Ctrl+Shift+W)"));
    queue_->setObjectName("Add to queue");
    queue_->setToolTip(
        tr("Adds the sheets as they are now to the queue, to be printed and cut in Run (Ctrl+Shift+R)"));
    stop_->setObjectName("Stop writing");
    stop_->setToolTip(tr("Stop writing; no incomplete file is left"));
    result_->setObjectName("Write result");
    result_->setProperty("role", "quiet");
    result_->setTextInteractionFlags(Qt::TextSelectableByMouse);

    auto* bottom = new QHBoxLayout;
    bottom->addWidget(result_, 1);
    bottom->addWidget(stop_);
    bottom->addWidget(queue_);
    bottom->addWidget(outputs_);
    bottom->addWidget(writeAll_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 10, 16, 10);
    layout->setSpacing(6);
    layout->addWidget(top_);
    layout->addLayout(bottom);

    connect(writeAll_, &QPushButton::clicked, this, &Ledger::writeAllWanted);
    connect(queue_, &QPushButton::clicked, this, &Ledger::queueWanted);
    connect(outputs_, &QPushButton::toggled, this, &Ledger::showWriter);
    connect(stop_, &QPushButton::clicked, &writer, &OutputWriter::stop);
    constexpr int mostStale = 300; // ms
    late_.setSingleShot(true);
    late_.setInterval(mostStale);
    connect(&late_, &QTimer::timeout, this, [this] {
        for (QLabel* figure : {oneMore_, cut_, minutes_})
            figure->setText("…");
    });
    connect(&document, &Document::madeChanged, this, &Ledger::showMade);
    connect(&document, &Document::selectionChanged, this, &Ledger::showMade);
    connect(&nest, &NestRun::changed, this, &Ledger::showLayout);
    connect(&writer, &OutputWriter::changed, this, &Ledger::showWriter);
    showMade();
    showWriter();
}

QWidget* Ledger::makeFigures() {
    auto* row = new QWidget;
    auto* figures = new QHBoxLayout(row);
    figures->setContentsMargins(0, 0, 0, 0);
    figures->setSpacing(18);
    used_ = addFigure(figures, N_("Length used"), N_("From the leading edge to behind the last mark"));
    covered_ = addFigure(figures, N_("Covered"), N_("How much of the medium used lies inside cut lines"));
    saved_ = addFigure(figures, N_("Saved against rows"),
                       N_("How much more of the medium plain rows of the same stickers would take"));
    area_ = addFigure(figures, N_("Medium"), N_("Its area used, and what that costs"));
    stickers_ = addFigure(figures, N_("Stickers"), N_("On all sheets"));
    left_ = addFigure(figures, N_("Left over"), N_("Of the last sheet's length, for other work"));
    oneMore_ = addFigure(figures, N_("One more"),
                         N_("What one more of the selected design would take of the medium"));
    cut_ = addFigure(figures, N_("Cut length"), N_("Of all lines together"));
    minutes_ = addFigure(figures, N_("Cutting"), N_("An estimate by the machine's speeds"));
    figures->addStretch(1);
    return row;
}

/// Sums over stickers that lie on each other, or beside the medium, would say nothing.
QWidget* Ledger::makeCollisions() {
    auto* row = new QWidget;
    auto* side = new QHBoxLayout(row);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(18);
    collisions_ = new QLabel;
    collisions_->setObjectName("Collisions");
    collisions_->setProperty("role", "trouble");
    auto* again = new QPushButton(tr("Lay out again"));
    again->setObjectName("Lay out again");
    again->setToolTip(
        tr("Lays all but well-placed pinned stickers out in rows again, on as many sheets as needed"));
    side->addWidget(collisions_);
    side->addWidget(again);
    side->addStretch(1);
    connect(again, &QPushButton::clicked, this, &Ledger::layoutWanted);
    return row;
}

QLabel* Ledger::addFigure(QHBoxLayout* layout, const char* name, const char* meaning) {
    auto* value = new QLabel;
    nameControl(*value, name, meaning, " figure");
    value->setProperty("role", "figure");
    auto* label = new QLabel(tr(name));
    label->setProperty("role", "quiet");
    label->setToolTip(tr(meaning));
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    column->addWidget(label);
    column->addWidget(value);
    layout->addLayout(column);
    return value;
}

/// Of what a nest has found so far, while one is on.
void Ledger::showLayout() {
    if (!document_.isMade())
        return; // what was said before stands until the new layout is there
    const Made& made = *document_.made();
    const Layout& shown = nest_.best() ? *nest_.best() : made.layout;
    top_->setCurrentIndex(shown.conflicts.empty() ? 0 : 1);
    if (!shown.conflicts.empty()) {
        const std::size_t count = misplaced(shown).size();
        collisions_->setText(
            counted(count, "%1 sticker lies where it can't be cut: the figures follow once it has a place.",
                    "%1 stickers lie where they can't be cut: the figures follow once each has a place."));
        return;
    }
    const Medium& medium = document_.job().plan.medium;
    const LayoutCosts costs = layoutCosts(document_.job(), made, shown);
    const auto length = [this](double value) {
        return quantityText(value, QuantityKind::length, document_.job().unit);
    };
    const bool isEmpty = shown.sheets.empty();
    used_->setText(length(costs.usedLength) +
                   (isEmpty || (medium.isRoll() && shown.sheets.size() == 1)
                        ? QString()
                        : " · " + (medium.isRoll() ? counted(shown.sheets.size(), "%1 roll", "%1 rolls")
                                                   : counted(shown.sheets.size(), "%1 sheet", "%1 sheets"))));
    covered_->setText(percent(costs.density));
    saved_->setText(isEmpty || std::abs(costs.savedLength) < 0.005
                        ? QString("–")
                        : length(costs.savedLength) + " · " + percent(costs.savedShare) +
                              (costs.savedMoney ? " · " + money(*costs.savedMoney) : QString()));
    area_->setText(QLocale().toString(costs.area / 1e6, 'f', 3) + " m²" +
                   (costs.money ? " · " + money(*costs.money) : QString()));
    stickers_->setText(QString::number(shown.pieces()));
    left_->setText(!medium.whole() || isEmpty ? QString("–") : length(std::max(0.0, costs.leftOver)));
}

void Ledger::showMade() {
    showLayout();
    showWriter();
    // The route may take a moment, in which the figures of before stand.
    asked_.request_stop();
    if (!document_.isMade() || !isVisible())
        return;
    if (!late_.isActive())
        late_.start();
    asked_ = runInBackground(
        document_.background().figures, this, tr("The costs can't be computed"),
        [job = document_.sharedJob(), made = document_.made(),
         selected = document_.selected()](const std::stop_token& stop) {
            return Costs{sumOfCosts(*job, *made, stop), hasami::oneMore(*job, *made, selected, stop)};
        },
        [this](const Outcome<Costs>& costs) {
            if (costs.value)
                showCosts(*costs.value);
            else if (!costs.failure.empty()) {
                late_.stop();
                for (QLabel* figure : {oneMore_, cut_, minutes_}) {
                    figure->setText("–");
                    figure->setToolTip(QString::fromStdString(costs.failure));
                }
            }
        });
}

void Ledger::showEvent(QShowEvent* event) {
    QFrame::showEvent(event);
    showMade();
}

void Ledger::showCosts(const Costs& costs) {
    late_.stop();
    double cut = 0;
    for (const auto& [kind, length] : costs.sum.cutLength)
        cut += length;
    cut_->setText(metres(cut));
    minutes_->setText(QLocale().toString(costs.sum.minutes, 'f', 1) + " min");
    const auto& more = costs.oneMore;
    oneMore_->setText(!more ? QString("–")
                            : (more->length >= 0.005 ? "+" : "") +
                                  quantityText(more->length, QuantityKind::length, document_.job().unit) +
                                  (more->money ? " · " + money(*more->money) : QString()));
}

void Ledger::showWriter() {
    const bool working = writer_.state() == OutputWriter::State::working;
    const bool ready = !working && !document_.made()->layout.sheets.empty();
    const std::size_t count = document_.job().outputs.outputs.size();
    writeAll_->setEnabled(ready && count > 0);
    queue_->setEnabled(!document_.made()->layout.sheets.empty());
    outputs_->setText((outputs_->isChecked() ? "▾ " : "▸ ") + counted(count, "%1 output", "%1 outputs"));
    stop_->setVisible(working);
    result_->setText(writer_.text().isEmpty() ? tr("Nothing written yet") : writer_.text());
    setStyled(*result_, "role", writer_.state() == OutputWriter::State::failed ? "trouble" : "quiet");
}

} // namespace hasami
