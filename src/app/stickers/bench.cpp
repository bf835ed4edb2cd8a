#include "app/stickers/bench.h"

#include "app/kit/theme.h"
#include "app/paint/artwork_colours.h"
#include "app/paint/paint_design.h"
#include "files/paint_sticker.h"

#include <QMouseEvent>

#include <algorithm>

namespace hasami {

namespace {

constexpr double sweepFrom = 5; // pixels: a press that moves less is a click
constexpr double easyReach = 6; // pixels that a click may miss a line by

} // namespace

Bench::Bench(Document& document, TouchUpHand& hand, ItemHand& items, QWidget* parent)
    : CanvasView(parent), document_(document), picker_(document), hand_(hand), gesture_(hand), items_(items),
      itemGesture_(items), lineGesture_(document, [this] { return line_; }) {
    setMouseTracking(true);
    setObjectName("Bench");
    setAccessibleName("Bench");
    setAccessibleDescription("The selected design with its cut line");
    connect(&document, &Document::madeChanged, this, &Bench::contentChanged);
    connect(&document.pictures(), &PictureCache::ready, this, &Bench::redraw);
    connect(&hand, &TouchUpHand::changed, this, qOverload<>(&QWidget::update));
    connect(&items, &ItemHand::changed, this, &Bench::redraw);
    connect(&items, &ItemHand::told, this, &Bench::told);
    connect(&document, &Document::selectionChanged, this, [this] {
        lineGesture_.stop(); // its tabs were another design's
        fit();
        redraw();
    });
}

void Bench::setStep(RecipeStep step) {
    step_ = step;
    under_.reset();
    gesture_.stop();
    itemGesture_.stop();
    lineGesture_.stop();
    items_.setCropping(false);
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
    lineGesture_.stop();
    update();
}

/// Clear film lies on the bench's own ground.
QColor Bench::mediumColour() const {
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

/// What is cropped is shown whole while its sides are drawn in and out.
void Bench::paintArtwork(const DesignPainting& painting, QPainter& painter) const {
    if (!arranges() || !items_.isCropping())
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
        return painting.onMedium(painter, mediumColour());
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
        painting.onMedium(painter, mediumColour());
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

void Bench::addGuide(Qt::Orientation orientation, double at) {
    items_.addGuide({orientation == Qt::Vertical, at});
}

void Bench::paintGuides(QPainter& painter) const {
    constexpr double far = 2 * Limits::mostSize;
    QPen pen(colour::indigo, 1);
    pen.setCosmetic(true);
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(pen);
    painter.setOpacity(0.6);
    for (const Guide& guide : items_.guides())
        painter.drawLine(guide.isUpright ? QLineF(guide.at, -far, guide.at, far)
                                         : QLineF(-far, guide.at, far, guide.at));
    painter.setOpacity(1);
}

void Bench::paintOverlay(QPainter& painter) {
    if (arranges()) {
        paintGuides(painter);
        return itemGesture_.paint(painter, pixelsPerMillimetre());
    }
    if (drawsLines())
        return lineGesture_.paint(painter, pixelsPerMillimetre());
    if (step_ != RecipeStep::edge || !showsStep())
        return;
    if (touchesUp())
        return gesture_.paint(painter, pixelsPerMillimetre());
    painter.setRenderHint(QPainter::Antialiasing);
    QPen pen(colour::indigo, 3);
    pen.setCosmetic(true);
    painter.setPen(pen);
    if (under_ && !pressed_)
        if (const auto lines = picker_.lines(); *under_ < lines.size())
            painter.drawPath(painterPath(std::vector<Curve>{lines[*under_].curve()}));
    if (pressed_ && (pointer_ - *pressed_).manhattanLength() >= sweepFrom) {
        QColor tint = colour::indigo;
        tint.setAlpha(40);
        pen.setWidth(1);
        painter.setPen(pen);
        painter.setBrush(tint);
        const hasami::Box box = sweptBox();
        painter.drawRect(QRectF(box.least.x, box.least.y, box.width(), box.height()));
    }
}

Box Bench::sweptBox() const {
    hasami::Box box;
    for (const QPointF corner : {*pressed_, pointer_})
        box.add(placeOf(corner));
    return box;
}

double Bench::reach() const {
    return easyReach / pixelsPerMillimetre();
}

Point Bench::placeOf(QPointF pixels) const {
    const QPointF place = toMillimetres(pixels);
    return {place.x(), place.y()};
}

void Bench::mouseDoubleClickEvent(QMouseEvent* event) {
    if (touchesUp() && event->button() == Qt::LeftButton)
        gesture_.addNode(placeOf(event->position()), reach());
    else
        CanvasView::mouseDoubleClickEvent(event);
}

void Bench::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    const bool isTaken = touchesUp()    ? gesture_.key(event->key(), shift)
                         : arranges()   ? itemGesture_.key(event->key(), shift)
                         : drawsLines() ? lineGesture_.key(event->key(), shift)
                                        : false;
    if (!isTaken)
        CanvasView::keyPressEvent(event);
}

void Bench::mousePressEvent(QMouseEvent* event) {
    if (pressRuler(*event))
        return;
    if (touchesUp() && event->button() == Qt::LeftButton && !(event->modifiers() & Qt::AltModifier)) {
        setFocus();
        gesture_.press(placeOf(event->position()), reach(), event->modifiers() & Qt::ShiftModifier);
    } else if (arranges() && event->button() == Qt::LeftButton && !(event->modifiers() & Qt::AltModifier)) {
        setFocus();
        itemGesture_.press(placeOf(event->position()), reach());
    } else if (drawsLines() && event->button() == Qt::LeftButton && !(event->modifiers() & Qt::AltModifier) &&
               lineGesture_.press(placeOf(event->position()), reach())) {
        setFocus();
    } else if (event->button() == Qt::LeftButton && !(event->modifiers() & Qt::AltModifier) &&
               (step_ == RecipeStep::edge || step_ == RecipeStep::border || step_ == RecipeStep::inks) &&
               showsStep() && document_.selectedDesign())
        pressed_ = pointer_ = event->position();
    else
        CanvasView::mousePressEvent(event);
}

void Bench::mouseMoveEvent(QMouseEvent* event) {
    if (moveOnRuler(*event))
        return;
    pointer_ = event->position();
    if (touchesUp()) {
        gesture_.move(placeOf(pointer_), reach());
        if (gesture_.hover(placeOf(pointer_), reach()) && !(event->buttons() & Qt::MiddleButton)) {
            setCursor(gesture_.cursor());
            update();
        }
    } else if (arranges()) {
        arrange(*event);
    } else if (drawsLines()) {
        lineGesture_.move(placeOf(pointer_));
        if (lineGesture_.isDragging())
            keepInPlace();
        if (lineGesture_.hover(placeOf(pointer_), reach()) && !(event->buttons() & Qt::MiddleButton))
            setCursor(lineGesture_.cursor());
        update();
    } else if (pressed_)
        update();
    else
        hover(pointer_);
    CanvasView::mouseMoveEvent(event);
}

void Bench::arrange(const QMouseEvent& event) {
    itemGesture_.move(
        placeOf(pointer_), reach(),
        {bool(event.modifiers() & Qt::ControlModifier), bool(event.modifiers() & Qt::ShiftModifier)});
    if (itemGesture_.isDragging()) {
        keepInPlace();
        redraw();
    } else if (itemGesture_.hover(placeOf(pointer_), reach()) && !(event.buttons() & Qt::MiddleButton)) {
        setCursor(itemGesture_.cursor());
    }
}

void Bench::mouseReleaseEvent(QMouseEvent* event) {
    if (releaseRuler(*event))
        return;
    pointer_ = event->position();
    if (arranges() && event->button() == Qt::LeftButton) {
        itemGesture_.release(!canvas().contains(pointer_));
        update();
    }
    if (lineGesture_.isDragging() && event->button() == Qt::LeftButton) {
        lineGesture_.release();
        update();
    }
    if (touchesUp() && event->button() == Qt::LeftButton)
        if (const QString sentence = gesture_.release(placeOf(pointer_), reach()); !sentence.isEmpty())
            Q_EMIT told(sentence);
    if (!pressed_ || event->button() != Qt::LeftButton)
        return CanvasView::mouseReleaseEvent(event);
    if (step_ == RecipeStep::edge && (pointer_ - *pressed_).manhattanLength() >= sweepFrom)
        sweep();
    else if (step_ == RecipeStep::border || step_ == RecipeStep::inks)
        takeColour(*pressed_);
    else
        click(*pressed_);
    pressed_.reset();
    update();
}

void Bench::leaveEvent(QEvent*) {
    under_.reset();
    update();
}

void Bench::hover(QPointF at) {
    std::optional<std::size_t> under;
    if (step_ == RecipeStep::edge && showsStep() && document_.selectedDesign())
        if (const auto found = picker_.linesAt(placeOf(at), reach()); !found.empty())
            under = found.front();
    if (under != under_) {
        under_ = under;
        update();
    }
}

void Bench::takeColour(QPointF at) {
    const auto colour = colourAt(document_, *document_.selectedDesign(), placeOf(at));
    if (colour && step_ == RecipeStep::border)
        setBorderColour(document_, *colour);
    else if (colour)
        Q_EMIT inkColourTaken(*colour);
}

void Bench::click(QPointF at) {
    const auto found = picker_.linesAt(placeOf(at), reach());
    if (found.empty())
        return;
    clicksHere_ = (at - lastClick_).manhattanLength() < sweepFrom ? clicksHere_ + 1 : 0;
    lastClick_ = at;
    const std::size_t line = found[clicksHere_ % found.size()];
    picker_.setCut({line}, !picker_.lines()[line].isCut);
}

void Bench::sweep() {
    const auto found = picker_.linesWithin(sweptBox());
    const auto lines = picker_.lines();
    const bool anyIsCut =
        std::any_of(found.begin(), found.end(), [&](std::size_t i) { return lines[i].isCut; });
    if (!found.empty())
        picker_.setCut(found, !anyIsCut);
}

void Bench::paintEmpty(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    QPen dashes(coloursOf(palette()).rule, 2, Qt::DashLine);
    painter.setPen(dashes);
    painter.drawRoundedRect(QRectF(rect()).adjusted(40, 40, -40, -40), 8, 8);
}

} // namespace hasami
