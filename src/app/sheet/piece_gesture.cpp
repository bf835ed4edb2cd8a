#include "app/sheet/piece_gesture.h"

#include "app/kit/marking.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"

#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double dragFrom = 0.6;   // of the reach: a press that moves less is a click
constexpr double knobAway = 3;     // reaches above the box
constexpr double degreesStep = 15; // of turns by steps

QRectF toQt(const Box& box) {
    return {box.least.x, box.least.y, box.width(), box.height()};
}

/// Text in the screen's size at a place in mm, on a patch of its own.
void paintText(QPainter& painter, QPointF at, const QString& text) {
    painter.save();
    const QPointF screen = painter.worldTransform().map(at);
    painter.setWorldTransform({});
    QRectF patch = painter.fontMetrics().boundingRect(text);
    patch.moveCenter(screen);
    patch.adjust(-5, -2, 5, 2);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(255, 255, 255, 225));
    painter.drawRoundedRect(patch, 4, 4);
    painter.setPen(colour::indigo);
    painter.drawText(patch, Qt::AlignCenter, text);
    painter.restore();
}

} // namespace

int PieceGesture::sheetOfHeld() const {
    if (!hand_.moving().empty())
        return hand_.moving().front().piece.sheet;
    return hand_.held().empty() || hand_.laid().empty() ? 0 : hand_.laid()[hand_.held().front()].sheet;
}

Box PieceGesture::heldBox() const {
    const Box box = hand_.boxOfHeld();
    return box.isEmpty() ? box : box.movedBy({along_(sheetOfHeld()), 0});
}

Point PieceGesture::knob(double reach) const {
    const Box box = heldBox();
    return {box.centre().x, box.least.y - knobAway * reach};
}

void PieceGesture::press(Point at, int sheet, double reach, Keys keys) {
    pressed_ = now_ = at;
    pressedSheet_ = sheet;
    isDragging_ = false;
    pressedPiece_.reset();
    grip_ = Grip::nothing;
    const bool mayTurn = !keys.adds || keys.stepped; // Ctrl takes hold of what lies behind the knob
    if (mayTurn && !hand_.held().empty() && !hand_.laid().empty() && distance(at, knob(reach)) <= reach) {
        grip_ = Grip::knob;
        middle_ = heldBox().centre();
        return;
    }
    pressedPiece_ = hand_.pieceAt(sheet, at - Point{along_(sheet), 0});
    if (!pressedPiece_)
        return;
    grip_ = Grip::piece;
    if (keys.adds)
        hand_.toggle(*pressedPiece_);
    else if (!hand_.isHeld(*pressedPiece_))
        hand_.hold({*pressedPiece_});
}

void PieceGesture::move(Point at, int sheet, double reach, Keys keys) {
    if (!pressed_)
        return;
    now_ = at;
    isDragging_ = isDragging_ || distance(at, *pressed_) > dragFrom * reach;
    if (!isDragging_ || grip_ == Grip::nothing)
        return;
    if (grip_ == Grip::piece) {
        if (pressedPiece_ && !hand_.isHeld(*pressedPiece_))
            return; // just let go of with Ctrl
        const Point by = at - *pressed_ + Point{along_(pressedSheet_) - along_(sheet), 0};
        return hand_.drag(by, sheet);
    }
    const Point from = *pressed_ - middle_, to = at - middle_;
    double degrees = std::atan2(cross(from, to), dot(from, to)) * 180 / std::numbers::pi;
    degrees = keys.stepped ? std::round(degrees / degreesStep) * degreesStep : std::round(degrees * 10) / 10;
    hand_.dragTurn(degrees);
}

void PieceGesture::release(Keys keys) {
    if (!pressed_)
        return;
    if (grip_ != Grip::nothing) {
        hand_.drop();
    } else if (isDragging_) {
        Box swept;
        swept.add(*pressed_ - Point{along_(pressedSheet_), 0});
        swept.add(now_ - Point{along_(pressedSheet_), 0});
        PieceHand::Numbers numbers = hand_.piecesIn(pressedSheet_, swept);
        if (keys.adds)
            numbers.insert(numbers.end(), hand_.held().begin(), hand_.held().end());
        hand_.hold(std::move(numbers));
    } else if (!keys.adds) {
        hand_.hold({});
    }
    stop();
}

