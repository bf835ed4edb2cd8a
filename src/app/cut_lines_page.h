#pragma once

#include "app/step_page.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace hasami {

/// The cut lines of a recipe: which there are, and how each follows from the edge.
class CutLinesPage : public StepPage {
    Q_OBJECT
public:
    explicit CutLinesPage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override { return *offset_; }
    QuantityRow* secondNumber() override { return bridge_; }

private:
    void addList();
    void addLine(LineKind kind);
    void removeLine();
    void showList(const Recipe& recipe);
    void showMade(const Design& design, const MadeDesign* made);
    LineRecipe& lineOf(Design& design) const;

    QListWidget* lines_;
    QPushButton *addKiss_, *addDie_, *remove_;
    QuantityRow *offset_, *limit_, *bridge_;
    QComboBox* corners_;
    QLabel* text_;
};

} // namespace hasami
