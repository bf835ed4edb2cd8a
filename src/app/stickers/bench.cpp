#include "app/stickers/bench.h"

#include "app/kit/theme.h"
#include "app/paint/artwork_colours.h"
#include "app/paint/paint_design.h"
#include "app/stickers/colour_tool.h"
#include "app/stickers/cut_line_tool.h"
#include "app/stickers/drawn_line_tool.h"
#include "app/stickers/inside_tool.h"
#include "app/stickers/item_tool.h"
#include "app/stickers/lettering_tool.h"
#include "app/stickers/loop_tool.h"
#include "app/stickers/touch_up_tool.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"

#include <QMouseEvent>

#include <algorithm>

namespace hasami {

Bench::Bench(Document& document, TouchUpHand& hand, ItemHand& items, LetteringHand& lettering,
             QWidget* parent)
    : CanvasView(parent), document_(document), picker_(document), items_(items), lettering_(lettering) {
    tools_.push_back(
        std::make_unique<TouchUpTool>(hand, [this](const QString& sentence) { Q_EMIT told(sentence); }));
    tools_.push_back(std::make_unique<LoopTool>(picker_));
    tools_.push_back(std::make_unique<LetteringTool>(lettering));
    tools_.push_back(std::make_unique<ColourTool>(
        document, RecipeStep::artwork, [this](Rgba colour) { items_.takeColour(colour); },
        [this] { return items_.isPickingColour(); }));
    tools_.push_back(std::make_unique<InsideTool>(items));
    tools_.push_back(std::make_unique<ItemTool>(items, lettering));
    tools_.push_back(std::make_unique<DrawnLineTool>(document, [this] { return line_; }));
    tools_.push_back(std::make_unique<CutLineTool>(document, [this] { return line_; }));
    tools_.push_back(std::make_unique<ColourTool>(document, RecipeStep::border, [this](Rgba colour) {
        setBorderColour(document_, PaintColour{colour});
    }));
    tools_.push_back(std::make_unique<ColourTool>(document, RecipeStep::inks,
                                                  [this](Rgba colour) { Q_EMIT inkColourTaken(colour); }));
    setMouseTracking(true);
    setObjectName("Bench");
    setAccessibleName(tr("Bench"));
    setAccessibleDescription(tr("The selected design with its cut line"));
    connect(&document, &Document::madeChanged, this, &Bench::contentChanged);
    connect(&document.pictures(), &PictureCache::ready, this, &Bench::redraw);
    connect(&hand, &TouchUpHand::changed, this, qOverload<>(&QWidget::update));
    connect(&items, &ItemHand::changed, this, &Bench::redraw);
    connect(&items, &ItemHand::told, this, &Bench::told);
    connect(&lettering, &LetteringHand::changed, this, [this] {
        setAttribute(Qt::WA_InputMethodEnabled, lettering_.isEditing());
        if (lettering_.isEditing())
            setFocus();
        redraw();
    });
    connect(&document, &Document::selectionChanged, this, [this] {
        stopTools(); // what they held was another design's
        fit();
        redraw();
    });
}

BenchTool* Bench::benchTool() const {
    if (!showsStep() || !document_.selectedDesign())
        return nullptr;
    const auto active =
        std::find_if(tools_.begin(), tools_.end(), [&](const auto& tool) { return tool->isFor(step_); });
    return active == tools_.end() ? nullptr : active->get();
}

std::optional<std::size_t> Bench::ownArtworkAt(QPoint at) const {
    const Design* design = document_.selectedDesign();
    if (!design || !canvas().contains(QPointF(at)))
        return {};
    const QPointF place = toMillimetres(QPointF(at));
    const auto item = items_.itemAt({place.x(), place.y()});
    const bool takesPicture = item && design->artwork.items[*item].own() &&
                              !std::holds_alternative<CodeArtwork>(design->artwork.items[*item].own()->what);
    return takesPicture ? item : std::nullopt;
}

void Bench::stopTools() {
    for (const auto& tool : tools_)
        tool->stop();
}

void Bench::setStep(RecipeStep step) {
    step_ = step;
    stopTools();
    items_.setCropping(false);
    lettering_.end();
    unsetCursor();
    redraw();
}

void Bench::setView(const BenchView& view) {
    view_ = view;
    setStep(step_);
}

void Bench::setLook(MediumLook look) {
    look_ = look;
    redraw();
}

void Bench::showBleed(bool isShown) {
    showsBleed_ = isShown;
    redraw();
}

void Bench::setLine(std::size_t line) {
    line_ = line;
    if (BenchTool* active = benchTool(); active && step_ == RecipeStep::cutLines)
        active->stop(); // what it held was another line's
    update();
}

/// Clear film lies on the bench's own ground.
QColor Bench::groundColour() const {
    switch (look_) {
    case MediumLook::white:
        return Qt::white;
    case MediumLook::clear:
        return colour::paper;
    case MediumLook::black:
        return {0x1C, 0x1C, 0x1E};
    case MediumLook::kraft:
        return {0xC2, 0x9A, 0x6B};
    }
    return Qt::white;
}

QRectF Bench::content() const {
    const Design* design = document_.selectedDesign();
    if (!design)
        return {};
    Box box = bounds(design->artwork);
    box.add(stickerOf(document_, design->id).footprint);
    return {box.least.x, box.least.y, box.width(), box.height()};
}

/// Many lines in sight are drawn plainly, at once as they are switched; zoomed in, there are fewer.
void Bench::paintEdge(QPainter& painter, const DesignPainting& painting, const QRectF& visible) const {
    constexpr std::size_t most = 300;
    const hasami::Box seen{{visible.left(), visible.top()}, {visible.right(), visible.bottom()}};
    std::vector<Curve> cut, notCut;
    for (const LoopPicker::Entry& line : picker_.lines())
        if (line.box().meets(seen) || !line.loop->byHand.empty())
            (line.isCut ? cut : notCut).push_back(line.curve());
    const bool isPlain = cut.size() + notCut.size() > most && picker_.linesHold();
    if (isPlain) {
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour::quiet, 0, Qt::DotLine));
        painter.drawPath(painterPath(notCut));
        painter.setPen(QPen(colour::ink, 0));
        painter.drawPath(painterPath(cut));
        return;
    }
    if (!notCut.empty())
        paintNotCut(painter, painterPath(notCut));
    painting.edge(painter);
    painting.edgePoints(painter);
}

