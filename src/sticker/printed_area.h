#pragma once

#include "sticker/sticker.h"

namespace hasami {

/// Where the artwork shows anything and is not left out, mm of the design.
Region printedArtwork(const Sticker& sticker);

/// The area of the colour print: artwork, border and bleed.
Region printedArea(const Sticker& sticker);
/// The same where the artwork shows less of itself than its silhouette.
Region printedArea(const Sticker& sticker, Region artwork);

/// What the lines that are peeled enclose.
Region peeledArea(const Sticker& sticker);

} // namespace hasami
