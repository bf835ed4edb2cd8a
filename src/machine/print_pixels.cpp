#include "machine/print_pixels.h"

#include <cassert>
#include <utility>

namespace hasami {

namespace {

constexpr double mostWhole = 150e6; // pixels: beyond, colour is kept for each four

std::uint8_t clamped(int value) {
    return std::uint8_t(std::clamp(value, 0, 255));
}

} // namespace

PrintPixels::PrintPixels(int width, int height)
    : width_(width), height_(height), across_((width + tileSide - 1) / tileSide),
      isSparse_(double(width) * double(height) > mostWhole),
      tiles_(std::size_t(across_) * std::size_t((height + tileSide - 1) / tileSide)) {}

// YCoCg: H. Malvar and G. Sullivan, "YCoCg-R: A Color Space with RGB Reversibility and Low Dynamic Range",
// 2003.

Rgb PrintPixels::at(int column, int row) const {
    const Tile& tile = tileAt(column, row);
    if (!tile.bytes)
        return tile.colour;
    const std::vector<std::uint8_t>& bytes = *tile.bytes;
    const std::size_t i = std::size_t(column % tileSide), j = std::size_t(row % tileSide);
    if (!isSparse_) {
        const std::size_t at = 3 * (j * tileSide + i);
        return {bytes[at], bytes[at + 1], bytes[at + 2]};
    }
    constexpr std::size_t cells = std::size_t(tileSide) * tileSide;
    const std::size_t colour = cells + 2 * (j / 2 * (tileSide / 2) + i / 2);
    const int y = bytes[j * tileSide + i], orange = bytes[colour] - 128, green = bytes[colour + 1] - 128;
    return {clamped(y - green + orange), clamped(y + green), clamped(y - green - orange)};
}

PrintPixels::Tile PrintPixels::tileOf(const Cells& cells, int columns, int rows) const {
    bool isPlain = true;
    for (int j = 0; j < rows && isPlain; ++j)
        for (int i = 0; i < columns && isPlain; ++i)
            isPlain = cells[cellAt(i, j)] == cells[0];
    if (isPlain)
        return {cells[0], nullptr};
    auto bytes = std::make_shared<std::vector<std::uint8_t>>();
    if (!isSparse_) {
        bytes->reserve(3 * cells.size());
        for (const Rgb& cell : cells)
            bytes->insert(bytes->end(), cell.begin(), cell.end());
        return {{}, std::move(bytes)};
    }
    bytes->resize(cells.size() + cells.size() / 2);
    for (std::size_t k = 0; k < cells.size(); ++k)
        (*bytes)[k] = std::uint8_t((cells[k][0] + 2 * cells[k][1] + cells[k][2] + 2) / 4);
    for (int j = 0; j < tileSide; j += 2)
        for (int i = 0; i < tileSide; i += 2) {
            int orange = 0, green = 0, count = 0; // over the four
            for (const auto& [column, row] : {std::pair(i, j), {i + 1, j}, {i, j + 1}, {i + 1, j + 1}}) {
                if (column >= columns || row >= rows)
                    continue;
                const Rgb& cell = cells[cellAt(column, row)];
                orange += cell[0] - cell[2];
                green += 2 * cell[1] - cell[0] - cell[2];
                ++count;
            }
            std::uint8_t* colour =
                bytes->data() + cells.size() + 2 * (std::size_t(j / 2) * (tileSide / 2) + std::size_t(i / 2));
            colour[0] = clamped(128 + orange / std::max(1, 2 * count));
            colour[1] = clamped(128 + green / std::max(1, 4 * count));
        }
    return {{}, std::move(bytes)};
}

void PrintPixels::set(int column, int row, Rgb colour) {
    assert(!isSparse_);
    Tile& tile = tiles_[std::size_t(row / tileSide) * std::size_t(across_) + std::size_t(column / tileSide)];
    if (!tile.bytes) {
        tile.bytes = std::make_shared<std::vector<std::uint8_t>>();
        for (std::size_t k = 0; k < std::size_t(tileSide) * tileSide; ++k)
            tile.bytes->insert(tile.bytes->end(), tile.colour.begin(), tile.colour.end());
    } else if (tile.bytes.use_count() > 1) {
        tile.bytes = std::make_shared<std::vector<std::uint8_t>>(*tile.bytes); // another copy has it too
    }
    std::ranges::copy(colour,
                      tile.bytes->begin() + std::ptrdiff_t(3 * cellAt(column % tileSide, row % tileSide)));
}

PrintPixels PrintPixels::firstColumns(int columns) const {
    PrintPixels part = *this;
    part.width_ = std::clamp(columns, 0, width_);
    return part;
}

std::size_t PrintPixels::bytes() const {
    std::size_t all = tiles_.size() * sizeof(Tile);
    for (const Tile& tile : tiles_)
        all += tile.bytes ? tile.bytes->size() : 0;
    return all;
}

} // namespace hasami
