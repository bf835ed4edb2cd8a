#pragma once

#include "app/stickers/bench_tool.h"
#include "app/stickers/touch_up_hand.h"

#include <QPainter>

#include <functional>
#include <optional>
#include <vector>

namespace hasami {

/// What the pointer does while the edge is touched up. A point is dragged, with others that are held; a
/// handle bends the line; a drag that begins on a bare stretch redraws it; a double click adds a point.
class TouchUpTool : public BenchTool {
public:
    /// `tell` is called with a sentence where a gesture could not be followed.
    TouchUpTool(TouchUpHand& hand, std::function<void(const QString&)> tell)
        : hand_(hand), tell_(std::move(tell)) {}

    bool isFor(RecipeStep step) const override { return step == RecipeStep::edge && hand_.isOn(); }
    bool press(const PointerPlace& pointer) override;
    bool pressTwice(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void stop() override;
    std::optional<Qt::CursorShape> cursor() const override;

    /// Keys: Delete, arrows by 0.1 mm (with Shift 1 mm), Page Up and Down to walk, Escape.
    bool key(int key, bool shift) override;

    /// The line that is held, its points and handles, what is being drawn.
    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

private:
    void paintHandles(QPainter& painter, const EdgeLoop& line, double pixel) const;

    TouchUpHand& hand_;
    std::function<void(const QString&)> tell_;
    TouchUpHand::Target under_, dragged_;
    std::optional<Point> pressed_;
    bool isDragging_ = false;
    std::vector<Point> drawn_;
};

} // namespace hasami
