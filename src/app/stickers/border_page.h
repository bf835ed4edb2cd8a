#pragma once

#include "app/stickers/step_page.h"

class QCheckBox;
class QLabel;

namespace hasami {

class ColourChoice;

/// The printed band around the artwork: how wide, in which colour, around what.
class BorderPage : public StepPage {
    Q_OBJECT
public:
    explicit BorderPage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override { return *width_; }

private:
    QuantityRow* width_;
    ColourChoice* colour_;
    QCheckBox* openings_;
    QLabel* text_;
};

} // namespace hasami
