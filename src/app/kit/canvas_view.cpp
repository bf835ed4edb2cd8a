#include "app/kit/canvas_view.h"

#include "app/kit/quantity_field.h"
#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QTimer>
#include <QToolTip>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace hasami {

namespace {

constexpr double rulerSize = 24;                       // pixels
constexpr double leastScale = 0.005, mostScale = 4000; // pixels a mm
constexpr double fitMargin = 28;                       // pixels
constexpr double reach = 8; // pixels that a thick line may stand out from what it bounds

/// The finest step of 1, 2 or 5 times a power of ten that is at least `pixels` apart.
double rulerStep(double scale, double pixels) {
    const double least = pixels / scale;
    const double power = std::pow(10, std::floor(std::log10(least)));
    for (const double factor : {1.0, 2.0, 5.0})
        if (power * factor >= least)
            return power * factor;
    return power * 10;
}

} // namespace

CanvasView::CanvasView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 200);
    setAttribute(Qt::WA_OpaquePaintEvent);
}

QRectF CanvasView::canvas() const {
    return QRectF(rect()).adjusted(rulerSize, rulerSize, 0, 0);
}

QRectF CanvasView::turnedContent(bool isTurned) const {
    const QRectF box = content();
    return isTurned ? QRectF(-box.bottom(), box.left(), box.height(), box.width()) : box;
}

QRectF CanvasView::roomForContent() const {
    return canvas().adjusted(fitMargin, fitMargin, -fitMargin, -fitMargin);
}

double CanvasView::fittingScale(bool isTurned) const {
    const QRectF room = roomForContent(), box = turnedContent(isTurned);
    if (box.isEmpty())
        return scale_;
    return std::clamp(std::min(room.width() / box.width(), room.height() / box.height()), leastScale,
                      mostScale);
}

void CanvasView::fit() {
    following_ = Following::exactly;
    const QRectF box = turnedContent(isTurned_);
    if (box.isEmpty())
        return;
    scale_ = fittingScale(isTurned_);
    origin_ = roomForContent().center() - box.center() * scale_;
    update();
}

void CanvasView::setTurned(bool isTurned) {
    if (isTurned == isTurned_)
        return;
    const QPointF middle = toMillimetres(canvas().center());
    isTurned_ = isTurned;
    drawnScale_ = 0; // nothing of what was drawn can be used
    if (following_ == Following::no)
        origin_ += canvas().center() - toScreen(middle);
    else
        fit();
    redraw();
}

void CanvasView::toContent(QPainter& painter) const {
    painter.scale(scale_, scale_);
    if (isTurned_)
        painter.rotate(90);
}

void CanvasView::trueSize() {
    zoomAt(canvas().center(), Settings::screenScale(*screen()) / scale_);
}

void CanvasView::zoomBy(double factor) {
    zoomAt(canvas().center(), factor);
}

void CanvasView::zoomAt(QPointF screen, double factor) {
    const double scale = std::clamp(scale_ * factor, leastScale, mostScale);
    origin_ = screen - (screen - origin_) * (scale / scale_);
    scale_ = scale;
    following_ = Following::no;
    update();
}

QPointF CanvasView::moveBy(QPointF pixels) {
    const double ratio = devicePixelRatioF();
    const QPointF moved = QPointF((pixels * ratio).toPoint()) / ratio;
    origin_ += moved;
    following_ = Following::no;
    update();
    return moved;
}

void CanvasView::contentChanged() {
    constexpr double another = 1.4; // times as large or small on the screen
    const double ratio = following_ == Following::roughly ? fittingScale(isTurned_) / scale_ : 1;
    if (following_ == Following::exactly || ratio > another || ratio < 1 / another)
        fit();
    redraw();
}

void CanvasView::redraw() {
    isStale_ = true;
    update();
}

void CanvasView::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange)
        redraw();
    QWidget::changeEvent(event);
}

std::vector<CanvasView::Patch> CanvasView::patchesOf(const QRect& part) const {
    std::vector<Patch> patches;
    const QSize size = drawn_.size();
    const auto wrapped = [](int at, int length) { return ((at % length) + length) % length; };
    for (int top = part.top(); top <= part.bottom();) {
        const int y = wrapped(top + drawnStart_.y(), size.height());
        const int height = std::min(part.bottom() + 1 - top, size.height() - y);
        for (int left = part.left(); left <= part.right();) {
            const int x = wrapped(left + drawnStart_.x(), size.width());
            const int width = std::min(part.right() + 1 - left, size.width() - x);
            patches.push_back({{left, top, width, height}, {x, y}});
            left += width;
        }
        top += height;
    }
    return patches;
}

