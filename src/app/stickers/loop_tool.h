#pragma once

#include "app/stickers/bench_tool.h"
#include "app/stickers/loop_picker.h"

namespace hasami {

/// In Edge, a click switches the smallest line under the pointer, further clicks there those around it; a
/// sweep over an area switches all lines that lie in it.
class LoopTool : public BenchTool {
public:
    explicit LoopTool(const LoopPicker& picker) : picker_(picker) {}

    bool isFor(RecipeStep step) const override { return step == RecipeStep::edge; }
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace& pointer) override;
    void release(const PointerPlace& pointer) override;
    void leave() override { under_.reset(); }
    void stop() override;
    void paint(QPainter& painter, double pixelsPerMillimetre) const override;

private:
    bool isSweep() const;
    Box swept() const;
    void click();

    LoopPicker picker_;
    std::optional<PointerPlace> pressed_;
    PointerPlace now_;
    Point lastClick_;
    std::size_t clicksHere_ = 0;       // in a row at that place
    std::optional<std::size_t> under_; // the line that a click would switch
};

} // namespace hasami
