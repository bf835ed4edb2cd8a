#include "artwork/artwork.h"

#include <algorithm>

namespace hasami {

Box bounds(const Artwork& artwork) {
    Box box;
    for (const Item& item : artwork.items) {
        box.add(item.place.at);
        box.add(item.place.at + Point{item.place.width, item.place.height});
    }
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
        if (item.isVector)
            continue;
        const double here =
            25.4 * std::min(item.pixelWidth / item.place.width, item.pixelHeight / item.place.height);
        lowest = lowest == 0 ? here : std::min(lowest, here);
    }
    return lowest;
}

} // namespace hasami
