#include "app/ledger.h"

#include "app/quantity_field.h"
#include "app/work_aside.h"
#include "checks/costs.h"
#include "workshop/route_sheet.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStyle>
#include <QVBoxLayout>

namespace hasami {

namespace {

QString metres(double millimetres) {
    return QString::number(millimetres / 1000, 'f', 2) + " m";
}

/// Of all sheets together.
SheetCosts sumOfCosts(const Job& job, const Made& made) {
    SheetCosts sum;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        const SheetCosts costs = costsOf(job, made, i, routeOf(job, made, made.layout.sheets[i]));
        for (const auto& [kind, length] : costs.cutLength)
            sum.cutLength[kind] += length;
        sum.minutes += costs.minutes;
    }
    return sum;
}

} // namespace

Ledger::Ledger(Document& document, OutputWriter& writer, QWidget* parent)
    : QFrame(parent), document_(document), writer_(writer), result_(new QLabel),
      cutLines_(new QCheckBox("Cut lines in the print file")), print_(new QPushButton("Write print file…")),
      cutFile_(new QPushButton("Write cut file…")), stop_(new QPushButton("Stop")) {
    setProperty("role", "panel");
    auto* figures = new QHBoxLayout;
    figures->setSpacing(32);
    used_ = addFigure(figures, "Length used");
    area_ = addFigure(figures, "Medium");
    stickers_ = addFigure(figures, "Stickers");
    cut_ = addFigure(figures, "Cut length");
    minutes_ = addFigure(figures, "Cutting");
    figures->addStretch(1);
    cutLines_->setChecked(true);
    cutLines_->setObjectName("Cut lines in print");
    cutLines_->setToolTip(
        "With them, the printer's software finds the cut in the print file under its spot name; "
        "without, the file holds nothing but the print and the marks");
    print_->setObjectName("Write print file");
    print_->setToolTip("The stickers and marks as PDF, exact in size");
    cutFile_->setObjectName("Write cut file");
    cutFile_->setToolTip(
        "The cut lines, exact in size: as SVG with the marks, or as HPGL for the machine itself");
    stop_->setObjectName("Stop writing");
    stop_->setToolTip("Give up writing; nothing half-written is left");
    result_->setObjectName("Write result");
    result_->setProperty("role", "quiet");
    result_->setTextInteractionFlags(Qt::TextSelectableByMouse);

    auto* buttons = new QHBoxLayout;
    buttons->addWidget(cutLines_);
    buttons->addSpacing(12);
    buttons->addWidget(print_);
    buttons->addWidget(cutFile_);
    auto* top = new QHBoxLayout;
    top->addLayout(figures, 1);
    top->addLayout(buttons);
    auto* bottom = new QHBoxLayout;
    bottom->addWidget(result_, 1);
    bottom->addWidget(stop_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 10, 16, 10);
    layout->setSpacing(6);
    layout->addLayout(top);
    layout->addLayout(bottom);

    connect(print_, &QPushButton::clicked, this, &Ledger::printFileWanted);
    connect(cutFile_, &QPushButton::clicked, this, &Ledger::cutFileWanted);
    connect(stop_, &QPushButton::clicked, &writer, &OutputWriter::stop);
    connect(&document, &Document::madeChanged, this, &Ledger::showMade);
    connect(&writer, &OutputWriter::changed, this, &Ledger::showWriter);
    showMade();
    showWriter();
}

bool Ledger::withCutLines() const {
    return cutLines_->isChecked();
}

QLabel* Ledger::addFigure(QHBoxLayout* layout, const QString& name) {
    auto* value = new QLabel;
    value->setProperty("role", "figure");
    value->setObjectName(name + " figure");
    auto* label = new QLabel(name);
    label->setProperty("role", "quiet");
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    column->addWidget(label);
    column->addWidget(value);
    layout->addLayout(column);
    return value;
}

void Ledger::showMade() {
    const Layout& layout = document_.made()->layout;
    const double width = document_.job().plan.medium.width, length = layout.usedLength();
    const bool roll = document_.job().plan.medium.isRoll();
    used_->setText(quantityText(length, QuantityKind::length, document_.job().unit) +
                   (roll || layout.sheets.empty()
                        ? QString()
                        : " on " + counted(layout.sheets.size(), "sheet", "sheets")));
    area_->setText(QString::number(length * width / 1e6, 'f', 3) + " m²");
    stickers_->setText(QString::number(layout.pieces()));
    showWriter();
    // The way of the knife may take a moment: what was said before stands until it is known.
    if (document_.isMade())
        workAside(
            this, [job = document_.job(), made = document_.made()] { return sumOfCosts(job, *made); },
            [this, number = ++asked_](const SheetCosts& costs) {
                if (number == asked_)
                    showCosts(costs);
            });
}

void Ledger::showCosts(const SheetCosts& costs) {
    double cut = 0;
    for (const auto& [kind, length] : costs.cutLength)
        cut += length;
    cut_->setText(metres(cut));
    minutes_->setText(QString::number(costs.minutes, 'f', 1) + " min");
}

void Ledger::showWriter() {
    const bool working = writer_.state() == OutputWriter::State::working;
    const bool ready = !working && !document_.made()->layout.sheets.empty();
    print_->setEnabled(ready);
    cutFile_->setEnabled(ready);
    stop_->setVisible(working);
    result_->setText(writer_.text().isEmpty() ? QString("Nothing written yet") : writer_.text());
    result_->setProperty("role", writer_.state() == OutputWriter::State::failed ? "trouble" : "quiet");
    style()->unpolish(result_);
    style()->polish(result_);
}

} // namespace hasami
