#pragma once

#include "app/document/guided_run.h"
#include "app/run/run_view.h"

#include <QWidget>

class QComboBox;
class QListWidget;

namespace hasami {

class PromptLine;
class StepPanel;

/// The fourth place: a sheet is printed and cut on simulated machines, step by step.
class RunPlace : public QWidget {
    Q_OBJECT
public:
    explicit RunPlace(Document& document, QWidget* parent = nullptr);

    RunView& view() { return *view_; }
    GuidedRun& run() { return *run_; }

Q_SIGNALS:
    void stickersWanted();
    void told(const QString& sentence);

private:
    QWidget* makeSide();
    void listSheets();
    void showPrompt();

    Document& document_;
    GuidedRun* run_;
    PromptLine* prompt_;
    QListWidget* sheets_;
    QComboBox *speed_, *fault_;
    RunView* view_;
    StepPanel* steps_;
    std::map<std::size_t, double> done_; ///< sheets that were cut, and how far off the print at most
};

} // namespace hasami
