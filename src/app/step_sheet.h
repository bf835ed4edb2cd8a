#pragma once

#include "app/document.h"
#include "app/quantity_row.h"
#include "app/recipe_step.h"

#include <QFrame>

class QComboBox;
class QLabel;
class QLineEdit;
class QStackedWidget;

namespace hasami {

class EdgePage;

/// The controls of the step that is selected in the making strip, and only those.
class StepSheet : public QFrame {
    Q_OBJECT
public:
    explicit StepSheet(Document& document, QWidget* parent = nullptr);

    void setStep(RecipeStep step);

    /// Lets one type another name for the design.
    void editName();

    /// Steps the main number of the selected step, as its slider's arrow keys do.
    void stepMainNumber(int by);

    /// The same for its second number, where it has one.
    bool hasSecondNumber() const;
    void stepSecondNumber(int by);

private:
    QWidget* artworkPage();
    QWidget* cutLinesPage();
    void showJob();

    Document& document_;
    RecipeStep step_ = RecipeStep::cutLines;
    QLabel* heading_;
    QStackedWidget* pages_;
    EdgePage* edge_;
    QLineEdit* name_ = nullptr;
    QuantityRow *width_ = nullptr, *offset_ = nullptr, *limit_ = nullptr, *bridge_ = nullptr;
    QComboBox* corners_ = nullptr;
    QLabel *height_ = nullptr, *resolution_ = nullptr, *lineText_ = nullptr;
};

} // namespace hasami
