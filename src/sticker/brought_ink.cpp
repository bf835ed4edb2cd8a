#include "sticker/brought_ink.h"

#include "geometry/fit_curves.h"
#include "raster/half_covered.h"
#include "raster/level_lines.h"
#include "sticker/artwork_pixels.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

Affine fromPlate(const Item& item, const Grid<std::uint8_t>& cells) {
    return item.fromUnitSquare() * Affine::scaling(1.0 / cells.width(), 1.0 / cells.height());
}

/// Where there is any of it, or half of it where it is all or nothing.
Region areaOfPlate(const Item& item, const Grid<std::uint8_t>& amounts, bool isGraded,
                   const std::stop_token& stop) {
    constexpr double byHalves = 127.5, any = 5.5;
    Grid<std::uint8_t> shown(amounts.width(), amounts.height());
    const PixelBox box = item.shown();
    for (int y = box.top; y < std::min(box.top + box.height, shown.height()); ++y)
        for (int x = box.left; x < std::min(box.left + box.width, shown.width()); ++x)
            shown.at(x, y) = amounts.at(x, y);
    Region lines{levelLines(shown, isGraded ? any : byHalves, stop)};
    for (Loop& line : lines.loops)
        for (Point& p : line)
            p = fromPlate(item, shown)(p);
    return enclosed(lines, FillRule::nonZero);
}

/// As much in each pixel as the item with the most of it has there.
PrintedInk::Graded gradedByPlates(const Artwork& artwork, std::span<const BroughtInk> brought,
                                  const Box& box) {
    const Affine grid = pixelGrid(artwork, box);
    const Box cells = boundsOfMapped(box, inverse(grid));
    const int left = int(std::floor(cells.least.x)), top = int(std::floor(cells.least.y));
    const int width = std::max(1, int(std::ceil(cells.most.x)) - left),
              height = std::max(1, int(std::ceil(cells.most.y)) - top);
    PrintedInk::Graded graded{{width, height}, grid * Affine::translation({double(left), double(top)})};
    for (std::size_t i = 0; i < brought.size(); ++i) {
        const Grid<std::uint8_t>& amounts = brought[i].amounts;
        if (amounts.cells().empty())
            continue;
        const Affine toCells = inverse(fromPlate(artwork.items[i], amounts)) * graded.fromPixels;
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const Point at = toCells(Point{x + 0.5, y + 0.5});
                const int column = int(std::floor(at.x)), row = int(std::floor(at.y));
                if (column < 0 || row < 0 || column >= amounts.width() || row >= amounts.height())
                    continue;
                std::uint8_t& amount = graded.amounts.at(x, y);
                amount = std::max(amount, amounts.at(column, row));
            }
    }
    return graded;
}

std::vector<Curve> fittedPlate(const Region& region, double tolerance, bool isOfPixels) {
    constexpr double scatterOfPlate = 0.1; // pixels: a tolerance is a tenth of one
    const FitOptions fit{tolerance, isOfPixels ? 10 * tolerance * scatterOfPlate : 0, 2 * tolerance};
    std::vector<Curve> curves;
    for (const Loop& loop : region.loops)
        if (Curve curve = fitCurve(loop, fit); !curve.segments.empty())
            curves.push_back(std::move(curve));
    return curves;
}

} // namespace

PrintedInk printBroughtInk(const Artwork& artwork, const Sticker& sticker, const InkLayer& layer,
                           std::span<const BroughtInk> brought, double tolerance,
                           const std::stop_token& stop) {
    const bool isGraded =
        std::ranges::any_of(brought, [](const BroughtInk& ink) { return hasHalfCoveredParts(ink.amounts); });
    std::vector<Region> parts;
    bool isOfPixels = false;
    for (std::size_t i = 0; i < brought.size(); ++i) {
        const BroughtInk& ink = brought[i];
        if (ink.painted && !isGraded) {
            parts.push_back(*ink.painted);
        } else if (!ink.amounts.cells().empty()) {
            isOfPixels = true;
            parts.push_back(areaOfPlate(artwork.items[i], ink.amounts, isGraded, stop));
        }
    }
    Region area = unite(parts);
    if (!sticker.within.empty())
        area = intersection(area, enclosed(flatten(sticker.within, flatteningTolerance), FillRule::nonZero));
    if (layer.choke > 0)
        area = offset(area, -layer.choke);
    PrintedInk printed{layer.ink, fittedPlate(area, tolerance, isOfPixels)};
    if (isGraded && !area.isEmpty())
        printed.graded = gradedByPlates(artwork, brought, bounds(area));
    return printed;
}

} // namespace hasami
