#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "raster/nearest_cells.h"

#include <array>
#include <cmath>
#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// Pixels for what is made beside the artwork within `box`, as a map to mm of the design: those of a lone
/// upright picture, else a grid of the design's own, as fine as the finest picture. At most 1,200 dots an
/// inch and 60 million pixels.
Affine pixelGrid(const Artwork& artwork, const Box& box);

/// The artwork's colours on such a grid. Keeps references to the pictures, one for each item.
class ArtworkPixels {
public:
    ArtworkPixels(const Artwork& artwork, std::span<const std::shared_ptr<const Picture>> pictures,
                  const Affine& fromCells) {
        for (std::size_t i = artwork.items.size(); i-- > 0;) {
            const Item& item = artwork.items[i];
            const Affine toPixels =
                Affine::scaling(item.pixelWidth, item.pixelHeight) * inverse(item.fromUnitSquare());
            layers_.push_back({pictures[i].get(), toPixels * fromCells, item.shown()});
        }
    }

    /// The colour of the place as it is seen on white.
    Rgba at(Cell cell) const {
        const std::array<float, 3> seen = seenAt(cell);
        const auto level = [](float value) { return std::uint8_t(std::lround(value)); };
        return {level(seen[0]), level(seen[1]), level(seen[2]), 255};
    }

    /// The same, red, green and blue from 0 to 255.
    std::array<float, 3> seenAt(Cell cell) const {
        std::array<float, 3> seen{255, 255, 255};
        for (std::size_t i = layers_.size(); i-- > 0;)
            if (const auto found = layers_[i].cellAt(cell)) {
                const Rgba c = layers_[i].picture->pixels.at(found->column, found->row);
                if (c.coverage == 255) {
                    seen = {float(c.red), float(c.green), float(c.blue)};
                    continue;
                }
                const float part = float(c.coverage) / 255;
                seen[0] += (float(c.red) - seen[0]) * part;
                seen[1] += (float(c.green) - seen[1]) * part;
                seen[2] += (float(c.blue) - seen[2]) * part;
            }
        return seen;
    }

    /// How much of the place all pictures together cover, 0 to 255.
    std::uint8_t coverageAt(Cell cell) const {
        double left = 1;
        for (const Layer& layer : layers_)
            if (const auto found = layer.cellAt(cell))
                left *= 1 - layer.picture->pixels.at(found->column, found->row).coverage / 255.0;
        return std::uint8_t(std::lround(255 * (1 - left)));
    }

    /// What is seen at a place: the frontmost item that covers half of it or more, else the one that covers
    /// most of it.
    struct Seen {
        std::size_t item = 0;
        Cell cell; ///< of its picture
    };
    std::optional<Seen> frontAt(Cell cell) const {
        constexpr int half = 128;
        std::optional<Seen> front;
        int most = 0;
        for (std::size_t i = 0; i < layers_.size() && most < half; ++i)
            if (const auto found = layers_[i].cellAt(cell)) {
                const int covered = layers_[i].picture->pixels.at(found->column, found->row).coverage;
                if (covered > most) {
                    most = covered;
                    front = Seen{layers_.size() - 1 - i, *found};
                }
            }
        return front;
    }

private:
    struct Layer {
        const Picture* picture;
        Affine toPixels;
        PixelBox shown;

        std::optional<Cell> cellAt(Cell cell) const {
            const Point p = toPixels({cell.column + 0.5, cell.row + 0.5});
            const Cell found{int(std::floor(p.x)), int(std::floor(p.y))};
            const bool isShown = found.column >= shown.left && found.row >= shown.top &&
                                 found.column < shown.left + shown.width &&
                                 found.row < shown.top + shown.height;
            return isShown ? std::optional(found) : std::nullopt;
        }
    };

    std::vector<Layer> layers_; // the frontmost first
};

} // namespace hasami
