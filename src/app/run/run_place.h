#pragma once

#include "app/run/run_view.h"
#include "app/runs/run_control.h"

#include <QWidget>

class QComboBox;

namespace hasami {

class PromptLine;
class QueuePanel;
class StepPanel;

/// The fourth place: sheets are printed and cut, step by step, on the machine that is chosen.
class RunPlace : public QWidget {
    Q_OBJECT
public:
    RunPlace(Document& document, RunQueue& queue, QWidget* parent = nullptr);

    RunView& view() { return *view_; }
    RunControl& run() { return *run_; }

Q_SIGNALS:
    void stickersWanted();
    void messageRaised(const QString& sentence);

private:
    QWidget* makeSettings();
    void listKinds();
    void showPrompt();
    void showRun();

    Document& document_;
    RunQueue& queue_;
    RunControl* run_;
    PromptLine* prompt_;
    QComboBox *machines_, *kinds_, *speed_, *fault_;
    RunView* view_;
    StepPanel* steps_;
    QueuePanel* queued_;
};

} // namespace hasami
