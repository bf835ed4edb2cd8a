#include "app/stickers/drawn_line_tool.h"

#include "app/document/step_state.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "sticker/open_lines.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

const QString run = "drag drawn line";

/// At the same distance from the other point, in the nearest direction of those allowed.
Point turnedToSteps(Point from, Point to) {
    constexpr double step = std::numbers::pi / 12;
    const Point by = to - from;
    const double angle = std::round(std::atan2(by.y, by.x) / step) * step;
    return from + Point{std::cos(angle), std::sin(angle)} * std::hypot(by.x, by.y);
}

double distanceToPiece(Point place, Point from, Point to) {
    const Point along = to - from;
    const double squared = dot(along, along);
    const double t = squared > 0 ? std::clamp(dot(place - from, along) / squared, 0.0, 1.0) : 0;
    return distance(place, from + along * t);
}

} // namespace

const LineRecipe* DrawnLineTool::line() const {
    const Design* design = document_.selectedDesign();
    if (!design || line_() >= design->recipe.lines.size() ||
        bringsAllLines(*design, document_.newest(design->id)))
        return nullptr;
    const LineRecipe& line = design->recipe.lines[line_()];
    return line.course == LineCourse::drawn ? &line : nullptr;
}

bool DrawnLineTool::isFor(RecipeStep step) const {
    return step == RecipeStep::cutLines && line();
}

DrawnLineTool::Points DrawnLineTool::points() const {
    Points points;
    if (const LineRecipe* recipe = line()) {
        const auto& items = document_.selectedDesign()->artwork.items;
        if (std::size_t(recipe->drawn.item) < items.size())
            for (const Point part : recipe->drawn.points)
                points.push_back(fromDrawn(items[std::size_t(recipe->drawn.item)])(part));
    }
    return points;
}

void DrawnLineTool::put(const QString& label, const Points& points, const QString& run) {
    const std::string id = document_.selected();
    const std::size_t number = line_();
    if (points.size() > Limits::mostDrawnPoints) {
        Q_EMIT document_.refused(
            tr("A drawn line has at most %1 points: take one away first").arg(Limits::mostDrawnPoints));
        return;
    }
    document_.change(
        label,
        [&](Job& job) {
            Design* design = job.find(id);
            if (!design || number >= design->recipe.lines.size())
                return;
            DrawnCourse& drawn = design->recipe.lines[number].drawn;
            if (!drawn.isThere() || std::size_t(drawn.item) >= design->artwork.items.size())
                drawn.item = points.empty() ? 0 : itemToDrawOn(design->artwork, points.front());
            const Affine map = inverse(fromDrawn(design->artwork.items[std::size_t(drawn.item)]));
            drawn.points.clear();
            for (const Point point : points)
                drawn.points.push_back(map(point));
        },
        run);
}

std::optional<std::size_t> DrawnLineTool::pointAt(const Points& points, const PointerPlace& pointer) const {
    for (std::size_t i = 0; i < points.size(); ++i)
        if (distance(points[i], pointer.at) <= pointer.reach() * 1.5)
            return i;
    return {};
}

/// The number of the point at its end.
std::optional<std::size_t> DrawnLineTool::pieceAt(const Points& points, const PointerPlace& pointer) const {
    for (std::size_t i = 1; i < points.size(); ++i)
        if (distanceToPiece(pointer.at, points[i - 1], points[i]) <= pointer.reach())
            return i;
    return {};
}

void DrawnLineTool::drawOn(Points points, Point to) {
    const bool isFromStart = distance(points.front(), to) < distance(points.back(), to);
    points.insert(isFromStart ? points.begin() : points.end(), to);
    held_ = isFromStart ? 0 : points.size() - 1;
    document_.endRun();
    put(tr("Draw the line on"), points);
}

bool DrawnLineTool::pressPoint(const Points& points, const PointerPlace& pointer) {
    held_ = pointAt(points, pointer);
    if (!held_) {
        held_ = pieceAt(points, pointer);
        if (!held_)
            return false;
        Points more = points;
        more.insert(more.begin() + std::ptrdiff_t(*held_), pointer.at);
        document_.endRun();
        put(tr("Add a corner"), more, run);
    } else {
        document_.endRun();
    }
    isDragging_ = true;
    return true;
}

bool DrawnLineTool::press(const PointerPlace& pointer) {
    under_ = pointer.at;
    const Points drawn = points();
    if (drawn.size() > 1) {
        if (!pointer.control)
            return pressPoint(drawn, pointer);
        drawOn(drawn, pointer.at);
        return true;
    }
    if (!first_) {
        first_ = pointer.at;
        return true;
    }
    const Point to = pointer.shift ? turnedToSteps(*first_, pointer.at) : pointer.at;
    if (distance(*first_, to) <= pointer.reach())
        return true; // the same click once more
    document_.endRun();
    put(tr("Draw a line"), {*first_, to});
    first_.reset();
    return true;
}

