#include "app/sheet/nest_curve.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace hasami {

NestCurve::NestCurve(const NestRun& nest, QWidget* parent) : QWidget(parent), nest_(nest) {
    setObjectName("Density curve");
    setAccessibleName(tr("Density over time"));
    setToolTip(tr("How much of the medium the stickers cover, from the start of the search until now"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&nest, &NestRun::changed, this, qOverload<>(&QWidget::update));
}

/// Steps from one better layout to the next, between whole percents below and above.
void NestCurve::paintEvent(QPaintEvent*) {
    const auto& curve = nest_.curve();
    if (curve.empty())
        return;
    const Colours& c = coloursOf(palette());
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    const double axis = 32; // pixels for the figures
    const QRectF room = QRectF(rect()).adjusted(axis, 6, -1, -6);
    double least = 1, most = 0;
    for (const NestRun::Sample& sample : curve) {
        least = std::min(least, sample.density);
        most = std::max(most, sample.density);
    }
    least = std::floor(least * 100) / 100;
    most = std::max(std::ceil(most * 100) / 100, least + 0.01);
    const double end = std::max(curve.back().seconds, nest_.isOn() ? nest_.seconds() : 0.0);
    const auto at = [&](double seconds, double density) {
        return QPointF(room.left() + room.width() * (end > 0 ? seconds / end : 0),
                       room.bottom() - room.height() * (density - least) / (most - least));
    };
    painter.setPen(QPen(c.rule, 1));
    painter.drawLine(room.topLeft(), room.topRight());
    painter.drawLine(room.bottomLeft(), room.bottomRight());
    painter.setPen(c.quiet);
    for (const double density : {least, most})
        painter.drawText(QRectF(0, at(0, density).y() - 7, axis - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                         QString("%1 %").arg(std::round(density * 100)));
    QPolygonF line;
    for (std::size_t i = 0; i < curve.size(); ++i) {
        if (i > 0)
            line << at(curve[i].seconds, curve[i - 1].density);
        line << at(i == 0 ? 0 : curve[i].seconds, curve[i].density);
    }
    line << at(end, curve.back().density);
    painter.setPen(QPen(c.indigo, 1.5));
    painter.drawPolyline(line);
}

} // namespace hasami
