#include "app/paint/paint_design.h"

#include "app/kit/theme.h"
#include "files/drawing_file.h"
#include "files/paint_sticker.h"
#include "job/white_place.h"

namespace hasami {

namespace {

struct Stroke {
    double width; ///< in pixels at every zoom
    QColor colour;
};

/// Strokes on top of each other.
void paintStrokes(QPainter& painter, const QPainterPath& lines, std::initializer_list<Stroke> strokes,
                  Qt::PenCapStyle cap = Qt::RoundCap) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    const double ratio = painter.device()->devicePixelRatioF(); // cosmetic pens count the device's own pixels
    for (const auto& [width, tint] : strokes) {
        const double wide = width * ratio;
        QPen pen(tint, wide, Qt::SolidLine, cap, Qt::RoundJoin);
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

/// Dots and dashes with a white casing.
void paintCrease(QPainter& painter, const QPainterPath& lines, double width) {
    paintStrokes(painter, lines, {{width * 2.4, Qt::white}});
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    QPen pen(colour::crease, width * painter.device()->devicePixelRatioF(), Qt::DashDotLine, Qt::FlatCap);
    pen.setCosmetic(true);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(lines);
    painter.restore();
}

/// Two rails with the true course between them.
void paintRail(QPainter& painter, const QPainterPath& lines, double width) {
    paintStrokes(painter, lines,
                 {{width * 3.6, Qt::white}, {width * 2.6, colour::die}, {width * 1.2, Qt::white}},
                 Qt::FlatCap); // tabs are seen as long as they are
}

} // namespace

std::shared_ptr<const Pyramid> pictureOf(Document& document, const Design& design, const Item& item) {
    const auto& asset = assetOf(document.job(), item);
    const MadeDesign* made = document.newest(design.id);
    if (made && item.isVector() && !made->leftOut.empty())
        if (auto printed = document.pictures().find(asset, {item.page(), made->leftOut}))
            return printed;
    return document.pictures().find(asset, {item.page(), {}});
}

/// Own artwork is painted by its outlines, sharp at every zoom and at once.
void DesignPainting::paintOwn(QPainter& painter, const Item& item) const {
    const Drawing& drawing = *item.own()->drawing->drawing;
    painter.save();
    painter.setTransform(toQt(item.toDesign() * Affine::scaling(item.place.width / drawing.width,
                                                                item.place.height / drawing.height)),
                         true);
    paintDrawing(painter, drawing, [&](const Asset& asset, const PictureFill& fill) {
        const auto known = std::ranges::find_if(drawing.pictures,
                                                [&](const auto& picture) { return picture.get() == &asset; });
        const auto pyramid = document.pictures().find(*known, {fill.file.page, {}});
        const double ratio = painter.device()->devicePixelRatioF();
        return pyramid ? pyramid->atLeast(fill.place.width * pixelsPerMillimetre * ratio) : QImage();
    });
    painter.restore();
}

void DesignPainting::artwork(QPainter& painter) const {
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    for (const Item& item : design.artwork.items) {
        if (item.own()) {
            paintOwn(painter, item);
            continue;
        }
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
        fillArea(painter, sticker.border->under, sticker.border->colour.shown);
    if (withBleed && sticker.bleed && !sticker.bleed->isOver)
        bleed(painter);
    painter.save();
    clipWithin(painter, sticker);
    artwork(painter);
    painter.restore();
    if (withBleed && sticker.bleed && sticker.bleed->isOver)
        bleed(painter);
    if (sticker.border)
        fillArea(painter, sticker.border->over, sticker.border->colour.shown);
}

void DesignPainting::bleed(QPainter& painter) const {
    const MadeDesign* made = result();
    if (!made)
        return;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    QImage colours;
    if (made->bleed)
        if (const auto pyramid = document.pictures().find(made->bleed)) {
            const double ratio = painter.device()->devicePixelRatioF();
            const double wide = std::hypot(made->bleed->fromPixels.a, made->bleed->fromPixels.b);
            colours =
                pyramid->atLeast(made->bleed->picture.pixels.width() * wide * pixelsPerMillimetre * ratio);
        }
    paintBleed(painter, sticker, made->recipe.bleed, colours,
               colours.isNull() ? Affine{} : fromPixelsOf(*made->bleed, colours.size()));
}

namespace {

/// For telling inks apart; white is seen on the dark ground that it is meant for.
QColor tintOf(InkKind ink) {
    constexpr std::array tints{0xFFFFFF, 0xD9C8F0, 0xC9E2C4};
    return QColor(QRgb(tints[std::size_t(ink)]));
}

void paintInk(QPainter& painter, const PrintedInk& ink, const QColor& tint) {
    const QPainterPath area = painterPath(ink.area);
    if (!ink.graded)
        return painter.fillPath(area, tint);
    const Grid<std::uint8_t>& amounts = ink.graded->amounts;
    QImage image(amounts.width(), amounts.height(), QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < amounts.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(image.scanLine(y));
        for (int x = 0; x < amounts.width(); ++x)
            row[x] = qPremultiply(qRgba(tint.red(), tint.green(), tint.blue(), amounts.at(x, y)));
    }
    painter.save();
    painter.setClipPath(area, Qt::IntersectClip);
    painter.setTransform(toQt(ink.graded->fromPixels), true);
    painter.drawImage(QPointF(0, 0), image);
    painter.restore();
}

} // namespace

void DesignPainting::inks(QPainter& painter, std::optional<InkKind> only) const {
    const MadeDesign* made = result();
    const Box& box = sticker.footprint;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(QRectF(box.least.x, box.least.y, box.width(), box.height()), colour::ink);
    if (made)
        for (const auto& ink : made->inks)
            if (!only || ink->ink == *only)
                paintInk(painter, *ink, tintOf(ink->ink));
}

void DesignPainting::ink(QPainter& painter, const PrintedInk& ink, const QColor& tint) const {
    painter.setRenderHint(QPainter::Antialiasing);
    paintInk(painter, ink, tint);
}

/// Colours let through what is behind them, but not each other: they are drawn aside first.
QImage DesignPainting::printedAside(QPainter& painter) const {
    const double ratio = painter.device()->devicePixelRatioF();
    QImage colours(QSize(painter.device()->width(), painter.device()->height()) * ratio,
                   QImage::Format_ARGB32_Premultiplied);
    colours.setDevicePixelRatio(ratio);
    colours.fill(Qt::transparent);
    QPainter aside(&colours);
    aside.setTransform(painter.worldTransform());
    printed(aside);
    return colours;
}

void DesignPainting::onGround(QPainter& painter, const QColor& ground) const {
    const MadeDesign* made = result();
    const QImage colours = printedAside(painter);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.save();
    painter.setClipPath(painterPath(sticker.peeled()), Qt::IntersectClip);
    painter.fillPath(painterPath(sticker.peeled()), ground);
    for (const InkOrder::Pass& pass : document.job().profile.printer.inkOrder.seen(isSeenThrough(design))) {
        painter.save();
        if (!pass) {
            painter.setCompositionMode(QPainter::CompositionMode_Multiply);
            painter.resetTransform();
            painter.drawImage(QPointF(0, 0), colours);
        } else if (made && *pass == InkKind::white) {
            for (const auto& ink : made->inks)
                if (ink->ink == InkKind::white)
                    paintInk(painter, *ink, tintOf(ink->ink));
        }
        painter.restore();
    }
    painter.restore();
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
    paintCutLines(painter, linePaths(sticker.lines), width);
}

void DesignPainting::notCut(QPainter& painter) const {
    paintNotCut(painter, painterPath(sticker.leftOut));
}

void paintNotCut(QPainter& painter, const QPainterPath& lines) {
    paintStrokes(painter, lines, {{1.5, Qt::white}});
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    QPen pen(colour::quiet, 1.5 * painter.device()->devicePixelRatioF(), Qt::DotLine);
    pen.setCosmetic(true);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(lines);
    painter.restore();
}

LinePaths linePaths(const std::vector<CutLine>& lines) {
    LinePaths paths;
    for (const CutLine& line : lines)
        for (const Subpath& run : line.cut())
            paths[std::size_t(line.kind)].addPath(painterPath(run));
    return paths;
}

void paintCutLines(QPainter& painter, const LinePaths& lines, double width) {
    for (const LineKind kind : {LineKind::die, LineKind::perforated})
        if (const QPainterPath& rails = lines[std::size_t(kind)]; !rails.isEmpty())
            paintRail(painter, rails, width);
    if (const QPainterPath& crease = lines[std::size_t(LineKind::crease)]; !crease.isEmpty())
        paintCrease(painter, crease, width);
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
