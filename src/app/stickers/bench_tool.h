#pragma once

#include "app/kit/canvas_tool.h"
#include "artwork/arrange.h"
#include "sticker/recipe_step.h"

namespace hasami {

/// A tool of the bench.
class BenchTool : public CanvasTool {
public:
    /// Whether it is active while that step of a design is shown. The first that is takes the pointer.
    virtual bool isFor(RecipeStep step) const = 0;

    /// Guides are drawn out of the rulers for it.
    virtual bool takesGuides() const { return false; }
    virtual void addGuide(const Guide& /*guide*/) {}
};

} // namespace hasami
