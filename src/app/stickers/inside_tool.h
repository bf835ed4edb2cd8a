#pragma once

#include "app/stickers/bench_tool.h"
#include "app/stickers/item_hand.h"

namespace hasami {

/// While the picture inside own artwork is being placed: a drag moves it, a drag of one of its corners sizes
/// it about the opposite one. Escape or Enter ends it.
class InsideTool : public BenchTool {
public:
    explicit InsideTool(ItemHand& hand) : hand_(hand) {}

    bool isFor(RecipeStep step) const override {
        return step == RecipeStep::artwork && hand_.isPlacingPicture();
    }
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void stop() override { pressed_.reset(); }
    bool isMoving() const override { return pressed_.has_value(); }
    std::optional<Qt::CursorShape> cursor() const override;
    bool key(int key, bool shift) override;
    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

private:
    std::optional<int> cornerAt(const PointerPlace& pointer) const;

    ItemHand& hand_;
    std::optional<Point> pressed_; ///< in the item's frame
    std::optional<int> corner_;    ///< clockwise from the top left
    Placement from_;
    bool isOverCorner_ = false;
};

} // namespace hasami
