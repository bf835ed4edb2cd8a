#include "sticker/printed_area.h"

#include "geometry/region_operations.h"

namespace hasami {

Region printedArtwork(const Sticker& sticker) {
    Region artwork = enclosed(sticker.printed, FillRule::nonZero);
    return sticker.within.empty() ? artwork
                                  : intersection(artwork, enclosed(sticker.within, FillRule::evenOdd));
}

Region printedArea(const Sticker& sticker) {
    return printedArea(sticker, printedArtwork(sticker));
}

Region printedArea(const Sticker& sticker, Region artwork) {
    std::vector<Region> all{std::move(artwork)};
    if (sticker.border)
        all.push_back(enclosed(sticker.border->over, FillRule::evenOdd));
    if (sticker.bleed)
        all.push_back(enclosed(sticker.bleed->area, FillRule::evenOdd));
    if (all.size() == 1)
        return std::move(all.front());
    constexpr double hair = 0.01; // mm: neighbours run into each other
    for (std::size_t i = 1; i < all.size(); ++i)
        all[i] = offset(all[i], hair);
    return uniteSimple(all);
}

Region peeledArea(const Sticker& sticker) {
    std::vector<Curve> rims;
    for (const CutLine& line : sticker.peeled())
        rims.push_back(line.curve);
    return enclosed(rims, FillRule::nonZero);
}

} // namespace hasami
