#include "app/stickers/lettering_tool.h"

#include "app/kit/marking.h"
#include "app/kit/theme.h"

namespace hasami {

bool LetteringTool::isBeside(const PointerPlace& pointer) const {
    const ItemHand::Frame frame = hand_.items().frame();
    const Point own = inverse(frame.toDesign)(pointer.at);
    return !frame.box.grownBy(2 * pointer.reach()).meets({own, own});
}

bool LetteringTool::press(const PointerPlace& pointer) {
    if (hand_.isPicking()) {
        hand_.switchCounterAt(pointer.at);
        return true;
    }
    if (isBeside(pointer)) {
        hand_.end();
        return true;
    }
    hand_.moveTo(pointer.at, pointer.shift);
    isSelecting_ = true;
    return true;
}

bool LetteringTool::pressTwice(const PointerPlace& pointer) {
    if (!hand_.isEditing() || isBeside(pointer))
        return false;
    hand_.moveTo(pointer.at, false);
    hand_.move(LetteringHand::Move::word, false, false);
    hand_.move(LetteringHand::Move::word, true, true);
    return true;
}

void LetteringTool::move(const PointerPlace& pointer) {
    if (isSelecting_ && hand_.isEditing())
        hand_.moveTo(pointer.at, true);
}

void LetteringTool::release(const PointerPlace& /*pointer*/) {
    isSelecting_ = false;
}

std::optional<Qt::CursorShape> LetteringTool::cursor() const {
    return hand_.isPicking() ? Qt::PointingHandCursor : Qt::IBeamCursor;
}

bool LetteringTool::stroke(const KeyStroke& stroke) {
    using Move = LetteringHand::Move;
    if (stroke.key == Qt::Key_Escape) {
        hand_.end();
        return true;
    }
    if (!hand_.isEditing())
        return false;
    switch (stroke.key) {
    case Qt::Key_Left:
    case Qt::Key_Right:
        hand_.move(stroke.control ? Move::word : Move::letter, stroke.key == Qt::Key_Right, stroke.shift);
        return true;
    case Qt::Key_Up:
    case Qt::Key_Down:
        hand_.move(Move::line, stroke.key == Qt::Key_Down, stroke.shift);
        return true;
    case Qt::Key_Home:
    case Qt::Key_End:
        hand_.move(stroke.control ? Move::endOfText : Move::endOfLine, stroke.key == Qt::Key_End,
                   stroke.shift);
        return true;
    case Qt::Key_Backspace:
    case Qt::Key_Delete:
        hand_.erase(stroke.key == Qt::Key_Delete);
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        hand_.type("\n");
        return true;
    default:
        break;
    }
    if (stroke.control) {
        switch (stroke.key) {
        case Qt::Key_A:
            hand_.selectAll();
            return true;
        case Qt::Key_C:
            hand_.copy();
            return true;
        case Qt::Key_X:
            hand_.cut();
            return true;
        case Qt::Key_V:
            hand_.paste();
            return true;
        default:
            return false;
        }
    }
    if (stroke.text.isEmpty() || !(stroke.text.front().isPrint() || stroke.text.front().isSurrogate()))
        return false;
    hand_.type(stroke.text);
    return true;
}

void LetteringTool::paint(QPainter& painter, double /*pixelsPerMillimetre*/) const {
    const ItemHand::Frame frame = hand_.items().frame();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(cosmetic(colour::indigo, 1, Qt::DashLine));
    QPolygonF outline;
    for (const Point corner : {frame.box.least, Point{frame.box.most.x, frame.box.least.y}, frame.box.most,
                               Point{frame.box.least.x, frame.box.most.y}}) {
        const Point at = frame.toDesign(corner);
        outline << QPointF(at.x, at.y);
    }
    painter.drawPolygon(outline);
    if (!hand_.isEditing())
        return;
    QColor marked = colour::indigo;
    marked.setAlpha(70);
    painter.setPen(Qt::NoPen);
    painter.setBrush(marked);
    for (const QPolygonF& letter : hand_.selection())
        painter.drawPolygon(letter);
    const QLineF caret = hand_.caret();
    for (const auto& [tint, width] : {std::pair(QColor(Qt::white), 4.0), std::pair(colour::indigo, 2.0)}) {
        painter.setPen(cosmetic(tint, width));
        painter.drawLine(caret);
    }
}

} // namespace hasami
