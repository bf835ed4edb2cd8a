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

/// What a picture's colours are made of.
struct ColourKind {
    int channels = 3, bits = 8;
    std::span<const std::byte> profile = {};

    friend bool operator==(const ColourKind& a, const ColourKind& b) {
        return a.channels == b.channels && a.bits == b.bits && std::ranges::equal(a.profile, b.profile);
    }
};

ColourKind kindOf(const Picture& picture) {
    if (picture.page) {
        const VectorPage& page = *picture.page;
        const std::span<const char> profile(page.profile);
        if (picture.fine)
            return {picture.fine->channels(), picture.fine->bits(), std::as_bytes(profile)};
        return {page.paint.isGrey ? 1 : 3, 8, {}};
    }
    if (picture.fine)
        return {picture.fine->channels(), picture.fine->bits(), picture.iccProfile};
    return {picture.isGrey ? 1 : 3, 8, picture.iccProfile};
}

/// Whether eight bits of one kind are all there is.
bool isPlain(const ColourKind& kind, std::span<const std::shared_ptr<const Picture>> pictures) {
    return kind.channels < 4 && kind.bits == 8 && std::ranges::all_of(pictures, [&](const auto& picture) {
               return kindOf(*picture) == kind && !picture->fine;
           });
}

/// Sorts the pixels of a bleed by the kinds of their colours.
class BleedParts {
public:
    BleedParts(std::span<const std::shared_ptr<const Picture>> pictures, int width, int height)
        : pictures_(pictures) {
        std::vector<ColourKind> kinds;
        for (const auto& picture : pictures) {
            const ColourKind kind = kindOf(*picture);
            const auto found = std::ranges::find(kinds, kind);
            partOf_.push_back(std::size_t(found - kinds.begin()));
            if (found == kinds.end()) {
                kinds.push_back(kind);
                parts_.push_back(newPart(kind, width, height));
            }
            addSpots(parts_[partOf_.back()], *picture);
        }
    }

    /// A place of the bleed that has the colour of what is seen there; places of none are white.
    void set(int column, int row, const std::optional<ArtworkPixels::Seen>& seen) {
        BleedPart& part = parts_[seen ? partOf_[seen->item] : 0];
        part.mask.at(column, row) = 255;
        if (seen)
            put(part, column, row, *pictures_[seen->item], seen->cell);
    }

    std::vector<BleedPart> take() { return std::move(parts_); }

private:
    static BleedPart newPart(const ColourKind& kind, int width, int height) {
        BleedPart part;
        part.mask = Grid<std::uint8_t>(width, height);
        part.colours.pixels = Grid<Rgba>(width, height, Rgba{255, 255, 255, 255});
        part.colours.iccProfile.assign(kind.profile.begin(), kind.profile.end());
        part.colours.isGrey = kind.channels == 1;
        if (kind.channels == 4 || kind.bits != 8)
            part.colours.fine = FineColours(kind.channels, kind.bits, width, height, noInk(kind));
        return part;
    }

    static FineCell noInk(const ColourKind& kind) {
        const auto most = std::uint16_t(kind.channels == 4 ? 0 : kind.bits == 16 ? 0xffff : 0xff);
        return {most, most, most, 0};
    }

    static void addSpots(BleedPart& part, const Picture& picture) {
        if (!picture.page) // a picture's channels are no part of its print
            return;
        for (const SpotPlate& spot : picture.spotPlates)
            if (std::ranges::find(part.spots, spot.name, &SpotPlate::name) == part.spots.end())
                part.spots.push_back({spot.name, {part.mask.width(), part.mask.height()}});
    }

    /// What shows through is mixed with white; a page's own colours have that in them.
    static void put(BleedPart& part, int column, int row, const Picture& picture, Cell from) {
        const Rgba pixel = picture.pixels.at(from.column, from.row);
        const double share = picture.page && picture.fine ? 1 : pixel.coverage / 255.0;
        const auto onWhite = [&](double value, double white) {
            return std::uint16_t(std::lround(white + (value - white) * share));
        };
        FineCell own{pixel.red, pixel.green, pixel.blue, 0};
        if (picture.fine)
            own = picture.fine->at(from.column, from.row);
        if (part.colours.fine) {
            FineColours& fine = *part.colours.fine;
            const FineCell white = noInk({fine.channels(), fine.bits()});
            FineCell mixed{};
            for (std::size_t i = 0; i < mixed.size(); ++i)
                mixed[i] = onWhite(own[i], white[i]);
            fine.set(column, row, mixed);
        } else {
            const auto level = [&](std::size_t i) { return std::uint8_t(onWhite(own[i], 255)); };
            part.colours.pixels.at(column, row) = {level(0), level(1), level(2), 255};
        }
        if (picture.page)
            for (const SpotPlate& spot : picture.spotPlates)
                std::ranges::find(part.spots, spot.name, &SpotPlate::name)->amounts.at(column, row) =
                    spot.amounts.at(from.column, from.row);
    }

    std::span<const std::shared_ptr<const Picture>> pictures_;
    std::vector<std::size_t> partOf_; ///< of each picture
    std::vector<BleedPart> parts_;
};

} // namespace

std::size_t bytesOf(const BleedPicture& bleed) {
    const auto of = [](const Picture& picture) {
        return picture.pixels.cells().size_bytes() + (picture.fine ? picture.fine->samples().size() : 0);
    };
    std::size_t sum = of(bleed.picture);
    for (const BleedPart& part : bleed.parts)
        sum += of(part.colours) + (1 + part.spots.size()) * part.mask.cells().size();
    return sum;
}

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
    made.lacksInks = std::ranges::any_of(pictures, [](const auto& picture) {
        return picture->page && picture->page->paint.hasInks && !picture->fine;
    });
    std::optional<BleedParts> parts;
    if (const ColourKind first = kindOf(*pictures.front()); isPlain(first, pictures)) {
        made.picture.isGrey = first.channels == 1;
        made.picture.iccProfile.assign(first.profile.begin(), first.profile.end());
    } else {
        parts.emplace(pictures, extent.width(), extent.height());
    }
    const LookThrough through(colours, pixelsPerMillimetre, depth, isFromLine);
    const int farthest =
        int(std::ceil((recipe.amount + 0.2) * pixelsPerMillimetre + depth + thinReach + rim));
    findNearest(sources, wanted, farthest, int(std::thread::hardware_concurrency()), stop,
                [&](const NearestRun& run) {
                    for (std::size_t i = 0; i < run.nearest.size(); ++i) {
                        const int column = run.column + int(i) - extent.left, row = run.row - extent.top;
                        const Cell from = through.behind({run.column + int(i), run.row}, run.nearest[i]);
                        made.picture.pixels.at(column, row) = colours.at(from);
                        if (parts)
                            parts->set(column, row, colours.frontAt(from));
                    }
                });
    if (parts)
        made.parts = parts->take();
    return made;
}

} // namespace hasami
