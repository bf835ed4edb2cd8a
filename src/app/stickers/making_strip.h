#pragma once

#include "app/document/document.h"
#include "app/document/step_state.h"
#include "sticker/recipe_step.h"

#include <QAbstractButton>
#include <QFrame>

#include <array>
#include <vector>

class QLabel;

namespace hasami {

/// One step of the recipe as a small live picture of the design after it, with its one figure that matters.
class StripFrame : public QAbstractButton {
    Q_OBJECT
public:
    StripFrame(Document& document, RecipeStep step);

    QSize sizeHint() const override { return {196, 132}; }
    QSize minimumSizeHint() const override { return {108, 132}; }

    /// The figure: size, count of points, offset; a word while it is computed.
    QString figure() const;

    /// How far the step is for the selected design.
    StepReport report() const;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void showReport();
    void paintStep(QPainter& painter, const QRectF& room) const;

    Document& document_;
    RecipeStep step_;
};

/// The frames of the selected design's recipe, in order.
class MakingStrip : public QFrame {
    Q_OBJECT
public:
    explicit MakingStrip(Document& document, QWidget* parent = nullptr);

    RecipeStep step() const { return step_; }
    void setStep(RecipeStep step);
    void walk(int by); ///< to the frame that many further on, round the ends

Q_SIGNALS:
    void stepChanged(hasami::RecipeStep step);

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    RecipeStep step_ = RecipeStep::cutLines;
    std::vector<QLabel*> arrows_;
    std::array<StripFrame*, recipeSteps.size()> frames_{};
};

} // namespace hasami
