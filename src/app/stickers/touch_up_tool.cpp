#include "app/stickers/touch_up_tool.h"

#include "app/kit/marking.h"
#include "app/kit/theme.h"
#include "app/paint/paint_design.h"
#include "app/words/words.h"
#include "files/paint_sticker.h"

namespace hasami {

namespace {

using Kind = TouchUpHand::Target::Kind;

constexpr double dragFrom = 0.6; // of the reach: a press that moves less is a click

void paintNode(QPainter& painter, Point at, bool isCorner, double side) {
    const QRectF box(at.x - side, at.y - side, 2 * side, 2 * side);
    if (isCorner)
        painter.drawRect(box);
    else
        painter.drawEllipse(box);
}

} // namespace

bool TouchUpTool::press(const PointerPlace& pointer) {
    dragged_ = hand_.at(pointer.at, pointer.reach());
    pressed_ = pointer.at;
    isDragging_ = false;
    drawn_.clear();
    if (dragged_.kind == Kind::nothing) {
        if (!pointer.shift)
            hand_.letGo();
    } else if (dragged_.kind == Kind::node || dragged_.kind == Kind::line) {
        hand_.hold(dragged_, pointer.shift);
        if (dragged_.kind == Kind::node && !hand_.nodes().contains(dragged_.node))
            dragged_ = {}; // just let go
    }
    return true;
}

void TouchUpTool::move(const PointerPlace& pointer) {
    const Point at = pointer.at;
    const double reach = pointer.reach();
    under_ = hand_.at(at, reach);
    if (!pressed_)
        return;
    isDragging_ = isDragging_ || distance(at, *pressed_) > dragFrom * reach;
    if (!isDragging_ || dragged_.kind == Kind::nothing)
        return;
    if (dragged_.kind != Kind::line)
        return hand_.preview(dragged_, *pressed_, at);
    if (drawn_.empty())
        drawn_.push_back(*pressed_);
    if (distance(drawn_.back(), at) > reach / 6)
        drawn_.push_back(at);
    hand_.previewDrawn(drawn_);
}

void TouchUpTool::release(const PointerPlace& pointer) {
    move(pointer);
    const bool wasDrawn = isDragging_ && dragged_.kind == Kind::line;
    pressed_.reset();
    isDragging_ = false;
    if (!wasDrawn)
        hand_.commit();
    else if (!hand_.redraw(std::exchange(drawn_, {}), 2 * pointer.reach()))
        tell_(tr("A redrawn stretch has to end on the line that it began on."));
}

bool TouchUpTool::pressTwice(const PointerPlace& pointer) {
    const TouchUpHand::Target target = hand_.at(pointer.at, pointer.reach());
    stop();
    if (target.kind == Kind::line)
        hand_.addNode(target);
    return true;
}

void TouchUpTool::stop() {
    pressed_.reset();
    isDragging_ = false;
    drawn_.clear();
    hand_.drop();
}

std::optional<Qt::CursorShape> TouchUpTool::cursor() const {
    return under_.kind == Kind::nothing ? Qt::ArrowCursor
           : under_.kind == Kind::line  ? Qt::CrossCursor
                                        : Qt::PointingHandCursor;
}

bool TouchUpTool::key(int key, bool shift) {
    const double step = shift ? 1 : 0.1; // mm
    const bool holdsNodes = !hand_.nodes().empty();
    switch (key) {
    case Qt::Key_PageDown:
        hand_.walk(1);
        return true;
    case Qt::Key_PageUp:
        hand_.walk(-1);
        return true;
    case Qt::Key_Escape:
        if (pressed_)
            stop();
        else
            hand_.letGo();
        return true;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        hand_.remove();
        return holdsNodes;
    case Qt::Key_Left:
        hand_.moveBy({-step, 0});
        return holdsNodes;
    case Qt::Key_Right:
        hand_.moveBy({step, 0});
        return holdsNodes;
    case Qt::Key_Up:
        hand_.moveBy({0, -step});
        return holdsNodes;
    case Qt::Key_Down:
        hand_.moveBy({0, step});
        return holdsNodes;
    default:
        return false;
    }
}

void TouchUpTool::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const double pixel = 1 / pixelsPerMillimetre;
    if (const EdgeLoop* line = hand_.line()) {
        painter.save();
        painter.setTransform(hasami::toQt(hand_.toDesign()), true);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(cosmetic(colour::indigo, 2));
        painter.drawPath(painterPath(std::vector<Curve>{line->curve}));
        paintHandles(painter, *line, pixel);
        for (std::size_t node = 0; node < line->curve.segments.size(); ++node) {
            const bool isHeld = hand_.nodes().contains(node);
            const bool isUnder = under_.kind == Kind::node && under_.node == node && !pressed_;
            painter.setPen(cosmetic(isHeld ? QColor(Qt::white) : colour::indigo, 1.5));
            painter.setBrush(isHeld ? colour::indigo : QColor(Qt::white));
            paintNode(painter, line->curve.segments[node].end, !touch::isSmooth(line->curve, node),
                      (isHeld || isUnder ? 5 : 3.5) * pixel);
        }
        painter.restore();
    }
    if (hand_.drawn().size() > 1) {
        QPolygonF path;
        for (const Point p : hand_.drawn())
            path << toQt(p);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(cosmetic(Qt::white, 5));
        painter.drawPolyline(path);
        painter.setPen(cosmetic(colour::indigo, 2, Qt::DashLine));
        painter.drawPolyline(path);
    }
}

void TouchUpTool::paintHandles(QPainter& painter, const EdgeLoop& line, double pixel) const {
    if (hand_.nodes().size() != 1 || *hand_.nodes().begin() >= line.curve.segments.size())
        return;
    const std::size_t node = *hand_.nodes().begin();
    const CurveSegment &in = line.curve.segments[node],
                       &out = line.curve.segments[(node + 1) % line.curve.segments.size()];
    const auto draw = [&](const CurveSegment& piece, Point handle) {
        if (piece.straight)
            return;
        painter.setPen(cosmetic(colour::indigo, 1));
        painter.drawLine(toQt(in.end), toQt(handle));
        painter.setBrush(colour::indigo);
        painter.setPen(cosmetic(Qt::white, 1));
        painter.drawEllipse(toQt(handle), 4 * pixel, 4 * pixel);
    };
    draw(in, in.control2);
    draw(out, out.control1);
}

} // namespace hasami
