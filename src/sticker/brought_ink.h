#pragma once

#include "sticker/ink_layers.h"

namespace hasami {

/// What one artwork brings of a special ink: what it paints, or has as a channel, under the ink's name.
struct BroughtInk {
    Grid<std::uint8_t> amounts;         ///< of each pixel of its picture; empty: not known, or none
    std::optional<Region> painted = {}; ///< where it is painted, in mm of the design, where that is known
};

/// The ink as the artwork brings it, shrunk by the layer's choke: graded where parts of it are between
/// nothing and all. Nothing of what is left out of the artwork. `brought`: one for each item.
/// Throws Stopped.
PrintedInk printBroughtInk(const Artwork& artwork, const Sticker& sticker, const InkLayer& layer,
                           std::span<const BroughtInk> brought, double tolerance,
                           const std::stop_token& stop = {});

} // namespace hasami
