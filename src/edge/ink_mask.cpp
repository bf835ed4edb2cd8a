#include "edge/ink_mask.h"

#include "edge/colour.h"
#include "raster/level_lines.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double byHalves = 127.5;

/// `strength` of each colour, 0 to 255, half of which is the border; in so far as the pixel is covered.
template <class Strength>
std::vector<Loop> linesWhere(const Item& item, const Picture& picture, const Strength& strength,
                             const std::stop_token& stop) {
    Grid<std::uint8_t> mask(picture.pixels.width(), picture.pixels.height());
    const PixelBox shown = item.shown();
    for (int y = shown.top; y < shown.top + shown.height; ++y)
        for (int x = shown.left; x < shown.left + shown.width; ++x) {
            const Rgba pixel = picture.pixels.at(x, y);
            mask.at(x, y) = std::uint8_t(std::lround(strength(pixel) * pixel.coverage / 255.0));
        }
    std::vector<Loop> lines = levelLines(mask, byHalves, stop);
    const Affine toDesign = item.fromUnitSquare() * Affine::scaling(1.0 / mask.width(), 1.0 / mask.height());
    for (Loop& line : lines)
        for (Point& p : line)
            p = toDesign(p);
    return lines;
}

} // namespace

std::vector<Loop> linesAroundInk(const Item& item, const Picture& picture, double threshold,
                                 const std::stop_token& stop) {
    const double border = std::max(threshold, 0.5) * 2.55; // levels
    return linesWhere(
        item, picture,
        [&](Rgba p) {
            const int away = 255 - std::min({p.red, p.green, p.blue});
            return std::min(255.0, away / border * byHalves);
        },
        stop);
}

std::vector<Loop> linesAroundColours(const Item& item, const Picture& picture, std::span<const Rgba> colours,
                                     const std::stop_token& stop) {
    return linesWhere(
        item, picture,
        [&](Rgba p) {
            float least = 255;
            for (const Rgba colour : colours)
                least = std::min(least, apart(Colour(p), Colour(colour)));
            return std::max(0.0, 255 * (1 - double(least) / (2 * alikeInk)));
        },
        stop);
}

} // namespace hasami
