#pragma once

#include "app/runs/run_control.h"

#include <QImage>
#include <QWidget>

namespace hasami {

/// What the sensor sees around a place, magnified, with cross hairs. The arrow keys move it by a tenth of a
/// millimetre, with Shift by one; a click moves it to the pointer.
class MarkLens : public QWidget {
    Q_OBJECT
public:
    explicit MarkLens(RunControl& run, QWidget* parent = nullptr);

    void look(Point place);
    Point place() const { return place_; }

Q_SIGNALS:
    void moved(Point place);
    void accepted(); ///< Enter

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    RunControl& run_;
    Point place_;
    QImage seen_;
};

} // namespace hasami
