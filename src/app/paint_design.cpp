#include "app/paint_design.h"

#include "app/theme.h"
#include "files/paint_sticker.h"

namespace hasami {

namespace {

struct Stroke {
    double width; ///< in pixels at every zoom
    QColor colour;
};

/// Strokes on top of each other.
void paintStrokes(QPainter& painter, const QPainterPath& lines, std::initializer_list<Stroke> strokes) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    const double ratio = painter.device()->devicePixelRatioF(); // cosmetic pens count the device's own pixels
    for (const auto& [width, tint] : strokes) {
        const double wide = width * ratio;
        QPen pen(tint, wide, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(lines);
    }
    painter.restore();
}

/// A line with a white casing, so that it is seen on any artwork.
void paintCased(QPainter& painter, const QPainterPath& lines, const QColor& colour, double width) {
    paintStrokes(painter, lines, {{width * 2.4, Qt::white}, {width, colour}});
}

/// Two rails with the true course between them.
void paintRail(QPainter& painter, const QPainterPath& lines, double width) {
    paintStrokes(painter, lines,
                 {{width * 3.6, Qt::white}, {width * 2.6, colour::die}, {width * 1.2, Qt::white}});
}

} // namespace

std::shared_ptr<const Pyramid> pictureOf(Document& document, const Design& design, const Item& item) {
    const auto& asset = document.job().assets.at(item.asset);
    const MadeDesign* made = document.newest(design.id);
    if (made && item.isVector && design.recipe.edge.way == EdgeWay::lines && !made->leftOut.empty())
        if (auto printed = document.pictures().find(asset, {item.page, made->leftOut}))
            return printed;
    return document.pictures().find(asset, {item.page, {}});
}

void DesignPainting::artwork(QPainter& painter) const {
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    for (const Item& item : design.artwork.items) {
        const auto pyramid = pictureOf(document, design, item);
        if (!pyramid)
            continue;
        const double ratio = painter.device()->devicePixelRatioF();
        paintItem(painter, item, pyramid->atLeast(item.place.width * pixelsPerMillimetre * ratio));
    }
}

void DesignPainting::printed(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    if (sticker.border)
        fillArea(painter, sticker.border->under, sticker.border->colour);
    artwork(painter);
    if (sticker.border)
        fillArea(painter, sticker.border->over, sticker.border->colour);
}

void DesignPainting::vinyl(QPainter& painter) const {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillPath(painterPath(sticker.peeled()), Qt::white);
}

void DesignPainting::peeled(QPainter& painter) const {
    vinyl(painter);
    painter.save();
    painter.setClipPath(painterPath(sticker.peeled()), Qt::IntersectClip);
    printed(painter);
    painter.restore();
}

void DesignPainting::cutLines(QPainter& painter, double width) const {
    paintCutLines(painter, linePaths(sticker), width);
}

LinePaths linePaths(const Sticker& sticker) {
    LinePaths paths;
    for (const LineKind kind : lineKinds) {
        std::vector<Curve> curves;
        for (const CutLine& line : sticker.lines)
            if (line.kind == kind)
                curves.push_back(line.curve);
        paths[std::size_t(kind)] = painterPath(curves);
    }
    return paths;
}

void paintCutLines(QPainter& painter, const LinePaths& lines, double width) {
    const QPainterPath& die = lines[std::size_t(LineKind::die)];
    if (!die.isEmpty())
        paintRail(painter, die, width);
    paintCased(painter, lines[std::size_t(LineKind::kiss)], colour::kiss, width);
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
