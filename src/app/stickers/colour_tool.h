#pragma once

#include "app/document/document.h"
#include "app/stickers/bench_tool.h"

#include <functional>

namespace hasami {

/// In Border, a click on the artwork takes its colour; in Inks, it gives that colour the chosen ink.
class ColourTool : public BenchTool {
public:
    /// `take` is called with the colour at a click.
    ColourTool(Document& document, RecipeStep step, std::function<void(Rgba)> take)
        : document_(document), step_(step), take_(std::move(take)) {}

    bool isFor(RecipeStep step) const override { return step == step_; }
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace&) override {}
    void release(const PointerPlace& pointer) override;
    void stop() override { pressed_.reset(); }

private:
    Document& document_;
    RecipeStep step_;
    std::function<void(Rgba)> take_;
    std::optional<Point> pressed_;
};

} // namespace hasami
