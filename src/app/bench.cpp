#include "app/bench.h"

#include "app/paint_design.h"
#include "app/theme.h"

namespace hasami {

Bench::Bench(Document& document, QWidget* parent) : CanvasView(parent), document_(document) {
    setObjectName("Bench");
    setAccessibleName("Bench");
    setAccessibleDescription("The selected design with its cut line");
    connect(&document, &Document::madeChanged, this, &Bench::contentChanged);
    connect(&document, &Document::selectionChanged, this, [this] {
        fit();
        redraw();
    });
}

void Bench::setStep(RecipeStep step) {
    step_ = step;
    redraw();
}

QRectF Bench::content() const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return {};
    Box box = bounds(design->artwork);
    box.add(stickerOf(document_, design->id).footprint);
    return {box.least.x, box.least.y, box.width(), box.height()};
}

void Bench::paintContent(QPainter& painter, const QRectF&) {
    const Design& design = *document_.selectedDesign();
    const Sticker& sticker = stickerOf(document_, design.id);
    const DesignPainting painting{document_, design, sticker, pixelsPerMillimetre()};
    const Box box = bounds(design.artwork);
    painter.setPen(QPen(coloursOf(palette()).rule, 0));
    painter.setBrush(colour::paper);
    painter.drawRect(QRectF(box.least.x, box.least.y, box.width(), box.height()));
    if (step_ == RecipeStep::cutLines)
        painting.vinyl(painter);
    painting.artwork(painter);
    switch (step_) {
    case RecipeStep::artwork:
        break;
    case RecipeStep::edge:
        painting.edge(painter);
        painting.edgePoints(painter);
        break;
    case RecipeStep::cutLines:
        painting.kissLines(painter);
        break;
    }
}

void Bench::paintEmpty(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    QPen dashes(coloursOf(palette()).rule, 2, Qt::DashLine);
    painter.setPen(dashes);
    painter.drawRoundedRect(QRectF(rect()).adjusted(40, 40, -40, -40), 8, 8);
}

} // namespace hasami
