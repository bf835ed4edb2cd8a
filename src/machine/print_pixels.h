#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

namespace hasami {

using Rgb = std::array<std::uint8_t, 3>;

/// The pixels of a print, which may be as large as a roll: in tiles, of which those of one colour take no
/// room. Of prints beyond 150 million pixels colour (not light) is kept for each four pixels, which halves
/// the rest: a roll of 1.4 x 3 m at 300 dots an inch takes 0.9 GB where it is printed all over. A copy shares
/// the tiles.
class PrintPixels {
public:
    PrintPixels() = default;
    /// White. REQUIRES: width and height are not negative.
    PrintPixels(int width, int height);

    int width() const { return width_; }
    int height() const { return height_; }

    /// O(1). REQUIRES: 0 <= column < width(), 0 <= row < height().
    Rgb at(int column, int row) const;

    /// Sets `columns` columns from `first` on; `pixel(column, row)` gives each. REQUIRES: `first` is a
    /// multiple of tileSide; so is `columns`, unless they are the last ones; nobody else has a copy.
    template <class Pixel>
    void setColumns(int first, int columns, const Pixel& pixel);
    static constexpr int tileSide = 64;

    /// REQUIRES: as `at`; at most 150 million pixels.
    void set(int column, int row, Rgb colour);

    /// The first columns alone.
    PrintPixels firstColumns(int columns) const;

    std::size_t bytes() const; ///< of the tiles

private:
    using Cells = std::array<Rgb, std::size_t(tileSide) * tileSide>;
    /// All of one colour where there are no bytes; else colours, or light of each pixel and colour of each
    /// four.
    struct Tile {
        Rgb colour{255, 255, 255};
        std::shared_ptr<std::vector<std::uint8_t>> bytes;
    };
    static constexpr std::size_t cellAt(int column, int row) {
        return std::size_t(row) * tileSide + std::size_t(column);
    }
    Tile tileOf(const Cells& cells, int columns, int rows) const;
    const Tile& tileAt(int column, int row) const {
        return tiles_[std::size_t(row / tileSide) * std::size_t(across_) + std::size_t(column / tileSide)];
    }

    int width_ = 0, height_ = 0, across_ = 0; ///< tiles side by side
    bool isSparse_ = false;
    std::vector<Tile> tiles_;
};

template <class Pixel>
void PrintPixels::setColumns(int first, int columns, const Pixel& pixel) {
    Cells cells{};
    for (int row = 0; row < height_; row += tileSide)
        for (int column = first; column < first + columns; column += tileSide) {
            const int wide = std::min(tileSide, first + columns - column),
                      high = std::min(tileSide, height_ - row);
            for (int j = 0; j < high; ++j)
                for (int i = 0; i < wide; ++i)
                    cells[cellAt(i, j)] = pixel(column + i, row + j);
            tiles_[std::size_t(row / tileSide) * std::size_t(across_) + std::size_t(column / tileSide)] =
                tileOf(cells, wide, high);
        }
}

} // namespace hasami
