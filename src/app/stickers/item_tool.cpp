#include "app/stickers/item_tool.h"

#include "app/kit/marking.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"

#include <array>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double dragFrom = 0.6;   // of the reach: a press that moves less is a click
constexpr double knobAway = 3;     // reaches above the top side
constexpr double degreesStep = 15; // of turns by steps

std::array<Point, 4> cornersOf(const ItemHand::Frame& frame) {
    const Box& b = frame.box;
    return {frame.toDesign(b.least), frame.toDesign({b.most.x, b.least.y}), frame.toDesign(b.most),
            frame.toDesign({b.least.x, b.most.y})};
}

std::array<Point, 4> sidesOf(const ItemHand::Frame& frame) {
    const auto c = cornersOf(frame);
    return {between(c[0], c[1], 0.5), between(c[1], c[2], 0.5), between(c[2], c[3], 0.5),
            between(c[3], c[0], 0.5)};
}

} // namespace

Point ItemTool::knob(double reach) const {
    const auto sides = sidesOf(hand_.frame());
    const Point middle = between(sides[0], sides[2], 0.5);
    const Point up = sides[0] - middle;
    const double far = std::max(length(up), 1e-9);
    return middle + up * ((far + knobAway * reach) / far);
}

ItemTool::Target ItemTool::at(Point place, double reach) const {
    if (hand_.count() == 0)
        return {};
    const auto corners = cornersOf(hand_.frame());
    for (int i = 0; i < 4; ++i) {
        if (distance(place, corners[std::size_t(i)]) <= reach && !hand_.isCropping())
            return {Grip::corner, i};
        const Point to = corners[std::size_t(i + 1) % 4];
        if (hand_.isCropping() && distanceToSegment(place, corners[std::size_t(i)], to) <= reach)
            return {Grip::side, i};
    }
    if (!hand_.isCropping() && distance(place, knob(reach)) <= reach)
        return {Grip::knob, 0};
    for (std::size_t i = 0; i < hand_.guides().size(); ++i)
        if (const Guide& guide = hand_.guides()[i];
            std::abs((guide.isUpright ? place.x : place.y) - guide.at) <= reach / 2)
            return {Grip::guide, int(i)};
    return {hand_.itemAt(place) ? Grip::item : Grip::nothing, 0};
}

bool ItemTool::press(const PointerPlace& pointer) {
    const Point place = pointer.at;
    dragged_ = at(place, pointer.reach());
    pressed_ = now_ = place;
    isDragging_ = false;
    if (dragged_.grip == Grip::item && !hand_.isCropping() && hand_.count() > 1) {
        const std::size_t item = *hand_.itemAt(place);
        if (pointer.shift)
            hand_.toggle(item);
        else if (!hand_.several().contains(item)) // several that are held are dragged together
            hand_.hold(item);
    } else if (dragged_.grip == Grip::nothing && !hand_.isCropping())
        hand_.hold(std::nullopt);
    const Design* design = hand_.document().selectedDesign();
    from_ = design ? design->artwork.items : std::vector<Item>();
    fromFrame_ = hand_.frame();
    return true;
}

bool ItemTool::pressTwice(const PointerPlace& pointer) {
    if (hand_.count() > 1)
        hand_.hold(hand_.itemAt(pointer.at));
    if (!lettering_.begin(pointer.at))
        return false;
    stop();
    return true;
}

void ItemTool::move(const PointerPlace& pointer) {
    if (!pressed_) {
        under_ = at(pointer.at, pointer.reach());
        return;
    }
    now_ = pointer.at;
    isDragging_ = isDragging_ || distance(now_, *pressed_) > dragFrom * pointer.reach();
    if (isDragging_)
        drag(pointer);
}

