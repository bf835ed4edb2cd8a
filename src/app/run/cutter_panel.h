#pragma once

#include "app/document/machine_run.h"

#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace hasami {

class QuantityField;
class TestCutPanel;

/// The steps of a cut on a real machine: marks touched by hand, then tool after tool.
class CutterPanel : public QWidget {
    Q_OBJECT
public:
    explicit CutterPanel(MachineRun& run, QWidget* parent = nullptr);

Q_SIGNALS:
    void forceTaken(double force);   ///< from a test cut, g
    void depthEntered(double depth); ///< of the blade, mm

private:
    QPushButton* addButton(const char* name, const char* effect, void (CutterPanel::*act)());
    QWidget* makePosition();
    QString whatToDo() const;
    bool areAllTouched() const;
    QString nextText() const;
    QString factsText() const;
    void showRun();
    void goOn();
    void takeTyped();
    void stop();
    void touchAgain();
    void withoutMarks();
    void acceptMarks();
    void cutAgain();
    void cutTest();
    QWidget* makeFirstLine();
    void showReady();

    MachineRun& run_;
    QLabel *what_, *trouble_, *facts_;
    QWidget* position_;
    QuantityField *x_, *y_;
    QWidget* first_; ///< the line with which a stopped pass continues
    QuantityField* line_;
    QPushButton *next_, *test_, *typed_, *without_, *again_, *accept_, *repeat_, *stop_;
    TestCutPanel* tests_;
    QProgressBar* progress_;
};

} // namespace hasami