void CanvasView::drawPart(const QRect& part) {
    const double ratio = drawn_.devicePixelRatio();
    for (const Patch& patch : patchesOf(part)) {
        const QRectF kept(QPointF(patch.kept) / ratio, QSizeF(patch.seen.size()) / ratio);
        const QPointF seen = QPointF(patch.seen.topLeft()) / ratio + canvas().topLeft();
        QPainter painter(&drawn_);
        painter.setClipRect(kept);
        painter.fillRect(kept, coloursOf(palette()).ground);
        painter.translate(origin_ + kept.topLeft() - seen);
        toContent(painter);
        paintContent(painter, seenWith(QRectF(seen - canvas().topLeft(), kept.size())));
    }
}

bool CanvasView::bringDrawnUpToDate() {
    constexpr int preparing = 20; // ms at a time; keys and clicks are answered in between
    const double ratio = devicePixelRatioF();
    const QSize size = (canvas().size() * ratio).toSize();
    const bool sameView =
        !isStale_ && drawnScale_ == scale_ && drawn_.size() == size && drawn_.devicePixelRatio() == ratio;
    const QPoint moved = ((origin_ - drawnOrigin_) * ratio).toPoint();
    const bool movedBit = std::abs(moved.x()) < size.width() && std::abs(moved.y()) < size.height();
    if (sameView && moved.isNull())
        return true;
    const int w = size.width(), h = size.height();
    std::vector<QRect> parts{{0, 0, w, h}};
    if (sameView && movedBit) {
        const int above = std::max(moved.y(), 0), below = std::max(-moved.y(), 0);
        const int left = std::max(moved.x(), 0), right = std::max(-moved.x(), 0);
        parts = {{0, 0, w, above},
                 {0, h - below, w, below},
                 {0, above, left, h - above - below},
                 {w - right, above, right, h - above - below}};
        std::erase_if(parts, [](const QRect& part) { return part.isEmpty(); });
    }
    const QDeadlineTimer until(preparing);
    for (const QRect& part : parts)
        if (!prepareContent(seenWith(QRectF(QPointF(part.topLeft()) / ratio, QSizeF(part.size()) / ratio)),
                            until))
            return false;
    drawnOrigin_ = origin_;
    if (sameView && movedBit) {
        drawnStart_ -= moved;
    } else {
        if (drawn_.size() != size || drawn_.devicePixelRatio() != ratio) {
            drawn_ = QPixmap(size);
            drawn_.setDevicePixelRatio(ratio);
        }
        drawnScale_ = scale_;
        drawnStart_ = {};
        isStale_ = false;
    }
    for (const QRect& part : parts)
        drawPart(part);
    return true;
}

/// In mm, with what reaches into it; `part` in pixels of the canvas.
QRectF CanvasView::seenWith(const QRectF& part) const {
    const QRectF near = part.translated(canvas().topLeft()).adjusted(-reach, -reach, reach, reach);
    return QRectF(toMillimetres(near.topLeft()), toMillimetres(near.bottomRight())).normalized();
}

/// What was drawn last, at its place: while the view's own is not ready, where it lies in it now.
void CanvasView::paintDrawn(QPainter& painter) const {
    const double ratio = drawn_.devicePixelRatio();
    painter.save();
    if (!isUpToDate_) {
        painter.fillRect(rect(), coloursOf(palette()).ground);
        painter.setClipRect(canvas());
        if (drawnScale_ > 0) {
            painter.translate(origin_);
            painter.scale(scale_ / drawnScale_, scale_ / drawnScale_);
            painter.translate(-drawnOrigin_);
        }
    }
    for (const Patch& patch : patchesOf(drawn_.rect()))
        painter.drawPixmap(canvas().topLeft() + QPointF(patch.seen.topLeft()) / ratio, drawn_,
                           QRectF(patch.kept, patch.seen.size()));
    painter.restore();
}

