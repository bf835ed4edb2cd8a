#include "app/run/history_dialog.h"

#include "app/kit/named.h"
#include "app/run/step_panel.h"
#include "app/words/words.h"

#include <QDateTime>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace hasami {

namespace {

enum Column { ended, sheet, work, machine, took, lines, off, trouble, columns };

QString sheetText(const PastRun& run) {
    QString text = QString::fromStdString(run.job) + " · " + tr("sheet %1").arg(run.sheet + 1);
    if (run.copies > 1)
        text += " · " + tr("copy %1 of %2").arg(run.copy + 1).arg(run.copies);
    return text;
}

QString cellText(const PastRun& run, int column) {
    const QLocale locale;
    const QDateTime ended = QDateTime::fromSecsSinceEpoch(run.ended);
    switch (column) {
    case Column::ended:
        return locale.toString(ended.date(), QLocale::ShortFormat) + " " + ended.time().toString("HH:mm");
    case sheet:
        return sheetText(run);
    case work:
        return tr(englishNameOf(run.work));
    case machine:
        return run.isSimulated ? tr("Simulated") : tr("Cutter");
    case took:
        return timeText(run.seconds);
    case lines:
        return run.lines > 0 ? locale.toString(qulonglong(run.lines)) : QString();
    case off:
        return run.largest ? locale.toString(*run.largest, 'f', 2) + " mm" : QString();
    default:
        return QString::fromStdString(run.trouble);
    }
}

} // namespace

HistoryDialog::HistoryDialog(RunQueue& queue, QWidget* parent)
    : QDialog(parent), queue_(queue), summary_(new QLabel), detail_(new QLabel), table_(new QTableWidget) {
    setWindowTitle(tr("History of the runs"));
    resize(1040, 480);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(summary_);
    nameControl(*table_, N_("History"), N_("The runs that have ended, the newest first"), " of the runs");
    table_->setColumnCount(columns);
    table_->setHorizontalHeaderLabels({tr("Ended"), tr("Sheet"), tr("Work"), tr("Machine"), tr("Time"),
                                       tr("Lines"), tr("Off the print"), tr("What was wrong")});
    table_->setEditTriggers(QTableWidget::NoEditTriggers);
    table_->setSelectionBehavior(QTableWidget::SelectRows);
    table_->setShowGrid(false);
    table_->setWordWrap(false);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(sheet, QHeaderView::Interactive);
    table_->horizontalHeader()->setSectionResizeMode(trouble, QHeaderView::Stretch);
    table_->setColumnWidth(sheet, 230);
    table_->setStyleSheet("QTableView::item, QHeaderView::section { padding: 2px 8px; }");
    table_->horizontalHeader()->setHighlightSections(false);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    layout->addWidget(table_, 1);
    detail_->setObjectName("History detail");
    detail_->setWordWrap(true);
    detail_->setMinimumHeight(2 * fontMetrics().height());
    layout->addWidget(detail_);
    connect(table_, &QTableWidget::itemSelectionChanged, this, &HistoryDialog::showDetail);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    clear_ = buttons->addButton(tr("Clear the history…"), QDialogButtonBox::DestructiveRole);
    clear_->setObjectName("Clear history");
    layout->addWidget(buttons);
    connect(clear_, &QPushButton::clicked, this, &HistoryDialog::clear);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(&queue, &RunQueue::historyChanged, this, &HistoryDialog::readAgain);
    showRuns({});
    readAgain();
}

void HistoryDialog::readAgain() {
    queue_.readHistory(this, [this](const std::vector<PastRun>& runs) { showRuns(runs); });
}

void HistoryDialog::showRuns(const std::vector<PastRun>& runs) {
    std::size_t good = 0;
    for (const PastRun& run : runs)
        good += run.trouble.empty() ? 1 : 0;
    summary_->setText(runs.empty() ? tr("No run has ended yet.")
                                   : counted(runs.size(), "%1 run", "%1 runs") + ", " +
                                         tr("%1 without trouble").arg(good));
    clear_->setEnabled(!runs.empty());
    table_->setRowCount(int(runs.size()));
    for (std::size_t i = 0; i < runs.size(); ++i)
        for (int column = 0; column < columns; ++column) {
            auto* cell = new QTableWidgetItem(cellText(runs[i], column));
            const bool isNumber = column == took || column == lines || column == off;
            cell->setTextAlignment((isNumber ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
            cell->setToolTip(cell->text());
            table_->setItem(int(i), column, cell);
        }
}

void HistoryDialog::showDetail() {
    const QTableWidgetItem* cell = table_->item(table_->currentRow(), trouble);
    detail_->setText(cell && !cell->text().isEmpty() ? "▲ " + cell->text() + "." : QString());
}

void HistoryDialog::clear() {
    if (QMessageBox::question(this, "Hasami", tr("Clear the whole history? This can't be undone."),
                              QMessageBox::Yes | QMessageBox::No, QMessageBox::No) == QMessageBox::Yes)
        queue_.clearHistory();
}

} // namespace hasami
