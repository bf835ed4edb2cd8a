#pragma once

#include "app/document/document.h"
#include "app/stickers/bench_tool.h"

#include <functional>

namespace hasami {

/// In Border, a click on the artwork takes its colour; in Inks, it gives that colour the chosen ink; in
/// Artwork, while one picks, what is held is filled with it.
class ColourTool : public BenchTool {
public:
    /// `take` is called with the colour at a click.
    ColourTool(Document& document, RecipeStep step, std::function<void(Rgba)> take,
               std::function<bool()> isOn = {})
        : document_(document), step_(step), take_(std::move(take)), isOn_(std::move(isOn)) {}

    bool isFor(RecipeStep step) const override { return step == step_ && (!isOn_ || isOn_()); }
    bool press(const PointerPlace& pointer) override;
    void move(const PointerPlace&) override {}
    void release(const PointerPlace& pointer) override;
    void stop() override { pressed_.reset(); }

private:
    Document& document_;
    RecipeStep step_;
    std::function<void(Rgba)> take_;
    std::function<bool()> isOn_; ///< where it is not always
    std::optional<Point> pressed_;
};

} // namespace hasami
