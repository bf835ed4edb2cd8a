#pragma once

#include "geometry/loop.h"
#include "sticker/sticker.h"

namespace hasami {

/// What nothing else may enter, mm of the design: the areas inside its cut lines, and all that is printed
/// where it reaches farther; openings too small for any sticker are filled. Within 10 µm. Empty for an empty
/// sticker.
Region keepOutOf(const Sticker& sticker);

} // namespace hasami