void DrawnLineTool::move(const PointerPlace& pointer) {
    under_ = first_ && pointer.shift ? turnedToSteps(*first_, pointer.at) : pointer.at;
    Points drawn = points();
    if (!isDragging_) {
        isOverLine_ = pointAt(drawn, pointer) || pieceAt(drawn, pointer);
        return;
    }
    if (!held_ || *held_ >= drawn.size())
        return;
    const std::size_t beside = *held_ > 0 ? *held_ - 1 : 1;
    drawn[*held_] = pointer.shift ? turnedToSteps(drawn[beside], pointer.at) : pointer.at;
    put(tr("Move a corner"), drawn, run);
}

void DrawnLineTool::release(const PointerPlace&) {
    if (std::exchange(isDragging_, false))
        document_.endRun();
}

void DrawnLineTool::stop() {
    first_.reset();
    held_.reset();
    isDragging_ = isOverLine_ = false;
}

std::optional<Qt::CursorShape> DrawnLineTool::cursor() const {
    return points().size() < 2 ? Qt::CrossCursor : isOverLine_ ? Qt::PointingHandCursor : Qt::ArrowCursor;
}

/// Half as long as the artwork is wide.
void DrawnLineTool::drawThroughMiddle() {
    const Box box = bounds(document_.selectedDesign()->artwork);
    const Point aside{box.width() / 4, 0};
    document_.endRun();
    put(tr("Draw a line"), {box.centre() - aside, box.centre() + aside});
    held_ = 1;
}

bool DrawnLineTool::moveHeld(Point by) {
    Points drawn = points();
    if (!held_ || *held_ >= drawn.size())
        return false;
    drawn[*held_] = drawn[*held_] + by;
    put(tr("Move a corner"), drawn, "move corner by keys");
    return true;
}

bool DrawnLineTool::addBehindHeld() {
    Points drawn = points();
    if (drawn.size() < 2) {
        drawThroughMiddle();
        return true;
    }
    const std::size_t behind = std::min(held_.value_or(0) + 1, drawn.size() - 1);
    drawn.insert(drawn.begin() + std::ptrdiff_t(behind), (drawn[behind - 1] + drawn[behind]) * 0.5);
    document_.endRun();
    put(tr("Add a corner"), drawn);
    held_ = behind;
    return true;
}

/// Of two points, both: it is drawn anew.
bool DrawnLineTool::removeHeld() {
    Points drawn = points();
    if (!held_ || *held_ >= drawn.size())
        return false;
    drawn.erase(drawn.begin() + std::ptrdiff_t(*held_));
    if (drawn.size() < 2)
        drawn.clear();
    document_.endRun();
    put(tr("Take a corner away"), drawn);
    held_.reset();
    return true;
}

bool DrawnLineTool::key(int key, bool shift) {
    const double step = shift ? 5 : 0.5; // mm
    const std::size_t count = points().size();
    switch (key) {
    case Qt::Key_Escape: {
        const bool isUnderWay = first_ || held_ || isDragging_;
        if (isDragging_)
            document_.cancelRun();
        stop();
        return isUnderWay;
    }
    case Qt::Key_PageDown:
        held_ = count == 0 ? std::nullopt : held_ ? std::optional((*held_ + 1) % count) : 0;
        return count > 0;
    case Qt::Key_PageUp:
        held_ = count == 0 ? std::nullopt : std::optional((held_.value_or(0) + count - 1) % count);
        return count > 0;
    case Qt::Key_Left:
        return moveHeld({-step, 0});
    case Qt::Key_Right:
        return moveHeld({step, 0});
    case Qt::Key_Up:
        return moveHeld({0, -step});
    case Qt::Key_Down:
        return moveHeld({0, step});
    case Qt::Key_Insert:
        return addBehindHeld();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        return removeHeld();
    default:
        return false;
    }
}

void DrawnLineTool::paint(QPainter& painter, double pixelsPerMillimetre) const {
    painter.setRenderHint(QPainter::Antialiasing);
    const double knob = 4 / pixelsPerMillimetre;
    QPen pen(colour::indigo, 1.5);
    pen.setCosmetic(true);
    if (first_) {
        painter.setPen(pen);
        painter.drawLine(QPointF(first_->x, first_->y), QPointF(under_.x, under_.y));
    }
    Points drawn = points();
    if (first_)
        drawn = {*first_};
    for (std::size_t i = 0; i < drawn.size(); ++i) {
        const bool isHeld = held_ == i;
        pen.setColor(isHeld ? QColor(Qt::white) : colour::indigo);
        painter.setPen(pen);
        painter.setBrush(isHeld ? colour::indigo : QColor(Qt::white));
        painter.drawEllipse(QPointF(drawn[i].x, drawn[i].y), knob, knob);
    }
}

} // namespace hasami