void ItemTool::drag(const PointerPlace& pointer) {
    const Point place = pointer.at;
    snapX_.reset();
    snapY_.reset();
    switch (dragged_.grip) {
    case Grip::nothing:
        return;
    case Grip::item: {
        if (!hand_.canMove() || hand_.isCropping())
            return;
        Snap snap{place - *pressed_, {}, {}};
        if (!pointer.control)
            snap = snapped(boundsOfMapped(fromFrame_.box, fromFrame_.toDesign), snap.move, hand_.others(),
                           hand_.guides(), pointer.reach());
        snapX_ = snap.x;
        snapY_ = snap.y;
        hand_.drag(tr("Move artwork"), from_, [&](const Item& item) { return movedBy(item, snap.move); });
        readout_ = quantityText(snap.move.x, QuantityKind::length, hand_.document().job().unit) + ", " +
                   quantityText(snap.move.y, QuantityKind::length, hand_.document().job().unit);
        return;
    }
    case Grip::corner:
        return dragCorner(pointer);
    case Grip::knob:
        return dragKnob(place, pointer.shift);
    case Grip::side:
        return dragSide(place);
    case Grip::guide: {
        const auto number = std::size_t(dragged_.number);
        const double to = hand_.guides().at(number).isUpright ? place.x : place.y;
        hand_.moveGuide(number, to);
        readout_ = quantityText(to, QuantityKind::length, hand_.document().job().unit);
        return;
    }
    }
}

void ItemTool::dragShapeCorner(const PointerPlace& pointer) {
    constexpr double least = Limits::leastSize;
    const Item& was = from_[*hand_.item()];
    const Box box = was.wholeBox();
    const int number = dragged_.number; // clockwise from the top left
    const Point by = inverse(was.toDesign())(pointer.at) - inverse(was.toDesign())(*pressed_);
    const double right = number == 1 || number == 2 ? 1 : -1, down = number >= 2 ? 1 : -1;
    const double share = pointer.control ? 2 : 1; // the opposite sides move as far
    double width = std::max(box.width() + share * right * by.x, least),
           height = std::max(box.height() + share * down * by.y, least);
    if (pointer.shift) {
        const double factor = std::max(width / box.width(), height / box.height());
        width = box.width() * factor;
        height = box.height() * factor;
    }
    // What stays: the opposite corner, or the middle.
    const Point fixed =
        pointer.control ? box.centre()
                        : Point{right > 0 ? box.least.x : box.most.x, down > 0 ? box.least.y : box.most.y};
    const Point before = was.toDesign()(fixed);
    hand_.drag(tr("Size artwork"), from_, [&](const Item& item) {
        Item sized = item;
        sized.place.width = width;
        sized.place.height = height;
        const Point now = sized.toDesign()({fixed.x * width / box.width(), fixed.y * height / box.height()});
        return movedBy(sized, before - now);
    });
    const LengthUnit unit = hand_.document().job().unit;
    readout_ = quantityText(width, QuantityKind::length, unit) + " × " +
               quantityText(height, QuantityKind::length, unit);
}

void ItemTool::dragCorner(const PointerPlace& pointer) {
    const Point place = pointer.at;
    if (const OwnArtwork* own = hand_.own(); own && std::holds_alternative<Figure>(own->what))
        return dragShapeCorner(pointer);
    const auto corners = cornersOf(fromFrame_);
    const Point grip = corners[std::size_t(dragged_.number)],
                fixed = corners[std::size_t(dragged_.number + 2) % 4];
    const Point way = grip - fixed, drawn = place - *pressed_ + way;
    const double factor = (drawn.x * way.x + drawn.y * way.y) / (way.x * way.x + way.y * way.y);
    if (factor < 0.01)
        return;
    hand_.drag(tr("Size artwork"), from_, [&](const Item& item) { return scaledBy(item, factor, fixed); });
    const Box box = boundsOfMapped(hand_.frame().box, hand_.frame().toDesign);
    const LengthUnit unit = hand_.document().job().unit;
    readout_ = quantityText(box.width(), QuantityKind::length, unit) + " × " +
               quantityText(box.height(), QuantityKind::length, unit);
}

