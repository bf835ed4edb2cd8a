#include "sticker/pale_fringe.h"

#include "sticker/artwork_pixels.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double betweenLooks = 0.5; // mm, of the places that are looked at
constexpr double inner = 0.6;        // mm from the rim to what it is compared with
constexpr double plainly = 0.15;     // of luma (ITU-R BT.709), 0 to 1
constexpr double share = 1.0 / 3;    // of the places
constexpr double widest = 0.6;       // mm
constexpr double coarsest = 0.25;    // mm of a pixel

struct Look {
    Point place, inward; ///< of length 1
};

std::vector<Look> looksAlong(const std::vector<Curve>& edge) {
    std::vector<Look> looks;
    for (const Curve& curve : edge) {
        const Loop loop = flatten(curve, 0.01); // what is inside lies to the right, seen along the loop
        double next = 0;
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point from = loop[i], to = loop[(i + 1) % loop.size()], along = unit(to - from);
            const double side = distance(from, to);
            while (next < side) {
                looks.push_back({from + along * next, {-along.y, along.x}});
                next += betweenLooks;
            }
            next -= side;
        }
    }
    return looks;
}

} // namespace

std::optional<PaleFringe> paleFringe(const Artwork& artwork, const Sticker& sticker,
                                     std::span<const std::shared_ptr<const Picture>> pictures) {
    Box around;
    for (const Curve& curve : sticker.edge)
        around.add(bounds(flatten(curve, 0.1)));
    if (around.isEmpty())
        return {};
    const Affine grid = pixelGrid(artwork, around);
    const double pixel = std::sqrt(std::abs(grid.determinant()));
    if (pixel > coarsest)
        return {};
    const ArtworkPixels pixels(artwork, pictures, grid);
    const Affine toCells = inverse(grid);
    const auto lightness = [&](Point place) {
        const Point cell = toCells(place);
        const Rgba seen = pixels.at({int(std::floor(cell.x)), int(std::floor(cell.y))});
        return (0.2126 * seen.red + 0.7152 * seen.green + 0.0722 * seen.blue) / 255;
    };
    const double rim = std::max(0.12, 1.5 * pixel); // past what is covered by half
    std::size_t pale = 0;
    double width = 0;
    PaleFringe fringe;
    const std::vector<Look> looks = looksAlong(sticker.edge);
    for (const Look& look : looks) {
        const auto at = [&](double deep) { return lightness(look.place + look.inward * deep); };
        const double within = at(rim + inner), outer = at(rim);
        if (outer - within < plainly)
            continue;
        double deep = rim;
        while (deep < widest && at(deep) - within > (outer - within) / 2)
            deep += pixel / 2;
        width += deep;
        if (pale++ == 0)
            fringe.place = look.place;
    }
    if (looks.empty() || double(pale) < share * double(looks.size()))
        return {};
    fringe.width = width / double(pale);
    return fringe;
}

} // namespace hasami