void PieceGesture::stop() {
    hand_.giveUp();
    pressed_.reset();
    isDragging_ = false;
    grip_ = Grip::nothing;
}

Qt::CursorShape PieceGesture::cursor(Point at, int sheet, double reach) const {
    if (!hand_.held().empty() && !hand_.laid().empty() && distance(at, knob(reach)) <= reach)
        return Qt::PointingHandCursor;
    return hand_.pieceAt(sheet, at - Point{along_(sheet), 0}) ? Qt::SizeAllCursor : Qt::ArrowCursor;
}

bool PieceGesture::key(int key, Qt::KeyboardModifiers modifiers) {
    const bool shift = modifiers & Qt::ShiftModifier;
    if (key == Qt::Key_A && modifiers & Qt::ControlModifier) {
        hand_.holdAll();
        return true;
    }
    if (key == Qt::Key_PageDown || key == Qt::Key_PageUp) {
        hand_.walk(key == Qt::Key_PageDown ? 1 : -1);
        return true;
    }
    if (hand_.held().empty())
        return false;
    const double step = shift ? 5 : 0.5, turn = shift ? 1 : degreesStep;
    switch (key) {
    case Qt::Key_Left:
        hand_.nudge({-step, 0});
        return true;
    case Qt::Key_Right:
        hand_.nudge({step, 0});
        return true;
    case Qt::Key_Up:
        hand_.nudge({0, -step});
        return true;
    case Qt::Key_Down:
        hand_.nudge({0, step});
        return true;
    case Qt::Key_Comma:
    case Qt::Key_Less:
    case Qt::Key_Semicolon:
        hand_.turnBy(-turn);
        return true;
    case Qt::Key_Period:
    case Qt::Key_Greater:
    case Qt::Key_Colon:
        hand_.turnBy(turn);
        return true;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        hand_.remove();
        return true;
    case Qt::Key_D:
        if (!(modifiers & Qt::ControlModifier))
            return false;
        hand_.duplicate();
        return true;
    case Qt::Key_P:
        hand_.pin(!hand_.arePinned());
        return true;
    case Qt::Key_Escape:
        if (hand_.isDragging())
            stop();
        else
            hand_.hold({});
        return true;
    default:
        return false;
    }
}

void PieceGesture::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing);
    if (isDragging_ && grip_ == Grip::nothing && pressed_) {
        painter.setPen(cosmetic(colour::indigo, 1, Qt::DashLine));
        painter.setBrush(QColor(0x26, 0x4E, 0x86, 30));
        painter.drawRect(QRectF(toQt(*pressed_), toQt(now_)).normalized());
    }
    if (hand_.isDragging())
        paintWays(painter, pixelsPerMillimetre);
    else if (!hand_.held().empty())
        paintHeld(painter, pixelsPerMillimetre);
}

void PieceGesture::paintHeld(QPainter& painter, double pixelsPerMillimetre) const {
    constexpr double reach = 9, knobRadius = 5; // pixels
    const Box box = heldBox();
    if (box.isEmpty())
        return;
    painter.setPen(cosmetic(colour::indigo, 1, Qt::DashLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(toQt(box));
    painter.setPen(cosmetic(colour::indigo, 1.5));
    const Point knobAt = knob(reach / pixelsPerMillimetre);
    painter.drawLine(QPointF(box.centre().x, box.least.y), toQt(knobAt));
    painter.setBrush(Qt::white);
    painter.drawEllipse(toQt(knobAt), knobRadius / pixelsPerMillimetre, knobRadius / pixelsPerMillimetre);
}

void PieceGesture::paintWays(QPainter& painter, double pixelsPerMillimetre) const {
    const int sheet = sheetOfHeld();
    const LengthUnit unit = hand_.document().job().unit;
    for (const ShortestWay& way : hand_.ways()) {
        const QPointF from = toQt(inView(way.from, sheet)), to = toQt(inView(way.to, sheet));
        painter.setPen(cosmetic(colour::indigo, 1.5));
        painter.drawLine(from, to);
        paintText(painter, (from + to) / 2, quantityText(way.length, QuantityKind::length, unit));
    }
    constexpr double above = 14; // pixels
    const Box box = heldBox();
    paintText(painter, QPointF(box.centre().x, box.least.y - above / pixelsPerMillimetre), hand_.readout());
}

} // namespace hasami