void ItemTool::dragKnob(Point place, bool isStepped) {
    const Point middle = fromFrame_.toDesign(fromFrame_.box.centre());
    const auto angle = [&](Point p) {
        return std::atan2(p.y - middle.y, p.x - middle.x) * 180 / std::numbers::pi;
    };
    const bool isLone = hand_.lone();
    const double was = isLone ? from_[*hand_.item()].place.turn : 0;
    double turned = was + angle(place) - angle(*pressed_);
    const double step = isStepped ? degreesStep : 0.1;
    turned = std::round(turned / step) * step;
    hand_.drag(tr("Turn artwork"), from_,
               [&](const Item& item) { return turnedBy(item, turned - was, middle); });
    readout_ = quantityText(isLone ? hand_.lone()->place.turn : turned - was, QuantityKind::angle);
}

void ItemTool::dragSide(Point place) {
    if (!hand_.lone())
        return;
    const Item& was = from_[*hand_.item()];
    const Item whole = cropped(was, {0, 0, was.pixelWidth, was.pixelHeight}).upright();
    const Point by = inverse(was.toDesign())(place) - inverse(was.toDesign())(*pressed_);
    Box box = was.shownBox();
    double* const sides[] = {&box.least.y, &box.most.x, &box.most.y, &box.least.x};
    *sides[dragged_.number] += dragged_.number % 2 == 0 ? by.y : by.x;
    if (box.isEmpty())
        return;
    if (const auto part = partIn(whole, box))
        hand_.drag(tr("Crop artwork"), from_, [&](const Item& item) { return cropped(item, *part); });
    const LengthUnit unit = hand_.document().job().unit;
    const Box now = hand_.lone()->shownBox();
    readout_ = quantityText(now.width(), QuantityKind::length, unit) + " × " +
               quantityText(now.height(), QuantityKind::length, unit);
}

void ItemTool::release(const PointerPlace& pointer) {
    if (isDragging_ && dragged_.grip == Grip::guide && !pointer.isOnCanvas)
        hand_.removeGuide(std::size_t(dragged_.number));
    if (isDragging_)
        hand_.endDrag();
    stop();
}

void ItemTool::stop() {
    pressed_.reset();
    isDragging_ = false;
    snapX_.reset();
    snapY_.reset();
    readout_.clear();
}

std::optional<Qt::CursorShape> ItemTool::cursor() const {
    switch (under_.grip) {
    case Grip::nothing:
        return Qt::ArrowCursor;
    case Grip::item:
        return hand_.count() > 1 && !hand_.isCropping() ? Qt::SizeAllCursor : Qt::ArrowCursor;
    case Grip::corner:
        return under_.number % 2 == 0 ? Qt::SizeFDiagCursor : Qt::SizeBDiagCursor;
    case Grip::knob:
        return Qt::PointingHandCursor;
    case Grip::guide:
        return std::size_t(under_.number) < hand_.guides().size() &&
                       hand_.guides()[std::size_t(under_.number)].isUpright
                   ? Qt::SplitHCursor
                   : Qt::SplitVCursor;
    case Grip::side:
        return under_.number % 2 == 0 ? Qt::SizeVerCursor : Qt::SizeHorCursor;
    }
    return Qt::ArrowCursor;
}

