#include "sticker/bleed_picture.h"

#include "geometry/region_operations.h"
#include "raster/nearest_cells.h"
#include "sticker/artwork_pixels.h"

#include <algorithm>
#include <cmath>
#include <thread>

namespace hasami {

namespace {

constexpr double drawnIn = 1.25;      // pixels: what lies deeper is covered in whole
constexpr double drawnInOfJpeg = 2.5; // whose colours are told for two pixels at once
constexpr double thinReach = 3;       // pixels that the drawn-in area stands for around itself

Region mapped(const Region& region, const Affine& by) {
    Region there = region;
    for (Loop& loop : there.loops)
        for (Point& p : loop)
            p = by(p);
    return there;
}

/// The print, drawn in where it is thick enough, in cells.
CellRuns sourcesIn(const Region& print, double depth) {
    const Region deep = offset(print, -depth);
    if (deep.isEmpty())
        return cellsIn(print);
    const Region thin = difference(print, offset(deep, depth + thinReach));
    return cellsIn(thin.isEmpty() ? deep : uniteSimple(std::vector{deep, thin}));
}

} // namespace

BleedPicture bleedPicture(const Artwork& artwork, const Sticker& sticker, const BleedRecipe& recipe,
                          std::span<const std::shared_ptr<const Picture>> pictures,
                          const std::stop_token& stop) {
    constexpr double rim = 2; // pixels beyond the area, for those who draw it with soft edges
    const Region area = enclosed(flatten(sticker.bleed->area, flatteningTolerance), FillRule::evenOdd);
    const Affine grid = pixelGrid(artwork, bounds(area));
    const Affine toCells = inverse(grid);
    const double pixelsPerMillimetre = std::sqrt(std::abs(toCells.a * toCells.d - toCells.b * toCells.c));
    const CellRuns wanted = cellsIn(offset(mapped(area, toCells), rim));
    const bool isLossy =
        std::any_of(pictures.begin(), pictures.end(), [](const auto& p) { return p->jpeg.has_value(); });
    const Region print = enclosed(flatten(sticker.printed, flatteningTolerance), FillRule::nonZero);
    const double depth = isLossy ? drawnInOfJpeg : drawnIn;
    const CellRuns sources = sourcesIn(mapped(print, toCells), depth);
    const CellRuns::Extent extent = wanted.extent();
    const Affine fromCells = grid * Affine::translation({double(extent.left), double(extent.top)});

    BleedPicture made{{}, fromCells};
    const ArtworkPixels colours(artwork, pictures, grid);
    made.picture.pixels = Grid<Rgba>(extent.width(), extent.height(), Rgba{255, 255, 255, 255});
    made.picture.isGrey = pictures.size() == 1 && pictures.front()->isGrey;
    if (pictures.size() == 1)
        made.picture.iccProfile = pictures.front()->iccProfile;
    if (const FineColours* fine = colours.fine())
        made.picture.fine =
            FineColours{fine->channels, fine->bits, {extent.width(), extent.height(), colours.noInk()}};
    const int farthest =
        int(std::ceil((recipe.amount + 0.2) * pixelsPerMillimetre + depth + thinReach + rim));
    findNearest(sources, wanted, farthest, int(std::thread::hardware_concurrency()), stop,
                [&](const NearestRun& run) {
                    for (std::size_t i = 0; i < run.nearest.size(); ++i) {
                        const int column = run.column + int(i) - extent.left, row = run.row - extent.top;
                        made.picture.pixels.at(column, row) = colours.at(run.nearest[i]);
                        if (made.picture.fine)
                            made.picture.fine->cells.at(column, row) = colours.fineAt(run.nearest[i]);
                    }
                });
    return made;
}

} // namespace hasami
