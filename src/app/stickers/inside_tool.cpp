#include "app/stickers/inside_tool.h"

#include "app/kit/marking.h"
#include "app/kit/theme.h"

#include <array>

namespace hasami {

namespace {

constexpr const char* placing = "place picture inside";

/// Of a picture inside, in the item's frame.
std::array<Point, 4> cornersOf(const Placement& place) {
    const Affine map = place.toDesign();
    return {map({0, 0}), map({place.width, 0}), map({place.width, place.height}), map({0, place.height})};
}

} // namespace

std::optional<int> InsideTool::cornerAt(const PointerPlace& pointer) const {
    const auto corners = cornersOf(*hand_.pictureInside());
    const Affine toDesign = hand_.fromDrawing();
    for (int i = 0; i < 4; ++i)
        if (distance(toDesign(corners[std::size_t(i)]), pointer.at) <= pointer.reach())
            return i;
    return {};
}

bool InsideTool::press(const PointerPlace& pointer) {
    from_ = *hand_.pictureInside();
    corner_ = cornerAt(pointer);
    pressed_ = inverse(hand_.fromDrawing())(pointer.at);
    return true;
}

void InsideTool::move(const PointerPlace& pointer) {
    if (!hand_.isPlacingPicture())
        return;
    isOverCorner_ = cornerAt(pointer).has_value();
    if (!pressed_)
        return;
    const Point now = inverse(hand_.fromDrawing())(pointer.at);
    Placement place = from_;
    if (corner_) {
        const auto corners = cornersOf(from_);
        const Point fixed = corners[std::size_t(*corner_ + 2) % 4], grip = corners[std::size_t(*corner_)];
        const Point way = grip - fixed, drawn = now - *pressed_ + way;
        const double factor = dot(drawn, way) / dot(way, way);
        if (factor < 0.02)
            return;
        place.width *= factor;
        place.height *= factor;
        // The opposite corner stays.
        place.at = place.at + (fixed - cornersOf(place)[std::size_t(*corner_ + 2) % 4]);
    } else {
        place.at = place.at + (now - *pressed_);
    }
    hand_.placePicture(place, placing);
}

void InsideTool::release(const PointerPlace& /*pointer*/) {
    pressed_.reset();
    hand_.endDrag();
}

std::optional<Qt::CursorShape> InsideTool::cursor() const {
    return isOverCorner_ ? Qt::SizeFDiagCursor : Qt::SizeAllCursor;
}

bool InsideTool::key(int key, bool shift) {
    if (key == Qt::Key_Escape || key == Qt::Key_Return || key == Qt::Key_Enter) {
        hand_.setPlacingPicture(false);
        return true;
    }
    const double step = shift ? 1 : 0.1; // mm
    Point by;
    switch (key) {
    case Qt::Key_Left:
        by.x = -step;
        break;
    case Qt::Key_Right:
        by.x = step;
        break;
    case Qt::Key_Up:
        by.y = -step;
        break;
    case Qt::Key_Down:
        by.y = step;
        break;
    default:
        return false;
    }
    Placement place = *hand_.pictureInside();
    place.at = place.at + by;
    hand_.placePicture(place, placing);
    return true;
}

void InsideTool::paint(QPainter& painter, double pixelsPerMillimetre) const {
    const auto inside = hand_.pictureInside();
    if (!inside)
        return;
    const Affine toDesign = hand_.fromDrawing();
    QPolygonF outline;
    for (const Point corner : cornersOf(*inside)) {
        const Point at = toDesign(corner);
        outline << QPointF(at.x, at.y);
    }
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& [tint, width] : {std::pair(QColor(Qt::white), 3.0), std::pair(colour::indigo, 1.5)}) {
        painter.setPen(cosmetic(tint, width, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(outline);
    }
    const double half = 4 / pixelsPerMillimetre;
    painter.setPen(cosmetic(colour::indigo, 1.5));
    painter.setBrush(Qt::white);
    for (const QPointF& corner : outline)
        painter.drawRect(QRectF(corner.x() - half, corner.y() - half, 2 * half, 2 * half));
}

} // namespace hasami
