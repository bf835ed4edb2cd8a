#pragma once

#include "app/stickers/touch_up_hand.h"

#include <QPainter>

#include <optional>
#include <vector>

namespace hasami {

/// What the pointer does while the edge is touched up. A point is dragged, with others that are held; a
/// handle bends the line; a drag that begins on a bare stretch draws it anew; a double click adds a point.
/// Places are in mm, `reach` is how far the pointer may miss.
class TouchUpGesture {
public:
    explicit TouchUpGesture(TouchUpHand& hand) : hand_(hand) {}

    void press(Point at, double reach, bool more);
    void move(Point at, double reach);
    /// Gives a sentence where the gesture could not be followed, else nothing.
    QString release(Point at, double reach);
    void addNode(Point at, double reach);
    void stop();

    /// True if what lies under the pointer has changed.
    bool hover(Point at, double reach);
    Qt::CursorShape cursor() const;

    /// Keys: Delete, arrows by 0.1 mm (with Shift 1 mm), Page Up and Down to walk, Escape. True if it was
    /// one.
    bool key(int key, bool shift);

    /// The line that is held, its points and handles, what is being drawn.
    void paint(QPainter& painter, double pixelsPerMillimetre) const;

private:
    void paintHandles(QPainter& painter, const EdgeLoop& line, double pixel) const;

    TouchUpHand& hand_;
    TouchUpHand::Target under_, dragged_;
    std::optional<Point> pressed_;
    bool isDragging_ = false;
    std::vector<Point> drawn_;
};

} // namespace hasami
