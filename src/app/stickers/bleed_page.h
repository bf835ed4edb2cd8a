#pragma once

#include "app/stickers/step_page.h"

class QCheckBox;
class QComboBox;
class QLabel;

namespace hasami {

class ColourChoice;

/// Ink past the cut line: how far, in which colours, and what becomes of artwork that reaches farther.
class BleedPage : public StepPage {
    Q_OBJECT
public:
    explicit BleedPage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override { return *amount_; }

Q_SIGNALS:
    /// Whether the bench shows the bleed: only for the eye.
    void shownChanged(bool isShown);

private:
    void showMade(const Design& design, const MadeDesign* made);

    QuantityRow* amount_;
    QComboBox* source_;
    ColourChoice* colour_;
    QCheckBox *trims_, *shown_;
    QLabel* text_;
};

} // namespace hasami
