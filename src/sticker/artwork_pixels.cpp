#include "sticker/artwork_pixels.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double finestPixel = 25.4 / 1200; // mm
constexpr double mostArtworkPixels = 60e6;

} // namespace

Affine pixelGrid(const Artwork& artwork, const Box& box) {
    const Item& first = artwork.items.front();
    const double across = first.place.width / first.pixelWidth, down = first.place.height / first.pixelHeight;
    const bool isAligned = artwork.items.size() == 1 && first.place.turn == 0 && !first.place.isMirrored;
    double pixel = std::min(across, down);
    for (const Item& item : artwork.items)
        pixel = std::min({pixel, item.place.width / item.pixelWidth, item.place.height / item.pixelHeight});
    const bool isTooFine =
        pixel < finestPixel || box.width() * box.height() / (across * down) > mostArtworkPixels;
    if (isAligned && !isTooFine)
        return first.toDesign() * Affine::scaling(across, down);
    pixel = std::max({pixel, finestPixel, std::sqrt(box.width() * box.height() / mostArtworkPixels)});
    return Affine::translation(box.least) * Affine::scaling(pixel, pixel);
}

} // namespace hasami
