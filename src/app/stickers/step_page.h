#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_row.h"

#include <QWidget>

namespace hasami {

/// The controls of one step of a recipe.
class StepPage : public QWidget {
    Q_OBJECT
public:
    explicit StepPage(Document& document, QWidget* parent = nullptr) : QWidget(parent), document_(document) {}

    /// Shows the design's recipe. `made` is its newest result, or nullptr.
    virtual void showDesign(const Design& design, const MadeDesign* made) = 0;

    /// What Alt+Up steps, and Alt+Shift+Up where there is a second number.
    virtual QuantityRow& mainNumber() = 0;
    virtual QuantityRow* secondNumber() { return nullptr; }

protected:
    Document& document() { return document_; }

private:
    Document& document_;
};

} // namespace hasami
