#include "app/run/mark_lens.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double across = 14; // mm that are seen

} // namespace

MarkLens::MarkLens(RunControl& run, QWidget* parent) : QWidget(parent), run_(run) {
    setObjectName("Mark lens");
    setAccessibleName(tr("Magnified view of a mark"));
    setToolTip(tr("Arrow keys move the cross hairs by 0.1 mm, with Shift by 1 mm; Enter takes the place"));
    setFocusPolicy(Qt::StrongFocus);
    setFixedHeight(180);
}

void MarkLens::look(Point place) {
    place_ = place;
    const SensorView view = run_.machine().look(place, across);
    seen_ = QImage(view.light.width(), view.light.height(), QImage::Format_Grayscale8);
    for (int row = 0; row < seen_.height(); ++row) {
        uchar* line = seen_.scanLine(row);
        for (int column = 0; column < seen_.width(); ++column)
            line[column] = uchar(std::clamp(view.light.at(column, row) * 255, 0.0F, 255.0F));
    }
    update();
    Q_EMIT moved(place_);
}

void MarkLens::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), colour::ink);
    const double side = height();
    const QRectF square((width() - side) / 2, 0, side, side);
    if (!seen_.isNull())
        painter.drawImage(square, seen_);
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& [tint, wide] : {std::pair(QColor(Qt::white), 3.0), std::pair(colour::die, 1.2)}) {
        painter.setPen(QPen(tint, wide));
        painter.drawLine(QPointF(square.left(), square.center().y()),
                         QPointF(square.right(), square.center().y()));
        painter.drawLine(QPointF(square.center().x(), square.top()),
                         QPointF(square.center().x(), square.bottom()));
    }
    if (hasFocus()) {
        painter.setPen(QPen(coloursOf(palette()).indigo, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

void MarkLens::keyPressEvent(QKeyEvent* event) {
    const double step = event->modifiers() & Qt::ShiftModifier ? 1 : 0.1; // mm
    switch (event->key()) {
    case Qt::Key_Left:
        return look(place_ - Point{step, 0});
    case Qt::Key_Right:
        return look(place_ + Point{step, 0});
    case Qt::Key_Up:
        return look(place_ - Point{0, step});
    case Qt::Key_Down:
        return look(place_ + Point{0, step});
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return Q_EMIT accepted();
    default:
        QWidget::keyPressEvent(event);
    }
}

void MarkLens::mousePressEvent(QMouseEvent* event) {
    setFocus();
    const double scale = height() / across; // pixels a mm
    const QPointF off = event->position() - QPointF(width() / 2.0, height() / 2.0);
    look(place_ + Point{off.x() / scale, off.y() / scale});
}

} // namespace hasami
