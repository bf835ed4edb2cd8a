#pragma once

#include "app/document/guided_run.h"

#include <QScrollArea>

#include <array>

class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QVBoxLayout;

namespace hasami {

class MarkLens;
class StepDrawing;
class TestCutPanel;

/// The steps of the run, what is to be done in the present one, and one button for the next thing.
class StepPanel : public QScrollArea {
    Q_OBJECT
public:
    explicit StepPanel(GuidedRun& run, QWidget* parent = nullptr);

Q_SIGNALS:
    void aimed(std::optional<Point> place); ///< a mark that is placed by hand
    void resultWanted(bool errors);         ///< where lines lie off the print, or the stickers

private:
    struct Words {
        QString what, button;
        bool isEnabled = true;
    };
    Words wordsFor(RunStep step) const;
    Words wordsWhenDone() const;
    Words wordsOnPass() const;
    QString factsOf(RunStep step) const;
    void showRun();
    void showProgress();
    void showSteps();
    void goOn();
    void placeByHand();
    QPushButton* addButton(QVBoxLayout* layout, const char* name, const char* effect,
                           void (StepPanel::*act)());
    void stopPass();
    void loadAgain();
    void printAgain();
    void cutAgain();
    void setMark();
    void toggleErrors();
    void cancel();
    void cutFound();
    void cutNow();
    void listPrints();
    void cutTest();
    void showDrops();

    GuidedRun& run_;
    std::array<QLabel*, 7> steps_{}; ///< a row for each
    QLabel *what_, *trouble_, *facts_;
    StepDrawing* drawing_;
    QPushButton *next_, *cancel_, *found_, *cut_, *stop_, *load_, *print_, *again_, *hand_, *errors_, *test_;
    QWidget* putIn_; ///< which of several printed sheets is put in
    QComboBox* prints_;
    TestCutPanel* tests_;
    QProgressBar* progress_;
    MarkLens* lens_;
    std::optional<int> placed_; ///< the mark that is placed by hand
};

/// "Find marks": a step's name in the user's language.
QString nameOf(RunStep step);

/// "Die cut: put its tool into holder 2, its blade out by 0.50 mm."
QString toolSentence(LineKind kind, const Tool& tool);

/// "5 s", "3 min 07 s".
QString timeText(double seconds);

} // namespace hasami
