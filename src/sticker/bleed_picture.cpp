#include "sticker/bleed_picture.h"

#include "geometry/region_operations.h"
#include "raster/nearest_cells.h"
#include "sticker/artwork_pixels.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <thread>

namespace hasami {

namespace {

constexpr double drawnIn = 1.25;      // pixels: what lies deeper is covered in whole
constexpr double drawnInOfJpeg = 2.5; // whose colours are stored for two pixels at once
constexpr double thinReach = 3;       // pixels that the drawn-in area stands for around itself
constexpr double lookedThrough = 0.3; // mm: how wide a gap or a pale fringe along the edge may be

Region mapped(const Region& region, const Affine& by) {
    Region there = region;
    for (Loop& loop : there.loops)
        for (Point& p : loop)
            p = by(p);
    return there;
}

/// The print, shrunk where it is thick enough, in cells.
CellRuns sourcesIn(const Region& print, double depth) {
    const Region deep = offset(print, -depth);
    if (deep.isEmpty())
        return cellsIn(print);
    const Region thin = difference(print, offset(deep, depth + thinReach));
    return cellsIn(thin.isEmpty() ? deep : uniteSimple(std::vector{deep, thin}));
}

/// Whether a colour is one that lies behind it ("deep"), mixed with much of what shows beside the print: a
/// pale fringe, or with all of it a gap.
bool isMixed(const std::array<float, 3>& colour, const std::array<float, 3>& deep,
             const std::array<float, 3>& beside) {
    constexpr float leastContrast = 30, leastPart = 0.12F,
                    farthestOff = 20; // levels; of noise and compression
    float square = 0, along = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        square += (beside[i] - deep[i]) * (beside[i] - deep[i]);
        along += (colour[i] - deep[i]) * (beside[i] - deep[i]);
    }
    if (square < leastContrast * leastContrast)
        return false;
    const float part = along / square;
    if (part < leastPart || part > 1.1F)
        return false;
    float off = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        const float d = colour[i] - deep[i] - part * (beside[i] - deep[i]);
        off += d * d;
    }
    return off <= farthestOff * farthestOff;
}

/// Looks behind hairline gaps and pale fringes along the print's edge.
class LookThrough {
public:
    /// `besideIsPrinted`: what lies beyond the sources is artwork too, and no backdrop.
    LookThrough(const ArtworkPixels& colours, double pixelsPerMillimetre, double drawnIn,
                bool besideIsPrinted)
        : colours_(colours), steps_(std::max(1, int(std::lround(lookedThrough * pixelsPerMillimetre)))),
          toBackdrop_(drawnIn + 2), besideIsPrinted_(besideIsPrinted) {}

    /// The place to take the colour for `outside` from, whose nearest place inside the print is `nearest`.
    Cell behind(Cell outside, Cell nearest) const {
        const double x = nearest.column - outside.column, y = nearest.row - outside.row,
                     length = std::hypot(x, y);
        if (length == 0)
            return nearest;
        const auto at = [&](double steps) {
            return Cell{nearest.column + int(std::lround(x / length * steps)),
                        nearest.row + int(std::lround(y / length * steps))};
        };
        constexpr std::array<float, 3> white{255, 255, 255};
        Cell best = nearest;
        std::array<float, 3> colour = colours_.seenAt(nearest);
        std::optional<std::array<float, 3>> beside;
        for (int i = 1; i <= steps_; ++i) {
            const Cell cell = at(i);
            const std::array<float, 3> deep = colours_.seenAt(cell);
            if (areAlike(colour, deep))
                continue;
            if (!beside)
                beside = besideIsPrinted_ ? white : colours_.seenAt(at(-toBackdrop_));
            if (isMixed(colour, deep, white) || isMixed(colour, deep, *beside)) {
                best = cell;
                colour = deep;
            }
        }
        return best;
    }

private:
    static bool areAlike(const std::array<float, 3>& a, const std::array<float, 3>& b) {
        constexpr float alike = 8; // levels
        return std::max({std::abs(a[0] - b[0]), std::abs(a[1] - b[1]), std::abs(a[2] - b[2])}) < alike;
    }

    const ArtworkPixels& colours_;
    int steps_;
    double toBackdrop_;
    bool besideIsPrinted_;
};

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
    const bool isFromLine = !sticker.bleed->source.empty();
    const Region print =
        enclosed(flatten(isFromLine ? sticker.bleed->source : sticker.printed, flatteningTolerance),
                 FillRule::nonZero);
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
    const LookThrough through(colours, pixelsPerMillimetre, depth, isFromLine);
    const int farthest =
        int(std::ceil((recipe.amount + 0.2) * pixelsPerMillimetre + depth + thinReach + rim));
    findNearest(sources, wanted, farthest, int(std::thread::hardware_concurrency()), stop,
                [&](const NearestRun& run) {
                    for (std::size_t i = 0; i < run.nearest.size(); ++i) {
                        const int column = run.column + int(i) - extent.left, row = run.row - extent.top;
                        const Cell from = through.behind({run.column + int(i), run.row}, run.nearest[i]);
                        made.picture.pixels.at(column, row) = colours.at(from);
                        if (made.picture.fine)
                            made.picture.fine->cells.at(column, row) = colours.fineAt(from);
                    }
                });
    return made;
}

} // namespace hasami
