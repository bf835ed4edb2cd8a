#pragma once

#include "artwork/artwork.h"
#include "geometry/region_operations.h"
#include "sticker/sticker.h"

namespace hasami {

/// The recipe's lines that are open at both ends, in mm of the design: folds across `inside`, and what was
/// drawn, with the tabs of what is perforated.
std::vector<CutLine> openLines(const Recipe& recipe, const Artwork& artwork, const Region& inside);

/// One that was drawn; nothing where it is not there. `recipe`: its number.
std::optional<CutLine> drawnLine(const LineRecipe& line, std::size_t recipe, const Artwork& artwork);

/// From the points of what was drawn on an artwork to mm of the design.
Affine fromDrawn(const Item& item);
/// The artwork that what is drawn from a place on belongs to: the topmost one there, or the backmost.
int itemToDrawOn(const Artwork& artwork, Point place);

} // namespace hasami
