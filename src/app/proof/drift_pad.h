#pragma once

#include "checks/drift.h"
#include "geometry/length_text.h"

#include <QWidget>

#include <optional>

namespace hasami {

/// A small square in which the error of the cut is dragged: the middle is no error. The curve around what is
/// safe, the error that machine and printer are expected to make, and a dot for the error that is shown.
/// Arrow keys move the dot by 0.1 mm, with Shift by 1 mm; Home puts it back to the middle.
class DriftPad : public QWidget {
    Q_OBJECT
public:
    explicit DriftPad(QWidget* parent = nullptr);

    void setUnit(LengthUnit unit) { unit_ = unit; }
    /// The sheet is shown turned by a quarter, clockwise: the feed runs down, and so does the pad's.
    void setTurned(bool isTurned);
    void setLeftToRight(bool isLeftToRight); ///< the sheet is shown from behind
    void showSafe(const std::optional<SafeDrift>& safe);
    void showExpected(double error); ///< mm; 0: not known
    void showShift(Point shift);     ///< mm
    Point shift() const { return shift_; }

    QSize sizeHint() const override { return {176, 176}; }
    QPoint placeOf(Point shift) const; ///< in pixels

Q_SIGNALS:
    void shifted(hasami::Point shift);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    double pixelsPerMillimetre() const;
    Point shiftAt(QPointF pixel) const;
    void moveTo(Point shift);
    void chooseReach();

    QPointF onScreen(Point shift) const {
        const double x = isLeftToRight_ ? -shift.x : shift.x;
        return isTurned_ ? QPointF(-shift.y, x) : QPointF(x, shift.y);
    }
    Point fromScreen(QPointF p) const {
        const Point shift = isTurned_ ? Point{p.y(), -p.x()} : Point{p.x(), p.y()};
        return {isLeftToRight_ ? -shift.x : shift.x, shift.y};
    }

    LengthUnit unit_ = LengthUnit::millimetre;
    bool isTurned_ = false, isLeftToRight_ = false;
    std::optional<SafeDrift> safe_;
    double expected_ = 0;
    Point shift_;
    double reach_ = 1; ///< mm from the middle to a side
};

} // namespace hasami
