#include "app/paint_design.h"

#include "app/theme.h"
#include "files/paint_sticker.h"

namespace hasami {

namespace {

/// A line with a white casing, so that it is seen on any artwork; widths in pixels at every zoom.
void paintCased(QPainter& painter, const QPainterPath& lines, const QColor& colour, double width) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    width *= painter.device()->devicePixelRatioF(); // cosmetic pens count the device's own pixels
    for (const auto& [wide, tint] : {std::pair(width * 2.4, QColor(Qt::white)), std::pair(width, colour)}) {
        QPen pen(tint, wide, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(lines);
    }
    painter.restore();
}

} // namespace

void DesignPainting::artwork(QPainter& painter) const {
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    for (const Item& item : design.artwork.items) {
        const auto pyramid = document.pictures().find(document.job().assets.at(item.asset));
        if (!pyramid)
            continue;
        const Placement& p = item.place;
        const double ratio = painter.device()->devicePixelRatioF();
        painter.drawImage(QRectF(p.at.x, p.at.y, p.width, p.height),
                          pyramid->atLeast(p.width * pixelsPerMillimetre * ratio));
    }
}

void DesignPainting::vinyl(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillPath(painterPath(sticker.lines), Qt::white);
}

void DesignPainting::peeled(QPainter& painter) const {
    vinyl(painter);
    painter.save();
    painter.setClipPath(painterPath(sticker.lines), Qt::IntersectClip);
    artwork(painter);
    painter.restore();
}

void DesignPainting::kissLines(QPainter& painter, double width) const {
    paintKissLines(painter, painterPath(sticker.lines), width);
}

void paintKissLines(QPainter& painter, const QPainterPath& lines, double width) {
    paintCased(painter, lines, colour::kiss, width);
}

void DesignPainting::edge(QPainter& painter) const {
    const QPainterPath& live = document.liveEdge(design);
    paintCased(painter, live.isEmpty() ? painterPath(sticker.edge) : live, colour::ink, 1.5);
}

void DesignPainting::edgePoints(QPainter& painter) const {
    if (!document.liveEdge(design).isEmpty())
        return; // its points are not known yet
    painter.save();
    painter.setPen(QPen(Qt::white, 0));
    painter.setBrush(colour::indigo);
    const double radius = 3.5 / pixelsPerMillimetre;
    for (const Curve& curve : sticker.edge)
        for (const CurveSegment& s : curve.segments)
            painter.drawEllipse(QPointF(s.end.x, s.end.y), radius, radius);
    painter.restore();
}

const Sticker& stickerOf(const Document& document, const std::string& design) {
    static const Sticker none;
    const MadeDesign* found = document.newest(design);
    return found ? *found->sticker : none;
}

} // namespace hasami
