#pragma once

#include "app/loop_picker.h"
#include "app/step_page.h"

class QComboBox;
class QLabel;
class QListWidget;

namespace hasami {

/// The step sheet's page for the edge: how it is found, at which level, how smooth, which lines; or the plain
/// shape that stands for it.
class EdgePage : public StepPage {
    Q_OBJECT
public:
    explicit EdgePage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override;
    QuantityRow* secondNumber() override;

private:
    void addWay();
    void addRows();
    void addShape();
    void addList();
    void showFound(const Design& design, const MadeDesign* made);
    void showLines();

    QComboBox *way_ = nullptr, *loops_ = nullptr, *shape_ = nullptr;
    QLabel* text_;
    QuantityRow *level_ = nullptr, *smoothing_ = nullptr, *shadow_ = nullptr, *specks_ = nullptr,
                *openings_ = nullptr, *margin_ = nullptr, *radius_ = nullptr, *sides_ = nullptr;
    QWidget *found_, *plain_;
    LoopPicker picker_;
    QListWidget* lines_ = nullptr;
};

} // namespace hasami
