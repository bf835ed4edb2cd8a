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
                  const Affine& fromCells)
        : fine_(artwork.items.size() == 1 && pictures.front()->fine ? &*pictures.front()->fine : nullptr) {
        for (std::size_t i = artwork.items.size(); i-- > 0;) {
            const Item& item = artwork.items[i];
            const Affine toPixels =
                Affine::scaling(item.pixelWidth, item.pixelHeight) * inverse(item.fromUnitSquare());
            layers_.push_back({pictures[i].get(), toPixels * fromCells, item.shown()});
        }
    }

    const FineColours* fine() const { return fine_; }

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

    /// The lone picture's own colours there, on white.
    std::array<std::uint16_t, 4> fineAt(Cell cell) const {
        const auto found = layers_.front().cellAt(cell);
        std::array<std::uint16_t, 4> seen = noInk();
        if (!found)
            return seen;
        const double part = layers_.front().picture->pixels.at(found->column, found->row).coverage / 255.0;
        const std::array<std::uint16_t, 4>& own = fine_->cells.at(found->column, found->row);
        for (std::size_t i = 0; i < seen.size(); ++i)
            seen[i] = std::uint16_t(std::lround(seen[i] + (double(own[i]) - seen[i]) * part));
        return seen;
    }

    std::array<std::uint16_t, 4> noInk() const {
        const auto most = std::uint16_t(fine_->channels == 4 ? 0 : fine_->bits == 16 ? 0xffff : 0xff);
        return {most, most, most, std::uint16_t(0)};
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
    const FineColours* fine_;
};

} // namespace hasami
