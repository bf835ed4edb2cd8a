#include "app/proof/count_curve.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QLocale>
#include <QPainter>

#include <algorithm>

namespace hasami {

CountCurve::CountCurve(QWidget* parent) : QWidget(parent) {
    setObjectName("Count curve");
    setAccessibleName(tr("Medium for each over the count"));
    setToolTip(tr("The medium for each sticker, by the number made; dots mark numbers that fill a row"));
    setFixedHeight(sizeHint().height());
}

void CountCurve::show(std::vector<CountCost> costs, int now, bool isMoney) {
    costs_ = std::move(costs);
    now_ = now;
    isMoney_ = isMoney;
    update();
}

void CountCurve::paintEvent(QPaintEvent*) {
    if (costs_.size() < 2)
        return;
    const Colours& c = coloursOf(palette());
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    const QRectF room = QRectF(rect()).adjusted(40, 6, -6, -18);
    // The first few cost several times as much as all others: they are left out above.
    const double last = costs_.back().medium, most = std::min(costs_.front().medium, 4 * last);
    const int end = costs_.back().count;
    const auto at = [&](double count, double value) {
        return QPointF(room.left() + room.width() * count / end,
                       room.bottom() - room.height() * std::min(value, most) / most);
    };
    painter.setPen(QPen(c.rule, 1));
    painter.drawLine(room.topLeft(), room.bottomLeft());
    painter.drawLine(room.bottomLeft(), room.bottomRight());
    painter.setPen(c.quiet);
    const auto words = [&](double value) {
        return isMoney_ ? QLocale().toString(value, 'f', value < 1 ? 3 : 2)
                        : QLocale().toString(value, 'f', 1);
    };
    for (const double value : {last, most})
        painter.drawText(QRectF(0, at(0, value).y() - 7, 36, 14), Qt::AlignRight | Qt::AlignVCenter,
                         words(value));
    painter.drawText(QRectF(room.left(), room.bottom() + 2, room.width(), 14), Qt::AlignRight,
                     QString::number(end));
    painter.drawText(QRectF(room.left(), room.bottom() + 2, room.width(), 14), Qt::AlignLeft,
                     isMoney_ ? tr("Money for each") : tr("mm for each"));
    QPolygonF line;
    for (const CountCost& cost : costs_)
        line << at(cost.count, cost.medium);
    painter.setPen(QPen(c.indigo, 1.5));
    painter.drawPolyline(line);
    painter.setBrush(c.indigo);
    for (const CountCost& cost : costs_)
        if (cost.isGood)
            painter.drawEllipse(at(cost.count, cost.medium), 2.5, 2.5);
    if (now_ > 0 && now_ <= end) {
        painter.setPen(QPen(colour::die, 1.5, Qt::DashLine));
        painter.drawLine(at(now_, 0), at(now_, most));
    }
}

} // namespace hasami
