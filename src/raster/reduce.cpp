#include "raster/reduce.h"

#include <algorithm>

namespace hasami {

Grid<std::uint8_t> reduced(const Grid<std::uint8_t>& grid, int factor) {
    if (factor == 1)
        return grid;
    const int width = (grid.width() + factor - 1) / factor, height = (grid.height() + factor - 1) / factor;
    Grid<std::uint8_t> coarse(width, height);
    std::vector<std::uint32_t> sums(static_cast<std::size_t>(width));
    for (int row = 0; row < height; ++row) {
        const int top = row * factor, bottom = std::min(top + factor, grid.height());
        std::fill(sums.begin(), sums.end(), 0U);
        for (int y = top; y < bottom; ++y) {
            const std::uint8_t* cell = grid.row(y).data();
            for (int column = 0; column < width; ++column) {
                const int end = std::min((column + 1) * factor, grid.width());
                std::uint32_t sum = 0;
                for (int x = column * factor; x < end; ++x)
                    sum += cell[x];
                sums[static_cast<std::size_t>(column)] += sum;
            }
        }
        for (int column = 0; column < width; ++column) {
            const int across = std::min(factor, grid.width() - column * factor);
            const auto count = static_cast<std::uint32_t>(across * (bottom - top));
            coarse.at(column, row) =
                static_cast<std::uint8_t>((sums[static_cast<std::size_t>(column)] + count / 2) / count);
        }
    }
    return coarse;
}

} // namespace hasami
