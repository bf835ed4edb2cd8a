#pragma once

#include <cassert>
#include <cstddef>
#include <span>
#include <vector>

namespace hasami {

/// A grid of values, row after row from the top. Cell (column, row) covers the square
/// [column, column + 1] x [row, row + 1]; its value stands for the square's centre.
template <class T>
class Grid {
public:
    Grid() = default;
    Grid(int width, int height, T value = {})
        : width_(width), height_(height),
          cells_(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), value) {
        assert(width >= 0 && height >= 0);
    }

    int width() const { return width_; }
    int height() const { return height_; }
    bool isEmpty() const { return cells_.empty(); }
    std::span<const T> cells() const { return cells_; }
    std::span<T> cells() { return cells_; }

    const T& at(int column, int row) const { return cells_[index(column, row)]; }
    T& at(int column, int row) { return cells_[index(column, row)]; }
    void set(int column, int row, const T& value) { at(column, row) = value; }

    std::span<const T> row(int row) const {
        return std::span(cells_).subspan(index(0, row), static_cast<std::size_t>(width_));
    }
    std::span<T> row(int row) {
        return std::span(cells_).subspan(index(0, row), static_cast<std::size_t>(width_));
    }

private:
    std::size_t index(int column, int row) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(width_) +
               static_cast<std::size_t>(column);
    }

    int width_ = 0, height_ = 0;
    std::vector<T> cells_;
};

} // namespace hasami
