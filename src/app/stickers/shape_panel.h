#pragma once

#include "app/stickers/step_page.h"

class QComboBox;
class QLabel;
class QMenu;
class QPushButton;

namespace hasami {

/// The plain shape that stands for an edge: its kind, how large it is, which designs have it together.
class ShapePanel : public StepPage {
    Q_OBJECT
public:
    explicit ShapePanel(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override;
    QuantityRow* secondNumber() override;

private:
    void addRows();
    void addSharing();
    void showSharing(const Design& design);
    void listOthers();

    QComboBox *kind_, *measure_;
    QuantityRow *margin_ = nullptr, *width_ = nullptr, *height_ = nullptr, *radius_ = nullptr,
                *sides_ = nullptr;
    QPushButton* share_;
    QMenu* others_;
    QLabel* sharing_;
};

} // namespace hasami
