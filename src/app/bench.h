#pragma once

#include "app/canvas_view.h"
#include "app/document.h"
#include "app/recipe_step.h"

namespace hasami {

/// The selected design, large: picture, edge and kiss line, as the selected step of the recipe asks.
class Bench : public CanvasView {
    Q_OBJECT
public:
    explicit Bench(Document& document, QWidget* parent = nullptr);

    void setStep(RecipeStep step);

protected:
    QRectF content() const override;
    LengthUnit unit() const override { return document_.job().unit; }
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintEmpty(QPainter& painter) override;

private:
    Document& document_;
    RecipeStep step_ = RecipeStep::cutLines;
};

} // namespace hasami
