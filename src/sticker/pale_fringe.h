#pragma once

#include "artwork/picture.h"
#include "sticker/sticker.h"

#include <memory>
#include <optional>
#include <span>

namespace hasami {

/// A light rim along the artwork's edge, as a cut-out from a white ground leaves it.
struct PaleFringe {
    double width = 0; ///< mm, about
    Point place;      ///< somewhere on it, mm of the design
};

/// A rim along a third of the edge and more that is plainly lighter than the artwork 0.6 mm farther in;
/// nothing where there is none, or where pixels are too coarse to tell. `pictures`: one for each item.
/// O(length of the edge).
std::optional<PaleFringe> paleFringe(const Artwork& artwork, const Sticker& sticker,
                                     std::span<const std::shared_ptr<const Picture>> pictures);

} // namespace hasami
