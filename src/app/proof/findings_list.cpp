#include "app/proof/findings_list.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr std::size_t mostRows = 200;

QString signOf(Severity severity) {
    return severity == Severity::error ? "■" : severity == Severity::warning ? "▲" : "●";
}

QString wordOf(Severity severity) {
    return severity == Severity::error     ? tr("Error")
           : severity == Severity::warning ? tr("Warning")
                                           : tr("Note");
}

} // namespace

FindingsList::FindingsList(Document& document, FindingsWatch& watch, QWidget* parent)
    : QScrollArea(parent), document_(document), watch_(watch), page_(new QWidget),
      rows_(new QVBoxLayout(page_)) {
    setObjectName("Findings");
    setAccessibleName(tr("Findings"));
    setProperty("role", "panel");
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedWidth(292);
    rows_->setContentsMargins(10, 10, 10, 10);
    rows_->setSpacing(8);
    setWidget(page_);
    connect(&watch, &FindingsWatch::changed, this, [this] {
        isStale_ = true;
        if (isVisible())
            showFindings();
    });
}

void FindingsList::showEvent(QShowEvent* event) {
    if (isStale_)
        showFindings();
    QScrollArea::showEvent(event);
}

QWidget* FindingsList::rowOf(const Finding& finding, int number) {
    auto* row = new QWidget;
    auto* layout = new QVBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 4);
    layout->setSpacing(4);
    const Design* design = document_.job().find(finding.design);
    const QString head = signOf(finding.severity) + "  " + wordOf(finding.severity) +
                         (design          ? " · " + QString::fromStdString(design->name)
                          : finding.sheet ? " · " + tr("Sheet %1").arg(*finding.sheet + 1)
                                          : QString());
    auto* show = new QPushButton;
    show->setObjectName("Show finding " + QString::number(number));
    show->setProperty("role", "finding");
    show->setText(fontMetrics().elidedText(head, Qt::ElideRight, width() - 60));
    show->setToolTip(tr("Shows the place"));
    show->setAccessibleName(head);
    connect(show, &QPushButton::clicked, this,
            [this, number] { Q_EMIT chosen(shown_.at(std::size_t(number))); });
    auto* text = new QLabel(QString::fromStdString(finding.text) + ".");
    text->setObjectName("Finding " + QString::number(number));
    text->setWordWrap(true);
    text->setTextInteractionFlags(Qt::TextSelectableByMouse);
    layout->addWidget(show);
    layout->addWidget(text);
    if (finding.fix) {
        auto* fix = new QPushButton(QString::fromStdString(finding.fix->label));
        fix->setObjectName("Fix " + QString::number(number));
        fix->setProperty("role", "small");
        fix->setToolTip(tr("Changes the job so that this is gone; undo takes it back"));
        connect(fix, &QPushButton::clicked, this, [this, number] {
            const Finding finding = shown_.at(std::size_t(number));
            if (const auto why = watch_.fix(finding))
                Q_EMIT told(*why + ".");
        });
        auto* side = new QHBoxLayout;
        side->addWidget(fix);
        side->addStretch(1);
        layout->addLayout(side);
    }
    return row;
}

void FindingsList::showFindings() {
    isStale_ = false;
    shown_ = watch_.findings();
    while (QLayoutItem* item = rows_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater(); // one of its buttons may just be pressed
        delete item;
    }
    auto* head = new QLabel(shown_.empty() ? tr("Nothing is wrong.")
                                           : counted(shown_.size(), "%1 finding", "%1 findings"));
    head->setObjectName("Findings count");
    head->setProperty("role", "heading");
    rows_->addWidget(head);
    for (std::size_t i = 0; i < std::min(shown_.size(), mostRows); ++i)
        rows_->addWidget(rowOf(shown_[i], int(i)));
    if (shown_.size() > mostRows)
        rows_->addWidget(new QLabel(tr("and %1 more").arg(shown_.size() - mostRows)));
    rows_->addStretch(1);
}

} // namespace hasami
