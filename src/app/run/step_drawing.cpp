#include "app/run/step_drawing.h"

#include "app/kit/theme.h"

#include <QPainter>

#include <cmath>

namespace hasami {

namespace {

/// Draws with one pen, strokes of 1.5 pixels.
class Sketch {
public:
    Sketch(QPainter& painter, const Colours& colours) : painter_(painter), colours_(colours) {
        painter.setRenderHint(QPainter::Antialiasing);
        plain();
    }
    void plain() { painter_.setPen(QPen(colours_.ink, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin)); }
    void accent() { painter_.setPen(QPen(colours_.indigo, 2.2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin)); }

    void box(const QRectF& box, bool isPaper = false) {
        painter_.setBrush(isPaper ? QBrush(Qt::white) : QBrush(colours_.panel));
        painter_.drawRoundedRect(box, isPaper ? 1 : 5, isPaper ? 1 : 5);
    }
    void disc(QPointF at, double radius) {
        painter_.setBrush(QColor(0x26, 0x30, 0x2E));
        painter_.drawEllipse(at, radius, radius);
    }
    void ring(QPointF at, double radius) {
        painter_.setBrush(Qt::NoBrush);
        painter_.drawEllipse(at, radius, radius);
    }
    void line(QPointF from, QPointF to) { painter_.drawLine(from, to); }
    void arrow(QPointF from, QPointF to) {
        line(from, to);
        const QPointF along = (to - from) / std::hypot(to.x() - from.x(), to.y() - from.y());
        const QPointF across(-along.y(), along.x());
        line(to, to - along * 8 + across * 5);
        line(to, to - along * 8 - across * 5);
    }
    void sticker(QPointF at, double size, Qt::PenStyle style = Qt::SolidLine) {
        QPen pen(colour::kiss, 2);
        pen.setStyle(style);
        painter_.setPen(pen);
        painter_.setBrush(QColor(0xF2, 0xB9, 0x3B));
        painter_.drawEllipse(at, size, size * 0.8);
        plain();
    }
    /// A sheet with marks at its corners, seen from above.
    void sheet(const QRectF& area) {
        box(area, true);
        for (const QPointF corner : {area.topLeft(), area.topRight(), area.bottomLeft(), area.bottomRight()})
            disc(corner + (area.center() - corner) * 0.17, 3);
    }
    void cutter() { // its beam across the bed
        box({30, 48, 204, 34});
        line({30, 65}, {234, 65});
    }
    void head(double x) { box({x - 11, 42, 22, 46}); }

private:
    QPainter& painter_;
    const Colours& colours_;
};

} // namespace

StepDrawing::StepDrawing(QWidget* parent) : QWidget(parent) {
    setFixedHeight(132);
}

void StepDrawing::showStep(RunTask task, bool isThrough, bool isWrong) {
    task_ = task;
    isThrough_ = isThrough;
    isWrong_ = isWrong;
    update();
}

void StepDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.translate((width() - 264) / 2.0, 0);
    Sketch draw(painter, coloursOf(palette()));
    switch (task_) {
    case RunTask::print:
        draw.box({62, 20, 140, 44});
        draw.sheet({84, 56, 96, 66});
        draw.accent();
        draw.arrow({214, 66}, {214, 112});
        break;
    case RunTask::load:
        draw.sheet({92, 10, 80, 92});
        draw.cutter();
        draw.accent();
        draw.arrow({200, 126}, {200, 92});
        draw.arrow({132, 126}, {132, 108});
        break;
    case RunTask::findMarks:
        draw.sheet({82, 8, 100, 116});
        draw.accent();
        for (const QPointF mark :
             {QPointF(90.5, 17.9), QPointF(173.5, 17.9), QPointF(90.5, 114.1), QPointF(173.5, 114.1)})
            draw.ring(mark, 9);
        break;
    case RunTask::cut:
        draw.sheet({82, 6, 100, 120});
        draw.sticker({132, 96}, 22, isThrough_ ? Qt::DashLine : Qt::SolidLine);
        draw.cutter();
        draw.head(132);
        break;
    case RunTask::changeTool:
        draw.box({102, 22, 60, 34});
        draw.box({120, 62, 24, 40});
        draw.line({120, 102}, {132, 122});
        draw.line({144, 102}, {132, 122});
        draw.accent();
        draw.arrow({186, 112}, {186, 66});
        break;
    case RunTask::weed:
        draw.box({50, 28, 164, 80}, true);
        draw.sticker({92, 68}, 24);
        draw.sticker({166, 60}, 24);
        draw.accent();
        draw.arrow({172, 44}, {196, 18});
        break;
    }
    if (isWrong_) {
        painter.setPen(QPen(coloursOf(palette()).warning, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(QPolygonF({{232, 10}, {250, 40}, {214, 40}}));
        painter.drawLine(QPointF(232, 20), QPointF(232, 30));
        painter.drawPoint(QPointF(232, 35));
    }
}

} // namespace hasami
