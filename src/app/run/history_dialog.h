#pragma once

#include "app/runs/run_queue.h"

#include <QDialog>

class QLabel;
class QPushButton;
class QTableWidget;

namespace hasami {

/// The runs that have ended, the newest first.
class HistoryDialog : public QDialog {
    Q_OBJECT
public:
    explicit HistoryDialog(RunQueue& queue, QWidget* parent = nullptr);

private:
    void readAgain();
    void showRuns(const std::vector<PastRun>& runs);
    void showDetail();
    void clear();

    RunQueue& queue_;
    QLabel *summary_, *detail_; ///< the whole of what was wrong in the selected run
    QTableWidget* table_;
    QPushButton* clear_;
};

} // namespace hasami
