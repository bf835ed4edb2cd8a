#pragma once

#include "app/stickers/item_hand.h"

#include <QPainter>

namespace hasami {

/// What the pointer does in Artwork: takes hold of items and moves them, sizes them by a corner, turns them
/// by the knob above, moves guides; while cropping, draws the sides of what is shown. Places are in mm,
/// `reach` is how far the pointer may miss.
class ItemGesture {
public:
    explicit ItemGesture(ItemHand& hand) : hand_(hand) {}

    /// `free`: nothing snaps; `stepped`: turns go in steps of 15 degrees.
    struct Keys {
        bool free = false, stepped = false;
    };

    void press(Point at, double reach);
    void move(Point at, double reach, Keys keys);
    /// `isOutside`: the pointer has left the canvas, where a guide is let fall.
    void release(bool isOutside);
    bool isDragging() const { return isDragging_; }
    void stop();

    /// True if what lies under the pointer has changed.
    bool hover(Point at, double reach);
    Qt::CursorShape cursor() const;

    /// Arrows nudge by 0.1 mm (with Shift 1 mm), Page Up and Down hold the next, Delete takes out, Escape
    /// lets go. True if it was one.
    bool key(int key, bool shift);

    void paint(QPainter& painter, double pixelsPerMillimetre) const;

private:
    enum class Grip { nothing, item, corner, knob, side, guide };
    struct Target {
        Grip grip = Grip::nothing;
        int number = 0; ///< of the corner or side, clockwise from the top left, or the top; of the guide
        friend bool operator==(const Target&, const Target&) = default;
    };

    Target at(Point place, double reach) const;
    Point knob(double reach) const;
    void dragCorner(Point at);
    void dragKnob(Point at, bool isStepped);
    void dragSide(Point at);
    void paintReadout(QPainter& painter) const;

    ItemHand& hand_;
    Target under_, dragged_;
    std::optional<Point> pressed_;
    bool isDragging_ = false;
    Point now_;
    std::vector<Item> from_;    ///< all items when the drag began
    ItemHand::Frame fromFrame_; ///< and what was held
    std::optional<double> snapX_, snapY_;
    QString readout_;
};

} // namespace hasami