bool ItemTool::key(int key, bool shift) {
    const double step = shift ? 1 : 0.1; // mm
    const auto nudge = [&](Point by) {
        if (hand_.canMove())
            hand_.nudge(by);
        return hand_.canMove();
    };
    switch (key) {
    case Qt::Key_PageDown:
        hand_.walk(-1);
        return hand_.count() > 1;
    case Qt::Key_PageUp:
        hand_.walk(1);
        return hand_.count() > 1;
    case Qt::Key_Escape:
        if (isDragging_) {
            hand_.cancelDrag();
            stop();
        } else if (hand_.isCropping())
            hand_.setCropping(false);
        else
            hand_.hold(std::nullopt);
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (hand_.isCropping() || !lettering_.begin({}))
            hand_.setCropping(false);
        return true;
    case Qt::Key_Delete:
    case Qt::Key_Backspace: {
        const bool can = hand_.canMove();
        hand_.remove();
        return can;
    }
    case Qt::Key_Left:
        return nudge({-step, 0});
    case Qt::Key_Right:
        return nudge({step, 0});
    case Qt::Key_Up:
        return nudge({0, -step});
    case Qt::Key_Down:
        return nudge({0, step});
    default:
        return false;
    }
}

void ItemTool::paintGuides(QPainter& painter) const {
    constexpr double far = 2 * Limits::mostSize;
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(cosmetic(colour::indigo, 1));
    painter.setOpacity(0.6);
    for (const Guide& guide : hand_.guides())
        painter.drawLine(guide.isUpright ? QLineF(guide.at, -far, guide.at, far)
                                         : QLineF(-far, guide.at, far, guide.at));
    painter.setOpacity(1);
}

void ItemTool::paint(QPainter& painter, double pixelsPerMillimetre) const {
    paintGuides(painter);
    if (hand_.count() == 0)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    const double pixel = 1 / pixelsPerMillimetre, reach = 6 * pixel;
    const ItemHand::Frame frame = hand_.frame();
    const auto corners = cornersOf(frame), sides = sidesOf(frame);
    const QPolygonF outline{{toQt(corners[0]), toQt(corners[1]), toQt(corners[2]), toQt(corners[3])}};
    const QRectF seen = painter.transform().inverted().mapRect(QRectF(painter.viewport()));
    painter.setBrush(Qt::NoBrush);
    if (hand_.isCropping()) {
        QPainterPath outside;
        outside.addRect(seen);
        outside.addPolygon(outline);
        outside.closeSubpath();
        QColor veil = colour::paper;
        veil.setAlpha(190);
        painter.setPen(Qt::NoPen);
        painter.fillPath(outside, veil);
    }
    for (const auto& [tint, width] : {std::pair(QColor(Qt::white), 3.0), std::pair(colour::indigo, 1.5)}) {
        painter.setPen(cosmetic(tint, width));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(outline);
        if (!hand_.isCropping())
            painter.drawLine(toQt(sides[0]), toQt(knob(reach)));
    }
    painter.setPen(cosmetic(colour::indigo, 1.5));
    painter.setBrush(Qt::white);
    for (const Point p : hand_.isCropping() ? sides : corners)
        painter.drawRect(QRectF(p.x - 4 * pixel, p.y - 4 * pixel, 8 * pixel, 8 * pixel));
    if (!hand_.isCropping())
        painter.drawEllipse(toQt(knob(reach)), 5 * pixel, 5 * pixel);
    painter.setPen(cosmetic(colour::indigo, 1, Qt::DashLine));
    if (snapX_)
        painter.drawLine(QPointF(*snapX_, seen.top()), QPointF(*snapX_, seen.bottom()));
    if (snapY_)
        painter.drawLine(QPointF(seen.left(), *snapY_), QPointF(seen.right(), *snapY_));
    if (isDragging_ && !readout_.isEmpty())
        paintReadout(painter);
}

void ItemTool::paintReadout(QPainter& painter) const {
    const QPointF at = painter.transform().map(toQt(now_)) + QPointF(14, 22);
    painter.save();
    painter.resetTransform();
    const QRectF text =
        QFontMetricsF(painter.font()).boundingRect(readout_).translated(at).adjusted(-6, -3, 6, 3);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::ink);
    painter.drawRoundedRect(text, 4, 4);
    painter.setPen(Qt::white);
    painter.drawText(text, Qt::AlignCenter, readout_);
    painter.restore();
}

} // namespace hasami
