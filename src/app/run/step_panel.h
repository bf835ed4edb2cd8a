#pragma once

#include "app/runs/run_control.h"

#include <QScrollArea>

#include <map>
#include <vector>

class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QVBoxLayout;

namespace hasami {

class MarkLens;
class QuantityField;
class StepDrawing;
class TestCutPanel;

/// The steps of the run, what is to be done in the present one, and one button for the next thing. What else
/// can be done now has a smaller button of its own, as the run's model offers it.
class StepPanel : public QScrollArea {
    Q_OBJECT
public:
    explicit StepPanel(RunControl& run, QWidget* parent = nullptr);

Q_SIGNALS:
    void aimed(std::optional<Point> place); ///< what the operator looks for on the bed
    void resultWanted(bool errors);         ///< where lines lie off the print, or the stickers

private:
    QPushButton* addButton(const char* name, const char* effect, const std::function<void()>& act);
    QWidget* makePrints();
    QWidget* makePosition();
    QWidget* makeFirstLine();
    QString instruction() const;
    QString instructionOnMarks() const;
    QString instructionOnTool() const;
    QString instructionOnCut() const;
    QString instructionWhenDone() const;
    QString progressText() const;
    QString mainText() const;
    QString factsText() const;
    QString nameOf(RunStep step) const;
    QString kindsOf(std::size_t pass) const;
    void showRun();
    void showSteps();
    void offer(QWidget& button, bool isOffered);
    void showNext();
    void showActions();
    void showPlacing();
    void showTest();
    void showProgress();
    void listPrints();
    void goOn();
    void placeByHand();
    void setMark();
    void takeTyped();
    std::optional<Point> aim() const;

    RunControl& run_;
    QVBoxLayout *layout_, *rows_;
    std::vector<QLabel*> steps_; ///< a row for each
    QLabel *what_, *trouble_, *facts_;
    StepDrawing* drawing_;
    QPushButton* next_;
    std::map<RunAction, QPushButton*> actions_;
    QPushButton *found_, *hand_, *test_, *typed_, *errors_;
    QWidget* putIn_; ///< which of several printed sheets is put in
    QComboBox* prints_;
    QWidget* position_; ///< of a mark that is touched
    QuantityField *x_, *y_;
    QWidget* first_; ///< the line with which a stopped pass continues
    QuantityField* line_;
    TestCutPanel* tests_;
    QProgressBar* progress_;
    MarkLens* lens_;
    bool wasCutting_ = false, waitsForNext_ = false;
    std::optional<int> placed_; ///< the mark that is placed by hand
};

/// "5 s", "3 min 07 s".
QString timeText(double seconds);

} // namespace hasami
