#pragma once

#include "sheet/sheet.h"

namespace hasami::test {

/// Copies of one outline.
inline Copies shaped(std::string design, Loop outline, int count) {
    Copies copies{std::move(design), bounds(outline), count};
    copies.outline = std::make_shared<const Region>(Region{{std::move(outline)}});
    return copies;
}

inline Medium rollOf(double width) {
    Medium medium;
    medium.width = width;
    return medium;
}

inline SheetPlan planOf(Medium medium, double gap) {
    SheetPlan plan;
    plan.medium = std::move(medium);
    plan.gap = gap;
    return plan;
}

} // namespace hasami::test
