#pragma once

#include "app/stickers/bench_tool.h"
#include "app/stickers/item_hand.h"
#include "app/stickers/lettering_hand.h"

#include <QPainter>

namespace hasami {

/// What the pointer does in Artwork: takes hold of items, with Shift of several, and moves them, sizes them
/// by a corner, turns them by the knob above, moves guides; while cropping, draws the sides of what is shown.
/// With Control nothing snaps, with Shift turns go in steps of 15 degrees.
class ItemTool : public BenchTool {
public:
    ItemTool(ItemHand& hand, LetteringHand& lettering) : hand_(hand), lettering_(lettering) {}

    bool isFor(RecipeStep step) const override { return step == RecipeStep::artwork; }
    bool press(const PointerPlace& pointer) override;
    /// On lettering, which is then edited.
    bool pressTwice(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    /// Out of the canvas, a guide is let fall.
    void release(const PointerPlace& pointer) override;
    void stop() override;
    bool isMoving() const override { return isDragging_; }
    std::optional<Qt::CursorShape> cursor() const override;

    /// Arrows nudge by 0.1 mm (with Shift 1 mm), Page Up and Down hold the next, Delete takes out, Escape
    /// lets go.
    bool key(int key, bool shift) override;

    void paint(QPainter& painter, double pixelsPerMillimetre) const override;
    bool takesGuides() const override { return true; }
    void addGuide(const Guide& guide) override { hand_.addGuide(guide); }

private:
    enum class Grip { nothing, item, corner, knob, side, guide };
    struct Target {
        Grip grip = Grip::nothing;
        int number = 0; ///< of the corner or side, clockwise from the top left, or the top; of the guide
        friend bool operator==(const Target&, const Target&) = default;
    };

    Target at(Point place, double reach) const;
    Point knob(double reach) const;
    void dragCorner(const PointerPlace& pointer);
    /// Of a shape, whose sides go each its own way: with Shift evenly, with Control from its middle.
    void dragShapeCorner(const PointerPlace& pointer);
    void dragKnob(Point at, bool isStepped);
    void dragSide(Point at);
    void drag(const PointerPlace& pointer);
    void paintGuides(QPainter& painter) const;
    void paintReadout(QPainter& painter) const;

    ItemHand& hand_;
    LetteringHand& lettering_;
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
