#pragma once

#include "nesting/start.h"

namespace hasami::nesting {

/// Each copy as near to the start as it fits on a raster, the large ones first, each turned as is best; in
/// openings and bays too. Falls back on rows where the raster is too coarse. `cells`: along a middling part.
/// Gives up, with nothing, when `isOver`.
std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, int cells, std::size_t mostTurns,
                                const std::function<bool()>& isOver);

} // namespace hasami::nesting
