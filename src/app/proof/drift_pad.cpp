#include "app/proof/drift_pad.h"

#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double margin = 8;                // pixels
constexpr double step = 0.1, largeStep = 1; // mm

} // namespace

DriftPad::DriftPad(QWidget* parent) : QWidget(parent) {
    setObjectName("Drift pad");
    setAccessibleName(tr("Drift pad"));
    setToolTip(tr("Drag the dot, or press the arrow keys: the cut lies off the print by as much. "
                  "Double-click puts it back"));
    setFocusPolicy(Qt::StrongFocus);
    setFixedSize(sizeHint());
    setCursor(Qt::CrossCursor);
}

void DriftPad::setTurned(bool isTurned) {
    isTurned_ = isTurned;
    update();
}

void DriftPad::setLeftToRight(bool isLeftToRight) {
    isLeftToRight_ = isLeftToRight;
    update();
}

void DriftPad::showSafe(const std::optional<SafeDrift>& safe) {
    safe_ = safe;
    chooseReach();
    update();
}

void DriftPad::showExpected(double error) {
    expected_ = error;
    chooseReach();
    update();
}

void DriftPad::showShift(Point shift) {
    shift_ = shift;
    chooseReach();
    const QString where = tr("%1 along, %2 across")
                              .arg(quantityText(shift.x, QuantityKind::length, unit_),
                                   quantityText(shift.y, QuantityKind::length, unit_));
    setAccessibleDescription(where);
    update();
}

/// As wide as what is shown needs, in steps that keep it still while the dot is dragged.
void DriftPad::chooseReach() {
    double needed = std::max({expected_ * 1.25, 0.5, std::abs(shift_.x), std::abs(shift_.y)});
    if (safe_)
        needed = std::max(needed, std::min(1.5 * safe_->least().reach, SafeDrift::most));
    constexpr double steps[] = {0.5, 1, 2, 3, 5};
    for (const double reach : steps)
        if (reach >= needed || reach == 5) {
            reach_ = reach;
            return;
        }
}

double DriftPad::pixelsPerMillimetre() const {
    return (width() / 2.0 - margin) / reach_;
}

QPoint DriftPad::placeOf(Point shift) const {
    return (QPointF(width() / 2.0, height() / 2.0) + onScreen(shift) * pixelsPerMillimetre()).toPoint();
}

Point DriftPad::shiftAt(QPointF pixel) const {
    const QPointF from = (pixel - QPointF(width() / 2.0, height() / 2.0)) / pixelsPerMillimetre();
    const auto held = [&](double value) {
        return std::clamp(std::round(value * 100) / 100, -reach_, reach_);
    };
    const Point shift = fromScreen(from);
    return {held(shift.x), held(shift.y)};
}

void DriftPad::moveTo(Point shift) {
    const double most = SafeDrift::most;
    shift = {std::clamp(shift.x, -most, most), std::clamp(shift.y, -most, most)};
    if (shift == shift_)
        return;
    showShift(shift);
    Q_EMIT shifted(shift);
}

void DriftPad::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours& colours = coloursOf(palette());
    const double scale = pixelsPerMillimetre();
    const QRectF frame = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(hasFocus() ? colours.indigo : colours.rule, hasFocus() ? 2 : 1));
    painter.setBrush(colours.field);
    painter.drawRoundedRect(frame, 8, 8);
    painter.translate(width() / 2.0, height() / 2.0);
    painter.setPen(QPen(colours.rule, 1));
    painter.drawLine(QPointF(-reach_ * scale, 0), QPointF(reach_ * scale, 0));
    painter.drawLine(QPointF(0, -reach_ * scale), QPointF(0, reach_ * scale));
    if (safe_) {
        QPolygonF curve;
        for (std::size_t i = 0; i < SafeDrift::directions; ++i) {
            const Point at = SafeDrift::direction(i) * (std::min(safe_->limits[i].reach, 2 * reach_) * scale);
            curve << onScreen(at);
        }
        painter.save();
        painter.setClipRect(QRectF(-reach_ * scale - 4, -reach_ * scale - 4, 2 * (reach_ * scale + 4),
                                   2 * (reach_ * scale + 4)));
        painter.setPen(QPen(colour::kiss, 2));
        QColor inside = colour::kiss;
        inside.setAlpha(40);
        painter.setBrush(inside);
        painter.drawPolygon(curve);
        painter.restore();
    }
    if (expected_ > 0) {
        painter.setPen(QPen(colours.quiet, 1.5, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(QPointF(0, 0), expected_ * scale, expected_ * scale);
    }
    const bool isSafe = !safe_ || safe_->holds(shift_);
    painter.setPen(QPen(colours.field, 1.5));
    painter.setBrush(isSafe ? colours.indigo : colour::die);
    const QPointF dot = onScreen(shift_) * scale;
    if (isSafe)
        painter.drawEllipse(dot, 6, 6);
    else
        painter.drawRect(QRectF(dot - QPointF(5.5, 5.5), QSizeF(11, 11)));
    painter.setPen(colours.quiet);
    painter.resetTransform();
    painter.drawText(QRectF(frame).adjusted(8, 4, -8, -4), Qt::AlignRight | Qt::AlignBottom,
                     "±" + quantityText(reach_, QuantityKind::length, unit_));
}

void DriftPad::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        moveTo(shiftAt(event->position()));
}

void DriftPad::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton)
        moveTo(shiftAt(event->position()));
}

void DriftPad::mouseDoubleClickEvent(QMouseEvent*) {
    moveTo({});
}

void DriftPad::keyPressEvent(QKeyEvent* event) {
    const double by = event->modifiers() & Qt::ShiftModifier ? largeStep : step;
    switch (event->key()) {
    case Qt::Key_Left:
        return moveTo(shift_ + fromScreen({-by, 0}));
    case Qt::Key_Right:
        return moveTo(shift_ + fromScreen({by, 0}));
    case Qt::Key_Up:
        return moveTo(shift_ + fromScreen({0, -by}));
    case Qt::Key_Down:
        return moveTo(shift_ + fromScreen({0, by}));
    case Qt::Key_Home:
        return moveTo({});
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace hasami
