#pragma once

#include "nesting/shape/placed.h"

#include <cstdint>
#include <vector>

namespace hasami::nesting {

/// Points spread evenly over a shape, in its frame: how many of them hit others shows how much it runs into.
struct Probing {
    std::vector<float> x, y; ///< a multiple of Cover::stride, in no order

    explicit Probing(const Shape& shape);
};

/// How many shapes cover each cell of the sheets; what lies outside of them counts as covered once. Far
/// quicker to ask than outlines are, and only about right.
class Cover {
public:
    static constexpr std::size_t stride = 16;

    /// Nothing covered. Shapes reach no farther than `reach` from their middle.
    void lay(const Box& room, double length, int sheets, double cell, double reach);

    /// Of the last sheet: what lies beyond counts as covered. No more than it was laid with.
    void setLength(double length);

    void add(const Placed& placed, int sheet) { fill(placed, sheet, 1); }
    void take(const Placed& placed, int sheet) { fill(placed, sheet, -1); }

    /// Turns the points that `at` asks for.
    void aim(const Probing& probing, double rotation);

    /// What the points hit with the shape's middle there, in all; `most` or more where it is that much.
    int at(int sheet, Point place, int most) const {
        const std::uint8_t* const middle = middleOf(sheet, place);
        int sum = 0;
        for (std::size_t i = 0; i < offsets_.size() && sum < most; i += stride)
            for (std::size_t k = 0; k < stride; ++k)
                sum += middle[offsets_[i + k]];
        return sum;
    }

    /// Whether the first of the points hits anything.
    bool isCovered(int sheet, Point place) const {
        return !offsets_.empty() && middleOf(sheet, place)[offsets_.front()] != 0;
    }

private:
    const std::uint8_t* middleOf(int sheet, Point place) const {
        return cells_[std::size_t(sheet)].data() + std::ptrdiff_t((place.y - corner_.y) / cell_) * columns_ +
               std::ptrdiff_t((place.x - corner_.x) / cell_);
    }
    void fill(const Placed& placed, int sheet, int by);

    Point corner_; // of the cells, with those outside of the sheet
    double cell_ = 1;
    std::ptrdiff_t columns_ = 0, rows_ = 0, margin_ = 0, openColumns_ = 0;
    std::vector<std::vector<std::uint8_t>> cells_;
    std::vector<std::int32_t> offsets_;
    std::vector<std::vector<float>> crossings_; // scratch: of each row
};

} // namespace hasami::nesting
