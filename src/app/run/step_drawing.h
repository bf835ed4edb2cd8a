#pragma once

#include "app/document/guided_run.h"

#include <QWidget>

namespace hasami {

/// A small drawing of what the operator does in a step.
class StepDrawing : public QWidget {
    Q_OBJECT
public:
    explicit StepDrawing(QWidget* parent = nullptr);

    void showStep(RunStep step, bool isWrong);
    QSize sizeHint() const override { return {264, 132}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    RunStep step_ = RunStep::print;
    bool isWrong_ = false;
};

} // namespace hasami