/// What is cropped is shown whole while its sides are dragged.
void Bench::paintArtwork(const DesignPainting& painting, QPainter& painter) const {
    if (!items_.isCropping())
        return painting.artwork(painter);
    Design whole = painting.design;
    whole.artwork.items[*items_.item()].crop.reset();
    DesignPainting{painting.document, whole, painting.sticker, painting.pixelsPerMillimetre}.artwork(painter);
}

void Bench::paintContent(QPainter& painter, const QRectF& visible) {
    const Design& design = *document_.selectedDesign();
    const bool withBleed = showsBleed_ || step_ != RecipeStep::bleed;
    const MadeDesign* good = document_.lastGood(design.id);
    const Sticker& sticker = good ? *good->sticker : stickerOf(document_, design.id);
    const DesignPainting painting{document_, design, sticker, pixelsPerMillimetre(), withBleed, good};
    if (good) // what holds no more is paled
        painter.setOpacity(0.35);
    switch (view_.what) {
    case BenchView::What::step:
        return paintStep(painting, painter, visible);
    case BenchView::What::finished:
        return painting.onGround(painter, groundColour());
    case BenchView::What::print:
        return painting.printed(painter);
    case BenchView::What::cut:
        return painting.cutLines(painter);
    case BenchView::What::ink:
        return painting.inks(painter, view_.ink);
    }
}

void Bench::paintStep(const DesignPainting& painting, QPainter& painter, const QRectF& visible) const {
    const Box box = bounds(painting.design.artwork);
    painter.setPen(QPen(coloursOf(palette()).rule, 0));
    painter.setBrush(colour::paper);
    painter.drawRect(QRectF(box.least.x, box.least.y, box.width(), box.height()));
    switch (step_) {
    case RecipeStep::artwork:
        painter.setOpacity(1);
        paintArtwork(painting, painter);
        break;
    case RecipeStep::edge:
        if (!stickerOf(document_, painting.design.id).edge.empty())
            painter.setOpacity(1);
        painting.artwork(painter);
        paintEdge(painter, painting, visible);
        break;
    case RecipeStep::border:
        painting.printed(painter);
        break;
    case RecipeStep::cutLines:
        painting.vinyl(painter);
        painting.printed(painter);
        painting.notCut(painter);
        painting.cutLines(painter);
        break;
    case RecipeStep::bleed:
        painting.printed(painter);
        painting.cutLines(painter, 1);
        break;
    case RecipeStep::inks:
        painting.onGround(painter, groundColour());
        break;
    }
}

