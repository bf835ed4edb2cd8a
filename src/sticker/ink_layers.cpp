#include "sticker/ink_layers.h"

#include "artwork/vector_page.h"
#include "edge/colour.h"
#include "edge/ink_mask.h"
#include "edge/paint_outline.h"
#include "geometry/fit_curves.h"
#include "geometry/region_operations.h"
#include "sticker/artwork_pixels.h"
#include "sticker/printed_area.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

using Pictures = std::span<const std::shared_ptr<const Picture>>;

bool isChosen(Rgba colour, const InkLayer& layer) {
    return std::any_of(layer.colours.begin(), layer.colours.end(),
                       [&](Rgba chosen) { return apart(Colour(colour), Colour(chosen)) <= alikeInk; });
}

/// Exactly as painted, where a drawing has plain colours alone.
std::vector<Loop> paintedColours(const Item& item, const Picture& picture, const InkLayer& layer,
                                 const std::stop_token& stop) {
    EdgeOptions options;
    options.leastSpeck = options.leastOpening = 0;
    std::vector<Loop> loops;
    for (const EdgeLoop& loop :
         findPaintColourLoops(item.upright(), picture.page->paint, picture, options, stop))
        if (isChosen(*loop.colour, layer))
            loops.push_back(flatten(mapRim(loop.curve, item.toDesign()), flatteningTolerance));
    return loops;
}

Region chosenArea(const Artwork& artwork, const InkLayer& layer, Pictures pictures,
                  const std::stop_token& stop) {
    std::vector<Region> parts;
    for (std::size_t i = 0; i < artwork.items.size(); ++i) {
        const Item& item = artwork.items[i];
        const Picture& picture = *pictures[i];
        const bool isExact = picture.page && hasPlainColours(picture.page->paint);
        Region lines;
        if (layer.area == InkArea::notWhite)
            lines.loops = linesAroundInk(item, picture, layer.threshold, stop);
        else if (isExact)
            lines.loops = paintedColours(item, picture, layer, stop);
        else
            lines.loops = linesAroundColours(item, picture, layer.colours, stop);
        parts.push_back(enclosed(lines, FillRule::nonZero));
    }
    return unite(parts);
}

std::vector<Curve> fitted(const Region& region, double tolerance, bool isOfPixels) {
    constexpr double scatterOfMask = 0.3; // pixels: a tolerance is a tenth of one
    const FitOptions fit{tolerance, isOfPixels ? 10 * tolerance * scatterOfMask : 0,
                         isOfPixels ? 10 * tolerance : 2 * tolerance};
    std::vector<Curve> curves;
    for (const Loop& loop : region.loops)
        if (Curve curve = fitCurve(loop, fit); !curve.segments.empty())
            curves.push_back(std::move(curve));
    return curves;
}

PrintedInk::Graded gradedBy(const Artwork& artwork, Pictures pictures, const Box& box) {
    const Affine grid = pixelGrid(artwork, box);
    const Box cells = boundsOfMapped(box, inverse(grid));
    const int left = int(std::floor(cells.least.x)), top = int(std::floor(cells.least.y));
    const int width = std::max(1, int(std::ceil(cells.most.x)) - left),
              height = std::max(1, int(std::ceil(cells.most.y)) - top);
    const ArtworkPixels pixels(artwork, pictures, grid);
    PrintedInk::Graded graded{{width, height}, grid * Affine::translation({double(left), double(top)})};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            graded.amounts.at(x, y) = pixels.coverageAt({left + x, top + y});
    return graded;
}

} // namespace

PrintedInk printInk(const Artwork& artwork, const Sticker& sticker, const std::vector<Curve>& shown,
                    const InkLayer& layer, Pictures pictures, double tolerance, const std::stop_token& stop) {
    PrintedInk printed{layer.ink, {}, {}};
    const Region artworks = enclosed(shown, FillRule::nonZero);
    const Region openings = difference(withoutOpenings(artworks), artworks);
    Region area = printedArea(sticker, openings.isEmpty() ? printedArtwork(sticker)
                                                          : difference(printedArtwork(sticker), openings));
    const bool isOfPixels = layer.area == InkArea::notWhite || layer.area == InkArea::colours;
    if (isOfPixels)
        area = intersection(area, chosenArea(artwork, layer, pictures, stop));
    if (layer.choke > 0)
        area = offset(area, -layer.choke);
    printed.area = fitted(area, tolerance, isOfPixels);
    if (layer.area == InkArea::coverage && !area.isEmpty())
        printed.graded = gradedBy(artwork, pictures, bounds(area));
    return printed;
}

} // namespace hasami