void CanvasView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (content().isEmpty()) {
        painter.fillRect(rect(), coloursOf(palette()).ground);
        paintEmpty(painter);
        drawn_ = {};
        drawnScale_ = 0;
        isUpToDate_ = true;
        return;
    }
    isUpToDate_ = bringDrawnUpToDate();
    if (!isUpToDate_)
        QTimer::singleShot(0, this, qOverload<>(&QWidget::update));
    paintDrawn(painter);
    painter.save();
    painter.setClipRect(canvas());
    painter.translate(origin_);
    toContent(painter);
    paintOverlay(painter);
    painter.restore();
    paintRulerDrag(painter);
    paintRulers(painter);
    if (hasFocus()) {
        painter.setPen(QPen(coloursOf(palette()).indigo, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void CanvasView::paintRulerDrag(QPainter& painter) const {
    if (rulerDrag_ == RulerDrag::none)
        return;
    const QPointF at = toScreen(rulerAt_);
    painter.setPen(QPen(coloursOf(palette()).indigo, 1, Qt::DashLine));
    if (rulerDrag_ != RulerDrag::level)
        painter.drawLine(QPointF(at.x(), 0), QPointF(at.x(), height()));
    if (rulerDrag_ != RulerDrag::upright)
        painter.drawLine(QPointF(0, at.y()), QPointF(width(), at.y()));
}

bool CanvasView::pressRuler(const QMouseEvent& event) {
    const QPointF at = event.position();
    if (event.button() != Qt::LeftButton || canvas().contains(at) || content().isEmpty())
        return false;
    const bool onTop = at.y() < rulerSize, onLeft = at.x() < rulerSize;
    if (!(onTop && onLeft) && !takesGuides())
        return false;
    rulerDrag_ = onTop && onLeft ? RulerDrag::zero : onTop ? RulerDrag::level : RulerDrag::upright;
    return moveOnRuler(event);
}

bool CanvasView::moveOnRuler(const QMouseEvent& event) {
    if (rulerDrag_ == RulerDrag::none)
        return false;
    constexpr double reach = 6; // pixels
    const auto bent = [&](double place, const std::vector<double>& lines) {
        double best = place, least = reach / scale_;
        for (const double line : lines)
            if (std::abs(line - place) < least) {
                least = std::abs(line - place);
                best = line;
            }
        return best;
    };
    const QPointF place = toMillimetres(event.position());
    const SnapLines lines = snapLines();
    rulerAt_ = {bent(place.x(), lines.x), bent(place.y(), lines.y)};
    update();
    return true;
}

bool CanvasView::releaseRuler(const QMouseEvent& event) {
    if (rulerDrag_ == RulerDrag::none)
        return false;
    const RulerDrag drag = std::exchange(rulerDrag_, RulerDrag::none);
    update();
    if (!canvas().contains(event.position()))
        return true; // let go where it came from
    if (drag == RulerDrag::zero)
        zero_ = rulerAt_;
    else if (drag == RulerDrag::upright)
        addGuide(Qt::Vertical, rulerAt_.x());
    else
        addGuide(Qt::Horizontal, rulerAt_.y());
    return true;
}

bool CanvasView::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || content().isEmpty())
        return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const bool onTop = help->pos().y() < rulerSize, onLeft = help->pos().x() < rulerSize;
    const QString text = onTop && onLeft
                             ? tr("Drag this to where the rulers are to begin; double-click puts it back")
                         : (onTop || onLeft) && takesGuides() ? tr("Drag a guide out of the ruler")
                                                              : QString();
    if (text.isEmpty())
        return QWidget::event(event);
    QToolTip::showText(help->globalPos(), text, this);
    return true;
}

void CanvasView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->position().x() < rulerSize && event->position().y() < rulerSize) {
        zero_ = {};
        update();
    } else {
        mousePressEvent(event);
    }
}

void CanvasView::paintRulers(QPainter& painter) {
    const Colours& c = coloursOf(palette());
    bringUpToDate(across_, Qt::Horizontal);
    bringUpToDate(down_, Qt::Vertical);
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.drawPixmap(0, 0, down_.picture);
    painter.drawPixmap(0, 0, across_.picture);
    painter.fillRect(QRectF(0, 0, rulerSize, rulerSize), c.panel);
    painter.setPen(c.quiet);
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    painter.drawText(QRectF(0, 0, rulerSize, rulerSize), Qt::AlignCenter,
                     QString::fromUtf8(unitName(unit())));
    painter.setPen(c.rule);
    painter.drawLine(QPointF(0, rulerSize), QPointF(width(), rulerSize));
    painter.drawLine(QPointF(rulerSize, 0), QPointF(rulerSize, height()));
}

