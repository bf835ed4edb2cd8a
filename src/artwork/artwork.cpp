#include "artwork/artwork.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace hasami {

namespace {

/// Exact for quarter turns.
Affine rotationByDegrees(double degrees) {
    const double quarters = degrees / 90;
    if (quarters != std::round(quarters))
        return Affine::rotation(degrees * std::numbers::pi / 180);
    switch ((int(quarters) % 4 + 4) % 4) {
    case 1:
        return {0, 1, -1, 0, 0, 0};
    case 2:
        return {-1, 0, 0, -1, 0, 0};
    case 3:
        return {0, -1, 1, 0, 0, 0};
    default:
        return {};
    }
}

} // namespace

Item Item::upright() const {
    Item own = *this;
    own.place.at = {};
    own.place.turn = 0;
    own.place.isMirrored = false;
    return own;
}

Affine Placement::toDesign() const {
    if (turn == 0 && !isMirrored)
        return Affine::translation(at);
    const Point half{width / 2, height / 2};
    return Affine::translation(at + half) * rotationByDegrees(turn) *
           Affine::scaling(isMirrored ? -1 : 1, 1) * Affine::translation(half * -1);
}

const FileContent* Item::file() const {
    if (const auto* page = std::get_if<FilePage>(&content))
        return page;
    return std::get_if<FilePicture>(&content);
}

const std::string& Item::source() const {
    return own() ? own()->drawing->sha256 : file()->asset;
}

Affine Item::fromPixels() const {
    const PixelBox part = shown();
    return toDesign() * Affine::scaling(place.width / pixelWidth, place.height / pixelHeight) *
           Affine::translation({double(part.left), double(part.top)});
}

Box Item::shownBox() const {
    const PixelBox part = shown();
    const double across = place.width / pixelWidth, down = place.height / pixelHeight;
    return {{part.left * across, part.top * down},
            {(part.left + part.width) * across, (part.top + part.height) * down}};
}

Artwork foregroundOf(const Artwork& artwork) {
    Artwork front = artwork;
    std::erase_if(front.items, [](const Item& item) { return item.isBackground; });
    return front.items.empty() ? artwork : front;
}

Box bounds(const Item& item) {
    return boundsOfMapped(item.shownBox(), item.toDesign());
}

Box bounds(const Artwork& artwork) {
    Box box;
    for (const Item& item : artwork.items)
        box.add(bounds(item));
    return box;
}

Artwork scaledToWidth(const Artwork& artwork, double width) {
    const Box box = bounds(artwork);
    const double factor = width / box.width();
    Artwork scaled = artwork;
    for (Item& item : scaled.items) {
        item.place.at = box.least + (item.place.at - box.least) * factor;
        item.place.width *= factor;
        item.place.height *= factor;
    }
    return scaled;
}

double dotsPerInch(const Artwork& artwork) {
    double lowest = 0;
    for (const Item& item : artwork.items) {
        if (item.isVector())
            continue;
        const double here =
            25.4 * std::min(item.pixelWidth / item.place.width, item.pixelHeight / item.place.height);
        lowest = lowest == 0 ? here : std::min(lowest, here);
    }
    return lowest;
}

} // namespace hasami
