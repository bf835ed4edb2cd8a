#pragma once

#include "app/stickers/bench_tool.h"
#include "app/stickers/lettering_hand.h"

namespace hasami {

/// Typing on the bench: clicks and drags set the caret and select, keys type. Escape or a click beside the
/// lettering ends it. While openings are picked, clicks keep or remove them.
class LetteringTool : public BenchTool {
public:
    explicit LetteringTool(LetteringHand& hand) : hand_(hand) {}

    bool isFor(RecipeStep step) const override {
        return step == RecipeStep::artwork && (hand_.isEditing() || hand_.isPicking());
    }
    bool press(const PointerPlace& pointer) override;
    bool pressTwice(const PointerPlace& pointer) override; ///< selects a word
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void stop() override { isSelecting_ = false; }
    std::optional<Qt::CursorShape> cursor() const override;
    bool stroke(const KeyStroke& stroke) override;
    bool takesText() const override { return hand_.isEditing(); }
    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

private:
    bool isBeside(const PointerPlace& pointer) const;

    LetteringHand& hand_;
    bool isSelecting_ = false;
};

} // namespace hasami
