#pragma once

#include "app/document/guided_run.h"
#include "app/document/machine_run.h"
#include "app/run/run_view.h"

#include <QWidget>

class QComboBox;
class QStackedWidget;
class QListWidget;

namespace hasami {

class CutterPanel;
class PromptLine;
class StepPanel;

/// The fourth place: a sheet is printed and cut on simulated machines, step by step.
class RunPlace : public QWidget {
    Q_OBJECT
public:
    explicit RunPlace(Document& document, QWidget* parent = nullptr);

    RunView& view() { return *view_; }
    GuidedRun& run() { return *run_; }
    MachineRun& machine() { return *machine_; }
    /// The steps on the machine of the profile, or on simulated ones.
    void useMachine(bool isReal);

Q_SIGNALS:
    void stickersWanted();
    void told(const QString& sentence);

private:
    QWidget* makeSide();
    void listSheets();
    void listKinds();
    void showPrompt();
    void chooseSheet(std::size_t sheet);

    Document& document_;
    GuidedRun* run_;
    MachineRun* machine_;
    PromptLine* prompt_;
    QListWidget* sheets_;
    QComboBox *machines_, *kinds_, *speed_, *fault_;
    RunView* view_;
    QStackedWidget* sides_; ///< the steps on simulated machines, or on the profile's
    StepPanel* steps_;
    std::map<std::size_t, double> done_; ///< sheets that were cut, and how far off the print at most
};

} // namespace hasami
