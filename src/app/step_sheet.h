#pragma once

#include "app/document.h"
#include "app/recipe_step.h"

#include <QFrame>

#include <array>

class QLabel;
class QStackedWidget;

namespace hasami {

class ArtworkPage;
class BleedPage;
class CutLinesPage;
class InksPage;
class ItemHand;
class StepPage;
class TouchUpHand;

/// The controls of the step that is selected in the making strip, and only those.
class StepSheet : public QFrame {
    Q_OBJECT
public:
    StepSheet(Document& document, TouchUpHand& hand, ItemHand& items, QWidget* parent = nullptr);

    void setStep(RecipeStep step);

    /// Lets one type another name for the design.
    void editName();

    /// Steps the main number of the selected step, as its slider's arrow keys do.
    void stepMainNumber(int by);

    /// The same for its second number, where it has one.
    bool hasSecondNumber() const;
    void stepSecondNumber(int by);

    CutLinesPage& cutLines() const { return *cutLines_; }
    BleedPage& bleed() const { return *bleed_; }
    InksPage& inks() const { return *inks_; }

Q_SIGNALS:
    void moreArtworkWanted();

private:
    StepPage& page() const { return *byStep_[std::size_t(step_)]; }
    void showJob();

    Document& document_;
    RecipeStep step_ = RecipeStep::cutLines;
    QLabel* heading_;
    QStackedWidget* pages_;
    ArtworkPage* artwork_;
    CutLinesPage* cutLines_;
    BleedPage* bleed_;
    InksPage* inks_;
    std::array<StepPage*, recipeSteps.size()> byStep_;
};

} // namespace hasami
