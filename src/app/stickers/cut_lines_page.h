#pragma once

#include "app/stickers/cut_line_panel.h"

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
    QuantityRow& mainNumber() override { return line_->mainNumber(); }
    QuantityRow* secondNumber() override;

    /// The line whose controls are shown.
    std::size_t line() const;

Q_SIGNALS:
    void lineChosen();

private:
    void addList();
    void addLine(LineKind kind, LineCourse course = LineCourse::edge);
    void removeLine();
    void setCut(int row, bool isCut);
    void showList(const Recipe& recipe);
    void showMade(const Design& design, const MadeDesign* made);

    QListWidget* lines_;
    QPushButton *add_, *remove_;
    CutLinePanel* line_;
    QuantityRow* bridge_;
    QLabel* text_;
};

} // namespace hasami