void CanvasView::bringUpToDate(Ruler& ruler, Qt::Orientation orientation) {
    const bool across = orientation == Qt::Horizontal;
    const QPointF zero = toScreen(zero_);
    Ruler now{across ? zero.x() : zero.y(),
              across && isTurned_ ? -scale_ : scale_,
              double(across ? width() : height()),
              unit(),
              palette().cacheKey(),
              devicePixelRatioF(),
              {}};
    if (ruler.showsSameAs(now))
        return;
    const QSizeF size = across ? QSizeF(now.length, rulerSize) : QSizeF(rulerSize, now.length);
    now.picture = QPixmap((size * now.ratio).toSize());
    now.picture.setDevicePixelRatio(now.ratio);
    now.picture.fill(coloursOf(palette()).panel);
    QPainter painter(&now.picture);
    drawRuler(painter, now, orientation);
    painter.end();
    ruler = std::move(now);
}

void CanvasView::drawRuler(QPainter& painter, const Ruler& ruler, Qt::Orientation orientation) const {
    const bool across = orientation == Qt::Horizontal;
    const double scale = std::abs(ruler.scale) * millimetresIn(ruler.unit); // pixels a unit
    const double step = rulerStep(scale, 60), fine = step / 5;
    const auto first = static_cast<long long>(std::floor((rulerSize - ruler.zero) / scale / fine));
    const auto last = static_cast<long long>(std::ceil((ruler.length - ruler.zero) / scale / fine));
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    painter.setPen(coloursOf(palette()).quiet);
    for (long long i = first; i <= last; ++i) {
        const double at = std::round(ruler.zero + double(i) * fine * scale) + 0.5;
        const bool numbered = i % 5 == 0;
        const double length = numbered ? 8 : 4;
        painter.drawLine(across ? QLineF(at, rulerSize - length, at, rulerSize)
                                : QLineF(rulerSize - length, at, rulerSize, at));
        if (!numbered)
            continue;
        const double number = double(ruler.scale < 0 ? -i / 5 : i / 5) * step;
        const QString text = inLocale(QString::number(number, 'g', 6));
        if (across) {
            painter.drawText(QPointF(at + 3, 11), text);
        } else {
            painter.save();
            painter.translate(11, at - 3);
            painter.rotate(-90);
            painter.drawText(QPointF(0, 0), text);
            painter.restore();
        }
    }
}

void CanvasView::resizeEvent(QResizeEvent*) {
    contentChanged();
}

void CanvasView::wheelEvent(QWheelEvent* event) {
    if (!event->pixelDelta().isNull() && !(event->modifiers() & Qt::ControlModifier))
        moveBy(event->pixelDelta()); // a touchpad
    else
        zoomAt(event->position(), std::pow(1.2, event->angleDelta().y() / 120.0));
    event->accept();
}

void CanvasView::mousePressEvent(QMouseEvent* event) {
    if (pressRuler(*event))
        return;
    const bool alt = event->button() == Qt::LeftButton && event->modifiers() & Qt::AltModifier;
    if (event->button() == Qt::MiddleButton || alt) {
        panning_ = true;
        panFrom_ = event->position();
        setCursor(Qt::ClosedHandCursor);
    }
}

void CanvasView::mouseMoveEvent(QMouseEvent* event) {
    if (moveOnRuler(*event))
        return;
    if (!panning_)
        return;
    panFrom_ += moveBy(event->position() - panFrom_);
}

void CanvasView::mouseReleaseEvent(QMouseEvent* event) {
    if (releaseRuler(*event))
        return;
    panning_ = false;
    unsetCursor();
}

void CanvasView::keyPressEvent(QKeyEvent* event) {
    constexpr double step = 40; // pixels
    switch (event->key()) {
    case Qt::Key_Left:
        moveBy({step, 0});
        return;
    case Qt::Key_Right:
        moveBy({-step, 0});
        return;
    case Qt::Key_Up:
        moveBy({0, step});
        return;
    case Qt::Key_Down:
        moveBy({0, -step});
        return;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoomBy(1.25);
    case Qt::Key_Minus:
        return zoomBy(1 / 1.25);
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace hasami
