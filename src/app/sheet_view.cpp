#include "app/sheet_view.h"

#include "app/paint_design.h"
#include "app/theme.h"
#include "files/paint_sticker.h"

#include <algorithm>
#include <array>

namespace hasami {

namespace {

constexpr double betweenSheets = 40;   // mm
constexpr double sharpestStamp = 4096; // pixels; a larger one is stretched
constexpr double smallStamp = 160;     // pixels; up to this a piece is laid down whole, to the nearest pixel
constexpr double stampMargin = 4;      // pixels, for the line's width
constexpr double finestLine = 1.2; // pixels a mm; further away a line would be wider than the stickers' gaps

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

QRectF toRect(const Box& box) {
    return {box.least.x, box.least.y, box.width(), box.height()};
}

} // namespace

SheetView::SheetView(Document& document, QWidget* parent) : CanvasView(parent), document_(document) {
    setObjectName("Sheet view");
    setAccessibleName("Sheet");
    setAccessibleDescription("The medium with all stickers and marks");
    connect(&document, &Document::madeChanged, this, [this] {
        std::erase_if(stamps_, [this](const auto& entry) { return !document_.job().find(entry.first); });
        contentChanged();
    });
    connect(&document.pictures(), &PictureCache::ready, this, [this] {
        stamps_.clear();
        redraw();
    });
}

QRectF SheetView::content() const {
    const auto& sheets = document_.made()->layout.sheets;
    if (sheets.empty())
        return {};
    double length = betweenSheets * double(sheets.size() - 1);
    for (const Sheet& sheet : sheets)
        length += sheet.length;
    return {0, 0, length, document_.job().plan.medium.width};
}

void SheetView::paintContent(QPainter& painter, const QRectF& visible) {
    double at = 0;
    for (const Sheet& sheet : document_.made()->layout.sheets) {
        painter.save();
        painter.translate(at, 0);
        paintSheet(painter, sheet, visible.translated(-at, 0));
        painter.restore();
        at += sheet.length + betweenSheets;
    }
}

void SheetView::paintSheet(QPainter& painter, const Sheet& sheet, const QRectF& visible) {
    const double width = document_.job().plan.medium.width;
    if (!visible.intersects(QRectF(0, 0, sheet.length, width)))
        return;
    paintMedium(painter, sheet);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    std::map<std::string_view, const Sticker*> stickers;
    for (const MadeDesign& made : document_.made()->designs)
        stickers[made.design] = made.sticker.get();
    const hasami::Box seen{{visible.left(), visible.top()}, {visible.right(), visible.bottom()}};
    for (const Piece& piece : sheet.pieces) {
        const Sticker& sticker = *stickers.at(piece.design);
        if (seen.meets(boundsOfMapped(sticker.footprint, piece.place)))
            paintPiece(painter, piece, sticker);
    }
    paintCutLines(painter, linePaths(sheet.lines), lineWidth());
    paintMarks(painter, sheet);
}

void SheetView::paintPiece(QPainter& painter, const Piece& piece, const Sticker& sticker) {
    const Stamp& stamp = stampOf(piece.design);
    const QTransform place = toQt(piece.place);
    const QTransform toPixels = place * painter.worldTransform();
    if (stamp.withLines && place.type() <= QTransform::TxTranslate) {
        const double ratio = painter.device()->devicePixelRatioF();
        const Point corner = sticker.footprint.least;
        const QPointF at = toPixels.map(QPointF(corner.x, corner.y)) - QPointF(stampMargin, stampMargin);
        const QTransform before = painter.worldTransform();
        painter.setWorldTransform({});
        painter.drawPixmap(QPointF((at * ratio).toPoint()) / ratio, stamp.pixmap);
        painter.setWorldTransform(before);
        return;
    }
    painter.save();
    painter.setTransform(place, true);
    const double margin = stamp.withLines ? stampMargin * stamp.pixmap.devicePixelRatio() : 0;
    if (!stamp.pixmap.isNull())
        painter.drawPixmap(toRect(sticker.footprint), stamp.pixmap,
                           QRectF(stamp.pixmap.rect()).adjusted(margin, margin, -margin, -margin));
    paintCutLines(painter, stamp.lines, lineWidth());
    painter.restore();
}

double SheetView::lineWidth() const {
    return pixelsPerMillimetre() >= finestLine ? 1.5 : 0.8;
}

void SheetView::paintMedium(QPainter& painter, const Sheet& sheet) const {
    const double width = document_.job().plan.medium.width;
    const Profile::Reach& reach = document_.job().profile.reach;
    const QRectF medium(0, 0, sheet.length, width);
    painter.setRenderHint(QPainter::Antialiasing, false);
    const double shade = 3 / pixelsPerMillimetre();
    painter.fillRect(medium.translated(shade, shade), QColor(0, 0, 0, 28));
    painter.fillRect(medium, Qt::white);

    QBrush hatch(QColor(0xC9, 0xC3, 0xB4), Qt::BDiagPattern);
    hatch.setTransform(QTransform::fromScale(1 / pixelsPerMillimetre(), 1 / pixelsPerMillimetre()));
    const QRectF reachable = medium.adjusted(reach.leading, reach.sides, -reach.trailing, -reach.sides);
    const QRectF strips[] = {
        {medium.topLeft(), QPointF(reachable.left(), medium.bottom())},
        {QPointF(reachable.right(), medium.top()), medium.bottomRight()},
        {QPointF(reachable.left(), medium.top()), QPointF(reachable.right(), reachable.top())},
        {QPointF(reachable.left(), reachable.bottom()), QPointF(reachable.right(), medium.bottom())}};
    for (const QRectF& strip : strips)
        painter.fillRect(strip, hatch);
    painter.setPen(QPen(colour::rule, 0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(medium);
    if (sheet.usedLength < sheet.length) {
        QPen used(colour::indigo, 1.5, Qt::DashLine);
        used.setCosmetic(true);
        painter.setPen(used);
        painter.drawLine(QPointF(sheet.usedLength, 0), QPointF(sheet.usedLength, width));
    }
}

void SheetView::paintMarks(QPainter& painter, const Sheet& sheet) const {
    painter.setRenderHint(QPainter::Antialiasing);
    for (const Mark& mark : sheet.marks) {
        const QPointF centre(mark.centre.x, mark.centre.y);
        QPen quiet(colour::quiet, 1, Qt::DotLine);
        quiet.setCosmetic(true);
        painter.setPen(quiet);
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(centre, mark.quietRadius, mark.quietRadius);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::black);
        painter.drawEllipse(centre, mark.radius, mark.radius);
    }
}

const SheetView::Stamp& SheetView::stampOf(const std::string& id) {
    Stamp& stamp = stamps_[id];
    const auto& sticker = document_.made()->find(id)->sticker;
    const double scale = pixelsPerMillimetre() * devicePixelRatioF();
    if (stamp.sticker == sticker && stamp.scale == scale)
        return stamp;
    stamp = {sticker, scale, {}, linePaths(sticker->lines)};
    const Box& box = sticker->footprint;
    const double ratio = devicePixelRatioF(), longest = std::max(box.width(), box.height());
    stamp.withLines = longest * pixelsPerMillimetre() <= smallStamp;
    const double fitting = std::min(scale, sharpestStamp / longest) / ratio;
    const double margin = stamp.withLines ? stampMargin : 0;
    const QSizeF size(box.width() * fitting + 2 * margin, box.height() * fitting + 2 * margin);
    const Design* design = document_.job().find(id);
    if (!design)
        return stamp;
    stamp.pixmap = QPixmap(std::max(1, int(std::ceil(size.width() * ratio))),
                           std::max(1, int(std::ceil(size.height() * ratio))));
    stamp.pixmap.setDevicePixelRatio(ratio);
    stamp.pixmap.fill(Qt::transparent);
    QPainter painter(&stamp.pixmap);
    painter.translate(margin, margin);
    if (stamp.withLines)
        painter.scale(fitting, fitting);
    else // to the last pixel: the pixmap is drawn onto the footprint
        painter.scale(stamp.pixmap.width() / ratio / box.width(),
                      stamp.pixmap.height() / ratio / box.height());
    painter.translate(-box.least.x, -box.least.y);
    DesignPainting{document_, *design, *sticker, fitting}.printed(painter);
    if (stamp.withLines)
        paintCutLines(painter, stamp.lines, lineWidth());
    return stamp;
}

void SheetView::showRoute(const RouteBar& bar) {
    route_ = &bar;
    connect(&bar, &RouteBar::changed, this, qOverload<>(&QWidget::update));
}

/// What is cut by now in the kind's tint, the ways between thin and dotted, the knife as a dot. What lies
/// beneath is paled.
void SheetView::paintOverlay(QPainter& painter) {
    if (!route_ || !route_->isOn())
        return;
    constexpr std::array tints{&colour::kiss, &colour::crease, &colour::die, &colour::die};
    const auto& sheets = document_.made()->layout.sheets;
    const double now = route_->now();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    std::array<QPainterPath, lineKinds.size()> cut;
    QPainterPath travel;
    QPointF knife;
    for (const RouteBar::Stretch& stretch : route_->way()) {
        if (stretch.from > now || stretch.sheet >= sheets.size())
            break;
        double along = 0;
        for (std::size_t i = 0; i < stretch.sheet; ++i)
            along += sheets[i].length + betweenSheets;
        const QPolygonF points = partUntil(stretch, now).translated(along, 0);
        (stretch.isCut ? cut[std::size_t(stretch.kind)] : travel).addPolygon(points);
        knife = points.back();
    }
    const QRectF all = content();
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
    const double radius = 4 / pixelsPerMillimetre();
    painter.drawEllipse(knife, radius, radius);
}

void SheetView::paintEmpty(QPainter& painter) {
    painter.setPen(coloursOf(palette()).quiet);
    painter.drawText(rect(), Qt::AlignCenter, "No stickers to lay out yet");
}

} // namespace hasami
