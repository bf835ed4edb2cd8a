#include "app/proof/proof_view.h"

#include "app/kit/theme.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"
#include "job/white_place.h"

#include <cmath>

namespace hasami {

namespace {

constexpr double betweenBoth = 10; // mm

} // namespace

ProofView::ProofView(Document& document, QWidget* parent)
    : CanvasView(parent), document_(document), scene_(document) {
    setObjectName("Proof view");
    setAccessibleName(tr("Proof"));
    setAccessibleDescription(tr("The stickers as they come out of the machine"));
    connect(&document, &Document::madeChanged, this, &ProofView::showAgain);
    connect(&document.pictures(), &PictureCache::ready, this, [this] {
        scene_.forget();
        redraw();
    });
    pulse_.setDuration(1200);
    pulse_.setStartValue(0.0);
    pulse_.setEndValue(1.0);
    connect(&pulse_, &QVariantAnimation::valueChanged, this, [this] { update(); });
    showAgain();
}

void ProofView::showSheet(std::size_t sheet) {
    design_.reset();
    sheet_ = sheet;
    isFromBehind_.reset();
    pointed_ = weakest_ = {};
    showAgain();
    fit();
}

void ProofView::showDesign(const std::string& design) {
    design_ = design;
    isFromBehind_.reset();
    pointed_ = weakest_ = {};
    showAgain();
    fit();
}

void ProofView::showAgain() {
    const Made& made = *document_.made();
    if (design_ && !document_.job().find(*design_))
        design_.reset();
    sheet_ = std::min(sheet_, made.layout.sheets.empty() ? 0 : made.layout.sheets.size() - 1);
    scene_.show(design_, sheet_);
    chooseTurn();
    contentChanged();
}

void ProofView::chooseTurn() {
    constexpr double muchWider = 2; // times as wide as long
    const QRectF box = content();
    const bool isWide = !design_ && !showsBefore_ && box.height() > muchWider * box.width();
    const bool turns = isWide && fittingScale(true) > fittingScale(false);
    if (turns == isTurned())
        return;
    setTurned(turns);
    Q_EMIT turned(turns);
}

void ProofView::resizeEvent(QResizeEvent* event) {
    chooseTurn();
    CanvasView::resizeEvent(event);
}

void ProofView::setDrift(const CutDrift& drift) {
    drift_ = drift;
    redraw();
}

void ProofView::setGround(const Ground& ground) {
    ground_ = ground;
    redraw();
}

std::optional<QString> ProofView::setColours(ProofColours colours) {
    const auto why = scene_.setColours(colours);
    redraw();
    return why;
}

void ProofView::showBefore(bool isShown) {
    showsBefore_ = isShown;
    chooseTurn();
    contentChanged();
    fit();
}

void ProofView::showFromBehind(bool isFromBehind) {
    isFromBehind_ = isFromBehind;
    redraw();
}

bool ProofView::isOfMirrored() const {
    const Design* design = design_ ? document_.job().find(*design_) : nullptr;
    return design && isSeenThrough(*design);
}

bool ProofView::isFromBehind() const {
    return isFromBehind_.value_or(isOfMirrored());
}

bool ProofView::isLeftToRight() const {
    return isFromBehind() != isOfMirrored();
}

QPointF ProofView::shownAt(Point place) const {
    const QRectF area = scene_.area();
    return {(isLeftToRight() ? area.left() + area.right() - place.x : place.x) + before(), place.y};
}

void ProofView::pointAt(std::optional<Point> place) {
    pointed_ = place;
    pulse_.stop();
    if (place) {
        pulse_.start();
        if (!QRectF(rect()).contains(toScreen(shownAt(*place))))
            fit();
    }
    update();
}

void ProofView::showWeakest(std::optional<Point> place) {
    weakest_ = place;
    update();
}

double ProofView::before() const {
    return showsBefore_ ? scene_.area().width() + betweenBoth : 0;
}

QRectF ProofView::content() const {
    if (scene_.isEmpty())
        return {};
    return scene_.area().adjusted(0, 0, before(), 0);
}

void ProofView::paintFinished(QPainter& painter, const QRectF& visible) {
    QRectF seen = scene_.area().intersected(visible);
    if (seen.isEmpty())
        return;
    painter.save();
    if (isLeftToRight()) {
        const QRectF area = scene_.area();
        painter.translate(area.left() + area.right(), 0);
        painter.scale(-1, 1);
        seen.moveLeft(area.left() + area.right() - seen.right());
    }
    scene_.paintFinished(painter, seen, cut(), ground_, isFromBehind());
    painter.restore();
}

void ProofView::paintContent(QPainter& painter, const QRectF& visible) {
    if (showsBefore_) {
        scene_.paintPrinted(painter, visible.intersected(scene_.area()), cut());
        painter.translate(before(), 0);
    }
    paintFinished(painter, visible.translated(-before(), 0));
}

void ProofView::paintEmpty(QPainter& painter) {
    painter.setPen(coloursOf(palette()).quiet);
    painter.drawText(rect(), Qt::AlignCenter, tr("Nothing is laid out yet."));
}

void ProofView::paintOverlay(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    const double pixel = 1 / pixelsPerMillimetre();
    const auto ring = [&](Point at, double radius, const QColor& tint, double width) {
        painter.setBrush(Qt::NoBrush);
        for (const auto& [wide, colour] : {std::pair(width + 2, QColor(Qt::white)), std::pair(width, tint)}) {
            painter.setPen(QPen(colour, wide * pixel));
            painter.drawEllipse(shownAt(at), radius * pixel, radius * pixel);
        }
    };
    if (weakest_)
        ring(*weakest_, 9, colour::die, 2);
    if (pointed_) {
        const double share =
            pulse_.state() == QAbstractAnimation::Running ? pulse_.currentValue().toDouble() : 1;
        ring(*pointed_, 16 + 24 * (1 - share), colour::indigo, 2.5);
    }
}

QImage ProofView::picture(double pixelsPerMillimetre) {
    const QRectF area = scene_.area();
    QImage image(int(std::lround(area.width() * pixelsPerMillimetre)),
                 int(std::lround(area.height() * pixelsPerMillimetre)), QImage::Format_ARGB32_Premultiplied);
    if (image.isNull())
        return image;
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(pixelsPerMillimetre, pixelsPerMillimetre);
    painter.translate(-area.topLeft());
    paintFinished(painter, area);
    return image;
}

} // namespace hasami
