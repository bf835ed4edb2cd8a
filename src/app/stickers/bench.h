#pragma once

#include "app/document/document.h"
#include "sticker/recipe_step.h"
#include "app/kit/canvas_view.h"
#include "app/stickers/cut_line_gesture.h"
#include "app/stickers/inks_page.h"
#include "app/stickers/item_gesture.h"
#include "app/stickers/loop_picker.h"
#include "app/stickers/touch_up_gesture.h"
#include "app/stickers/view_bar.h"

namespace hasami {

struct DesignPainting;

/// The selected design, large: picture, edge and kiss line, as the selected step of the recipe asks. In Edge,
/// a click switches the smallest line under the pointer, further clicks there those around it; a sweep over
/// an area switches all lines that lie in it. In Artwork, one moves, sizes, turns and crops what is shown. In
/// Border, a click on the artwork takes its colour; in Inks, it gives that colour the chosen ink. In Cut
/// lines, sides of plain shapes and tabs are drawn.
class Bench : public CanvasView {
    Q_OBJECT
public:
    Bench(Document& document, TouchUpHand& hand, ItemHand& items, QWidget* parent = nullptr);

    void setStep(RecipeStep step);
    void setView(const BenchView& view);
    void setLook(MediumLook look);
    void showBleed(bool isShown);

    /// Which of the recipe's lines is chosen in Cut lines.
    void setLine(std::size_t line);

Q_SIGNALS:
    void told(const QString& sentence); ///< why something done here had no effect
    void inkColourTaken(hasami::Rgba colour);

protected:
    QRectF content() const override;
    LengthUnit unit() const override { return document_.job().unit; }
    void paintContent(QPainter& painter, const QRectF& visible) override;
    void paintEmpty(QPainter& painter) override;
    void paintOverlay(QPainter& painter) override;
    SnapLines snapLines() const override;
    bool takesGuides() const override { return arranges(); }
    void addGuide(Qt::Orientation orientation, double at) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    Box sweptBox() const;
    bool touchesUp() const { return step_ == RecipeStep::edge && showsStep() && hand_.isOn(); }
    bool showsStep() const { return view_.what == BenchView::What::step; }
    bool arranges() const {
        return step_ == RecipeStep::artwork && showsStep() && document_.selectedDesign();
    }
    bool drawsLines() const {
        return step_ == RecipeStep::cutLines && showsStep() && document_.selectedDesign();
    }
    void paintStep(const DesignPainting& painting, QPainter& painter, const QRectF& visible) const;
    QColor mediumColour() const;
    void arrange(const QMouseEvent& event);
    void paintGuides(QPainter& painter) const;
    void paintArtwork(const DesignPainting& painting, QPainter& painter) const;
    double reach() const;
    Point placeOf(QPointF pixels) const;
    void paintEdge(QPainter& painter, const DesignPainting& painting, const QRectF& visible) const;
    void click(QPointF at);
    void takeColour(QPointF at);
    void sweep();
    void hover(QPointF at);

    Document& document_;
    LoopPicker picker_;
    TouchUpHand& hand_;
    TouchUpGesture gesture_;
    ItemHand& items_;
    ItemGesture itemGesture_;
    std::optional<QPointF> pressed_; // pixels: a click or a sweep has begun
    QPointF pointer_;
    QPointF lastClick_;                // pixels
    std::size_t clicksHere_ = 0;       // in a row at that place
    std::optional<std::size_t> under_; // the line that a click would switch
    RecipeStep step_ = RecipeStep::cutLines;
    BenchView view_;
    MediumLook look_ = MediumLook::white;
    bool showsBleed_ = true;
    std::size_t line_ = 0;
    CutLineGesture lineGesture_;
};

} // namespace hasami
