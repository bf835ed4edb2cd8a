#pragma once

#include "app/document/document.h"
#include "app/stickers/inks_page.h"
#include "sticker/recipe_step.h"

#include <QFrame>

#include <map>

class QLabel;
class QStackedWidget;

namespace hasami {

class ItemHand;
class LetteringHand;
class StepPage;
class TouchUpHand;

/// The controls of the step that is selected in the making strip, and only those.
class StepSheet : public QFrame {
    Q_OBJECT
public:
    StepSheet(Document& document, TouchUpHand& hand, ItemHand& items, LetteringHand& lettering,
              QWidget* parent = nullptr);

    void setStep(RecipeStep step);

    /// Lets one type another name for the design.
    void editName();

    /// Steps the main number of the selected step, as its slider's arrow keys do.
    void stepMainNumber(int by);

    /// The same for its second number, where it has one.
    bool hasSecondNumber() const;
    void stepSecondNumber(int by);

    /// For the ink that is chosen on its page.
    void takeInkColour(Rgba colour);

Q_SIGNALS:
    void moreArtworkWanted();
    void pictureWanted();              ///< to be shown inside the artwork held
    void lineChosen(std::size_t line); ///< of the recipe, on its page
    void bleedShown(bool isShown);     ///< whether the bench shows the bleed
    void lookChanged(hasami::MediumLook look);

protected:
    void showEvent(QShowEvent* event) override;

private:
    StepPage& page() const { return *pages_.at(step_).page; }
    StepPage* makePage(RecipeStep step);
    void showJob(); ///< on the page that is seen: the others follow when they are

    Document& document_;
    RecipeStep step_ = RecipeStep::cutLines;
    TouchUpHand& hand_;
    ItemHand& items_;
    LetteringHand& lettering_;
    QLabel* heading_;
    QStackedWidget* stack_;
    struct Page {
        StepPage* page;
        QWidget* scrolled;
    };
    std::map<RecipeStep, Page> pages_; ///< each is made when it is first seen
};

} // namespace hasami