CanvasView::SnapLines Bench::snapLines() const {
    SnapLines lines;
    if (const Design* design = document_.selectedDesign())
        for (const Item& item : design->artwork.items) {
            const hasami::Box box = bounds(item);
            lines.x.insert(lines.x.end(), {box.least.x, box.centre().x, box.most.x});
            lines.y.insert(lines.y.end(), {box.least.y, box.centre().y, box.most.y});
        }
    return lines;
}

bool Bench::takesGuides() const {
    const BenchTool* active = benchTool();
    return active && active->takesGuides();
}

void Bench::addGuide(Qt::Orientation orientation, double at) {
    if (BenchTool* active = benchTool())
        active->addGuide({orientation == Qt::Vertical, at});
}

void Bench::paintOverlay(QPainter& painter) {
    if (const CanvasTool* active = benchTool())
        active->paint(painter, pixelsPerMillimetre());
}

PointerPlace Bench::pointerAt(const QMouseEvent& event) const {
    const QPointF at = toMillimetres(event.position());
    return {{at.x(), at.y()},
            1 / pixelsPerMillimetre(),
            bool(event.modifiers() & Qt::ShiftModifier),
            bool(event.modifiers() & Qt::ControlModifier),
            canvas().contains(event.position())};
}

static bool isPlainLeft(const QMouseEvent& event) {
    return event.button() == Qt::LeftButton && !(event.modifiers() & Qt::AltModifier);
}

void Bench::mouseDoubleClickEvent(QMouseEvent* event) {
    CanvasTool* active = benchTool();
    if (active && event->button() == Qt::LeftButton && active->pressTwice(pointerAt(*event)))
        return;
    CanvasView::mouseDoubleClickEvent(event);
}

void Bench::keyPressEvent(QKeyEvent* event) {
    CanvasTool* active = benchTool();
    const bool isDone =
        active && active->stroke({event->key(), bool(event->modifiers() & Qt::ShiftModifier),
                                  bool(event->modifiers() & Qt::ControlModifier), event->text()});
    if (!isDone)
        CanvasView::keyPressEvent(event);
}

namespace {

/// Whether a key belongs to text that is being typed, rather than to the window's menus.
bool isOfText(const QKeyEvent& event) {
    for (const auto standard : {QKeySequence::Copy, QKeySequence::Cut, QKeySequence::Paste,
                                QKeySequence::SelectAll, QKeySequence::Delete, QKeySequence::Backspace})
        if (event.matches(standard))
            return true;
    const auto modifiers = event.modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier);
    return modifiers == Qt::NoModifier && (event.text().size() > 0 && event.text().front().isPrint());
}

} // namespace

bool Bench::event(QEvent* event) {
    if (event->type() != QEvent::ShortcutOverride)
        return CanvasView::event(event);
    const CanvasTool* active = benchTool();
    if (!active || !active->takesText() || !isOfText(*static_cast<QKeyEvent*>(event)))
        return CanvasView::event(event);
    event->accept();
    return true;
}

void Bench::inputMethodEvent(QInputMethodEvent* event) {
    CanvasTool* active = benchTool();
    if (active && active->takesText() && !event->commitString().isEmpty())
        active->stroke({0, false, false, event->commitString()});
    event->accept();
}

void Bench::mousePressEvent(QMouseEvent* event) {
    if (pressRuler(*event))
        return;
    CanvasTool* active = benchTool();
    if (active && isPlainLeft(*event) && active->press(pointerAt(*event)))
        setFocus();
    else
        CanvasView::mousePressEvent(event);
}

void Bench::mouseMoveEvent(QMouseEvent* event) {
    if (moveOnRuler(*event))
        return;
    if (CanvasTool* active = benchTool()) {
        active->move(pointerAt(*event));
        if (active->isMoving()) {
            keepInPlace();
            redraw();
        }
        if (const auto shape = active->cursor(); shape && !(event->buttons() & Qt::MiddleButton))
            setCursor(*shape);
        update();
    }
    CanvasView::mouseMoveEvent(event);
}

void Bench::mouseReleaseEvent(QMouseEvent* event) {
    if (releaseRuler(*event))
        return;
    if (CanvasTool* active = benchTool(); active && event->button() == Qt::LeftButton) {
        active->release(pointerAt(*event));
        update();
    }
    CanvasView::mouseReleaseEvent(event);
}

void Bench::leaveEvent(QEvent*) {
    if (CanvasTool* active = benchTool())
        active->leave();
    update();
}

void Bench::paintEmpty(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    QPen dashes(coloursOf(palette()).rule, 2, Qt::DashLine);
    painter.setPen(dashes);
    painter.drawRoundedRect(QRectF(rect()).adjusted(40, 40, -40, -40), 8, 8);
}

} // namespace hasami
