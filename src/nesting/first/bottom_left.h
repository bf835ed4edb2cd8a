#pragma once

#include "nesting/layout/layout.h"

#include <functional>
#include <optional>

namespace hasami::nesting {

/// How carefully places are sought.
struct Care {
    int cells = 24; ///< of the raster along a middling part
    std::size_t mostTurns = 8;
    bool isSnug =
        false; ///< of places that reach about as little far, the one most of whose rim lies along others
};

/// Each copy as near to the start as it fits on a raster, the large ones first, each turned as is best; in
/// openings and bays too. Falls back on rows where the raster is too coarse. Gives up, with nothing, when
/// `isOver`.
std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, const Care& care,
                                const std::function<bool()>& isOver);

} // namespace hasami::nesting
