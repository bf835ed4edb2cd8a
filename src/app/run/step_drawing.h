#pragma once

#include "run/run_plan.h"

#include <QWidget>

namespace hasami {

/// A small drawing of what the operator does in a step.
class StepDrawing : public QWidget {
    Q_OBJECT
public:
    explicit StepDrawing(QWidget* parent = nullptr);

    /// `isThrough`: the medium is cut through.
    void showStep(RunTask task, bool isThrough, bool isWrong);
    QSize sizeHint() const override { return {264, 132}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    RunTask task_ = RunTask::print;
    bool isThrough_ = false, isWrong_ = false;
};

} // namespace hasami
