#pragma once

#include "app/document/guided_run.h"
#include "app/document/machine_run.h"
#include "app/run/run_view.h"

#include <QElapsedTimer>
#include <QWidget>

class QComboBox;
class QStackedWidget;

namespace hasami {

class PromptLine;
class QueuePanel;
class StepPanel;

/// The fourth place: sheets are printed and cut on simulated machines, or cut on the profile's, step by step.
class RunPlace : public QWidget {
    Q_OBJECT
public:
    RunPlace(Document& document, RunQueue& queue, QWidget* parent = nullptr);

    RunView& view() { return *view_; }
    GuidedRun& run() { return *run_; }
    MachineRun& machine() { return *machine_; }
    /// The steps on the machine of the profile, or on simulated ones.
    void useMachine(bool isReal);

Q_SIGNALS:
    void stickersWanted();
    void told(const QString& sentence);

private:
    QWidget* makeSettings();
    QWidget* makeSteps();
    bool isReal() const;
    void listKinds();
    void showPrompt();
    void showRun();
    bool isOnMachine() const; ///< the sheet that is run
    std::optional<Point> placeOnMachine() const;
    void showMachine();
    void loadMachine();

    Document& document_;
    RunQueue& queue_;
    GuidedRun* run_;
    MachineRun* machine_;
    PromptLine* prompt_;
    QComboBox *machines_, *kinds_, *speed_, *fault_;
    RunView* view_;
    QStackedWidget* sides_; ///< the steps on simulated machines, or on the profile's
    StepPanel* steps_;
    QueuePanel* queued_;
    std::string loaded_;        ///< the entry whose sheet lies in the profile's cutter; empty: none yet
    QElapsedTimer sinceLoaded_; ///< into it
    bool isNoted_ = false;      ///< that it has cut the sheet
};

} // namespace hasami
