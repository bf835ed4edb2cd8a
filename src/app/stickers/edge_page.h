#pragma once

#include "app/stickers/loop_picker.h"
#include "app/stickers/step_page.h"
#include "app/stickers/touch_up_hand.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace hasami {

class ShapePanel;

/// The step sheet's page for the edge: how it is found, at which level, how smooth, which lines; or the plain
/// shape that stands for it.
class EdgePage : public StepPage {
    Q_OBJECT
public:
    EdgePage(Document& document, TouchUpHand& hand, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override;
    QuantityRow* secondNumber() override;

private:
    void addWay();
    void addHands();
    void showHands(const Design& design);
    void addRows();
    void addList();
    /// Of the first picture or page; own artwork has none.
    static const EdgePreview* firstPreview(const MadeDesign& made);
    void showFound(const Design& design, const MadeDesign* made);
    void showLines();

    QComboBox *way_ = nullptr, *loops_ = nullptr;
    QLabel* text_;
    QCheckBox* backdrop_ = nullptr;
    QuantityRow *level_ = nullptr, *colours_ = nullptr, *smoothing_ = nullptr, *shadow_ = nullptr,
                *specks_ = nullptr, *openings_ = nullptr;
    TouchUpHand& hand_;
    QWidget* found_;
    ShapePanel* plain_;
    QWidget* hands_;
    QPushButton *choose_ = nullptr, *touchUp_ = nullptr, *oneColour_ = nullptr;
    QWidget* panel_;
    LoopPicker picker_;
    QListWidget* lines_ = nullptr;
};

} // namespace hasami
