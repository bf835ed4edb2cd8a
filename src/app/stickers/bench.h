#pragma once

#include "app/document/document.h"
#include "app/kit/canvas_view.h"
#include "app/stickers/bench_tool.h"
#include "app/stickers/inks_page.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_hand.h"
#include "app/stickers/loop_picker.h"
#include "app/stickers/touch_up_hand.h"
#include "app/stickers/view_bar.h"

#include <memory>
#include <vector>

namespace hasami {

struct DesignPainting;

/// The selected design, large: picture, edge and kiss line, as the selected step of the recipe asks. What
/// pointer and keys do on it is up to the step's tool.
class Bench : public CanvasView {
    Q_OBJECT
public:
    Bench(Document& document, TouchUpHand& hand, ItemHand& items, LetteringHand& lettering,
          QWidget* parent = nullptr);

    void setStep(RecipeStep step);
    void setView(const BenchView& view);
    void setLook(MediumLook look);
    void showBleed(bool isShown);

    /// The own artwork at a point of the widget that a picture dropped there is shown inside; nothing where
    /// there is none.
    std::optional<std::size_t> ownArtworkAt(QPoint at) const;

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
    bool takesGuides() const override;
    void addGuide(Qt::Orientation orientation, double at) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;
    void inputMethodEvent(QInputMethodEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    bool showsStep() const { return view_.what == BenchView::What::step; }

    BenchTool* benchTool() const;
    void stopTools();
    PointerPlace pointerAt(const QMouseEvent& event) const;
    void paintStep(const DesignPainting& painting, QPainter& painter, const QRectF& visible) const;
    QColor groundColour() const;
    void paintArtwork(const DesignPainting& painting, QPainter& painter) const;
    void paintEdge(QPainter& painter, const DesignPainting& painting, const QRectF& visible) const;

    Document& document_;
    LoopPicker picker_;
    ItemHand& items_;
    LetteringHand& lettering_;
    std::vector<std::unique_ptr<BenchTool>> tools_;
    RecipeStep step_ = RecipeStep::cutLines;
    BenchView view_;
    MediumLook look_ = MediumLook::white;
    bool showsBleed_ = true;
    std::size_t line_ = 0;
};

} // namespace hasami
