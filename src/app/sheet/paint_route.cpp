#include "app/sheet/paint_route.h"

#include "app/kit/theme.h"

#include <QPainterPath>

#include <algorithm>
#include <array>

namespace hasami {

namespace {

/// The stretch up to where the knife is by then.
QPolygonF partUntil(const RouteBar::Stretch& stretch, double now) {
    if (stretch.to <= now || stretch.points.size() < 2)
        return stretch.points;
    double whole = 0;
    for (qsizetype i = 1; i < stretch.points.size(); ++i)
        whole += QLineF(stretch.points[i - 1], stretch.points[i]).length();
    double left = whole * (now - stretch.from) / std::max(stretch.to - stretch.from, 1e-9);
    QPolygonF part{stretch.points.front()};
    for (qsizetype i = 1; i < stretch.points.size(); ++i) {
        const QLineF side(stretch.points[i - 1], stretch.points[i]);
        if (side.length() >= left) {
            part << side.pointAt(side.length() > 0 ? left / side.length() : 0);
            break;
        }
        left -= side.length();
        part << side.p2();
    }
    return part;
}

} // namespace

void paintRoute(QPainter& painter, const RouteBar& route, const std::function<double(std::size_t)>& along,
                const QRectF& all, double pixelsPerMillimetre) {
    constexpr std::array tints{&colour::kiss, &colour::crease, &colour::die, &colour::die};
    const double now = route.now();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    std::array<QPainterPath, lineKinds.size()> cut;
    QPainterPath travel;
    QPointF knife;
    for (const RouteBar::Stretch& stretch : route.way()) {
        if (stretch.from > now)
            break;
        const QPolygonF points = partUntil(stretch, now).translated(along(stretch.sheet), 0);
        (stretch.isCut ? cut[std::size_t(stretch.kind)] : travel).addPolygon(points);
        knife = points.back();
    }
    painter.fillRect(all, QColor(255, 255, 255, 150));
    const auto draw = [&](const QPainterPath& path, const QColor& tint, double width, Qt::PenStyle style) {
        QPen pen(tint, width, style);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(path);
    };
    draw(travel, colour::quiet, 1, Qt::DotLine);
    for (const LineKind kind : lineKinds)
        draw(cut[std::size_t(kind)], *tints[std::size_t(kind)], 2, Qt::SolidLine);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour::indigo);
    const double radius = 4 / pixelsPerMillimetre;
    painter.drawEllipse(knife, radius, radius);
}

} // namespace hasami
