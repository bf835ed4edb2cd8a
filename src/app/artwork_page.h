#pragma once

#include "app/step_page.h"

class QLabel;
class QLineEdit;
class QSpinBox;

namespace hasami {

/// What the sticker shows: its name and size.
class ArtworkPage : public StepPage {
    Q_OBJECT
public:
    explicit ArtworkPage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override { return *width_; }

    /// Lets one type another name for the design.
    void editName();

private:
    QLineEdit* name_;
    QuantityRow* width_;
    QLabel *height_, *resolution_;
    QWidget* pages_; ///< which page of a file that has several
    QSpinBox* page_;
};

} // namespace hasami
