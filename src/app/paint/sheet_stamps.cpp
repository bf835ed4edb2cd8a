#include "app/paint/sheet_stamps.h"

#include "files/paint_sticker.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

constexpr double sharpestStamp = 4096; // pixels; a larger one is stretched
constexpr double smallStamp = 160;     // pixels; up to this a piece is laid down whole
constexpr double stampMargin = 4;      // pixels, for the line's width
constexpr double finestLine = 1.2; // pixels a mm; further away a line would be wider than the stickers' gaps

QPixmap emptyPixmap(int width, int height, double ratio) {
    QPixmap pixmap(std::max(1, width), std::max(1, height));
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    return pixmap;
}

} // namespace

double SheetStamps::lineWidth(double pixelsPerMillimetre) {
    return pixelsPerMillimetre >= finestLine ? 1.5 : 0.8;
}

void SheetStamps::forgetDeleted() {
    std::erase_if(stamps_, [this](const auto& entry) { return !document_.job().find(entry.first); });
}

void SheetStamps::prepare(const MadeDesign& design, const Affine& place, double pixelsPerMillimetre,
                          double ratio) {
    Stamp& stamp = stampOf(design, pixelsPerMillimetre, ratio);
    if (stamp.isSmall)
        turnedStampOf(stamp, design.design, turn_ * place);
}

void SheetStamps::forgetUnfinished() {
    std::erase_if(stamps_, [](const auto& entry) { return entry.second.isUnfinished; });
}

void SheetStamps::paint(QPainter& painter, const MadeDesign& design, const Affine& place,
                        double pixelsPerMillimetre) {
    Stamp& stamp = stampOf(design, pixelsPerMillimetre, painter.device()->devicePixelRatioF());
    const Box& box = stamp.sticker->footprint;
    if (stamp.isSmall) {
        const QPixmap& pixmap = turnedStampOf(stamp, design.design, turn_ * place);
        const Point centre = place(box.centre());
        const QPointF middle = painter.worldTransform().map(QPointF(centre.x, centre.y));
        const QPointF corner = middle * stamp.ratio - QPointF(pixmap.width(), pixmap.height()) / 2;
        const QTransform before = painter.worldTransform();
        painter.setWorldTransform({});
        painter.drawPixmap(QPointF(corner.toPoint()) / stamp.ratio, pixmap);
        painter.setWorldTransform(before);
        return;
    }
    painter.save();
    painter.setTransform(toQt(place), true);
    if (!stamp.pixmap.isNull())
        painter.drawPixmap(QRectF(box.least.x, box.least.y, box.width(), box.height()), stamp.pixmap,
                           QRectF(stamp.pixmap.rect()));
    paintCutLines(painter, stamp.lines, lineWidth(stamp.scale));
    painter.restore();
}

SheetStamps::Stamp& SheetStamps::stampOf(const MadeDesign& design, double scale, double ratio) {
    Stamp& stamp = stamps_[design.design];
    const auto& sticker = design.sticker;
    if (stamp.sticker == sticker && stamp.scale == scale && stamp.ratio == ratio)
        return stamp;
    const Box& box = sticker->footprint;
    const double longest = std::max(box.width(), box.height());
    stamp = {sticker, scale, ratio, {}, linePaths(sticker->lines), longest * scale <= smallStamp, false, {}};
    if (stamp.isSmall)
        return stamp;
    const double fitting = std::min(scale * ratio, sharpestStamp / longest) / ratio;
    stamp.pixmap = emptyPixmap(int(std::ceil(box.width() * fitting * ratio)),
                               int(std::ceil(box.height() * fitting * ratio)), ratio);
    QPainter painter(&stamp.pixmap);
    // To the last pixel: the pixmap is drawn onto the footprint.
    painter.scale(stamp.pixmap.width() / ratio / box.width(), stamp.pixmap.height() / ratio / box.height());
    painter.translate(-box.least.x, -box.least.y);
    printInto(painter, stamp, design.design, fitting);
    return stamp;
}

void SheetStamps::printInto(QPainter& painter, Stamp& stamp, const std::string& design, double scale) {
    const std::size_t missed = document_.pictures().missed();
    if (const Design* found = document_.job().find(design))
        DesignPainting{document_, *found, *stamp.sticker, scale}.printed(painter);
    stamp.isUnfinished |= document_.pictures().missed() != missed;
}

/// The turn is rounded to steps, so that the rim is off by half a pixel at most.
const QPixmap& SheetStamps::turnedStampOf(Stamp& stamp, const std::string& design, const Affine& place) {
    const Box& box = stamp.sticker->footprint;
    const double mirror = place.determinant() < 0 ? -1 : 1;
    const double longest = std::max(box.width(), box.height()) * stamp.scale * stamp.ratio;
    const int steps = std::max(8, int(std::ceil(std::numbers::pi * longest)));
    const double turn = std::atan2(place.b * mirror, place.a * mirror) / (2 * std::numbers::pi);
    const int step = ((int(std::lround(turn * steps)) % steps) + steps) % steps;
    QPixmap& pixmap = stamp.turned[2 * step + (mirror < 0 ? 1 : 0)];
    if (pixmap.isNull())
        pixmap =
            turnedStamp(stamp, design,
                        Affine::rotation(2 * std::numbers::pi * step / steps) * Affine::scaling(mirror, 1));
    return pixmap;
}

/// With its lines, turned about the middle of its footprint.
QPixmap SheetStamps::turnedStamp(Stamp& stamp, const std::string& design, const Affine& turned) {
    const Box& box = stamp.sticker->footprint;
    const Box around = boundsOfMapped(box, turned);
    const auto pixels = [&](double side) { // even, so that its middle lies between pixels
        return 2 * int(std::ceil((side * stamp.scale / 2 + stampMargin) * stamp.ratio));
    };
    QPixmap pixmap = emptyPixmap(pixels(around.width()), pixels(around.height()), stamp.ratio);
    QPainter painter(&pixmap);
    painter.translate(pixmap.width() / stamp.ratio / 2, pixmap.height() / stamp.ratio / 2);
    painter.scale(stamp.scale, stamp.scale);
    painter.setTransform(toQt(turned), true);
    painter.translate(-box.centre().x, -box.centre().y);
    printInto(painter, stamp, design, stamp.scale);
    paintCutLines(painter, stamp.lines, lineWidth(stamp.scale));
    return pixmap;
}

} // namespace hasami
