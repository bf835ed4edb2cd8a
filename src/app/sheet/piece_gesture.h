#pragma once

#include "app/sheet/piece_hand.h"

#include <QPainter>

namespace hasami {

/// What the pointer and keys do with the stickers of the sheet: take hold of them, sweep over several, move
/// them, turn them by the knob above. Places are in mm of the view, where sheets lie one behind the other;
/// `reach` is how far the pointer may miss.
class PieceGesture {
public:
    /// `along` gives where a sheet begins in the view.
    PieceGesture(PieceHand& hand, std::function<double(int)> along) : hand_(hand), along_(std::move(along)) {}

    struct Keys {
        bool adds = false, stepped = false;
    };

    void press(Point at, int sheet, double reach, Keys keys);
    void move(Point at, int sheet, double reach, Keys keys);
    void release(Keys keys);
    void stop();
    bool isDragging() const { return isDragging_; }

    /// The cursor over the place.
    Qt::CursorShape cursor(Point at, int sheet, double reach) const;

    /// Arrows nudge by 0.5 mm (with Shift 5 mm), comma and full stop turn by 15 degrees (with Shift 1
    /// degree), Page Up and Down hold the next, Delete takes out, P pins, Ctrl+D duplicates, Ctrl+A holds
    /// all, Escape lets go. True if it was one.
    bool key(int key, Qt::KeyboardModifiers modifiers);

    /// The held ones' box and knob, the sweep, distances to neighbours.
    void paint(QPainter& painter, double pixelsPerMillimetre) const;

private:
    enum class Grip { nothing, piece, knob };

    Point inView(Point place, int sheet) const { return place + Point{along_(sheet), 0}; }
    int sheetOfHeld() const;
    Box heldBox() const; ///< in the view
    Point knob(double reach) const;
    void paintHeld(QPainter& painter, double pixelsPerMillimetre) const;
    void paintWays(QPainter& painter, double pixelsPerMillimetre) const;

    PieceHand& hand_;
    std::function<double(int)> along_;
    Grip grip_ = Grip::nothing;
    std::optional<Point> pressed_;
    int pressedSheet_ = 0;
    std::optional<std::size_t> pressedPiece_;
    bool isDragging_ = false;
    Point now_;
    Point middle_; ///< that they are turned about
};

} // namespace hasami
