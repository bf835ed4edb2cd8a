#pragma once

#include "artwork/picture.h"
#include "artwork/vector_page.h"
#include "sticker/sticker.h"

#include <memory>
#include <span>
#include <stop_token>
#include <vector>

namespace hasami {

/// The pixels of a bleed that have colours of one kind, as they are printed.
struct BleedPart {
    Picture colours;
    std::vector<SpotPlate> spots; ///< over them
    Grid<std::uint8_t> mask;      ///< 255 where the pixels are, else 0
};

/// The bleed's colours: a picture without coverage, to be shown within the bleed's area.
struct BleedPicture {
    Picture picture;                   ///< for the eye
    Affine fromPixels;                 ///< to mm of the design
    std::vector<BleedPart> parts = {}; ///< as it is printed; none: like the picture
    bool lacksInks = false;            ///< of a page that could not be drawn in its own
};

std::size_t bytesOf(const BleedPicture& bleed);

/// Each pixel of the bleed's area has the colour of the nearest place inside the print, shrunk by a little
/// more than a pixel so that half-covered colours are left out, thin parts by less; what lies in no reach of
/// it is white. Gaps and pale fringes along the edge of up to 0.3 mm (colours behind them, mixed with white
/// or with what shows beside the print) are looked through. So seams between colours run straight out, and
/// gradients go on as they are at the edge. Printed in the artwork's own colours, each item's in its own:
/// greys, CMYK and spot colours of a page, ICC profiles, 16 bits.
///
/// `pictures`: one for each item. As fine as the finest of them, up to 1,200 dots an inch and 60 million
/// pixels. O(pixels of the area and of the tiles of 512 that it lies in), see findNearest. REQUIRES: the
/// sticker has a bleed of its own colours. Throws Stopped.
BleedPicture bleedPicture(const Artwork& artwork, const Sticker& sticker, const BleedRecipe& recipe,
                          std::span<const std::shared_ptr<const Picture>> pictures,
                          const std::stop_token& stop = {});

} // namespace hasami
