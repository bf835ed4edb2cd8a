#include "nesting/search/cover.h"

#include "nesting/layout/random.h"
#include "nesting/shape/wide.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace hasami::nesting {

namespace {

constexpr double points = 64;      // in a shape, about
constexpr double mostAcross = 200; // slivers have fewer

HASAMI_WIDE void offsetsOf(const Probing& probing, float c, float s, float columns, std::int32_t* offsets) {
    constexpr int low = 1 << 12; // cells: from there on all are counted up, and cutting off rounds
    const float *x = probing.x.data(), *y = probing.y.data();
    for (std::size_t i = 0; i < probing.x.size(); ++i) {
        const int column = int(c * x[i] - s * y[i] + (float(low) + 0.5F)) - low;
        const int row = int(s * x[i] + c * y[i] + (float(low) + 0.5F)) - low;
        offsets[i] = int(float(row) * columns) + column;
    }
}

} // namespace

Probing::Probing(const Shape& shape) {
    Placed placed(shape);
    placed.place({});
    const Box& box = placed.box();
    const double extent = std::max(box.width(), box.height());
    const double step = std::max(std::sqrt(shape.area / points), extent / mostAcross);
    const int rows = int(box.height() / step) + 1, columns = int(box.width() / step) + 1;
    std::vector<Point> inside;
    for (int i = 0; i < rows * columns; ++i) {
        const int row = i / columns, column = i % columns;
        const Point cell{column + (row % 2 == 0 ? 0.75 : 0.25), row + 0.5}; // every second row half a step on
        const Point p = box.least + cell * step;
        if (placed.contains(p))
            inside.push_back(p);
    }
    // The first few are to show most.
    Random random(1);
    for (std::size_t i = inside.size(); i > 1; --i)
        std::swap(inside[i - 1], inside[random.below(i)]);
    inside.resize(inside.size() / Cover::stride * Cover::stride);
    if (!inside.empty()) // what is covered in its middle mostly is so all over
        inside.front() = shape.poles.front().centre;
    for (const Point p : inside) {
        x.push_back(float(p.x));
        y.push_back(float(p.y));
    }
}

void Cover::lay(const Box& room, double length, int sheets, double cell, double reach) {
    cell_ = cell;
    margin_ = std::ptrdiff_t(reach / cell) + 3;
    corner_ = room.least - Point{1, 1} * (double(margin_) * cell);
    openColumns_ = std::ptrdiff_t((sheets > 1 ? room.width() : length) / cell) + 1;
    const auto openRows = std::ptrdiff_t(room.height() / cell) + 1;
    columns_ = openColumns_ + 2 * margin_;
    rows_ = openRows + 2 * margin_;
    std::vector<std::uint8_t> sheet(std::size_t(columns_ * rows_), 1);
    for (std::ptrdiff_t row = margin_; row < margin_ + openRows; ++row)
        std::fill_n(sheet.begin() + row * columns_ + margin_, openColumns_, std::uint8_t{0});
    cells_.assign(std::size_t(sheets), sheet);
    crossings_.resize(std::size_t(rows_));
}

void Cover::setLength(double length) {
    const auto columns = std::min(std::ptrdiff_t(length / cell_) + 1, columns_ - 2 * margin_);
    const auto count = [&](std::ptrdiff_t from, std::ptrdiff_t to, int by) {
        for (std::ptrdiff_t row = margin_; row < rows_ - margin_; ++row)
            for (std::ptrdiff_t column = from + margin_; column < to + margin_; ++column) {
                std::uint8_t& cell = cells_.back()[std::size_t(row * columns_ + column)];
                cell = std::uint8_t(cell + by);
            }
    };
    count(columns, openColumns_, 1);
    count(openColumns_, columns, -1);
    openColumns_ = columns;
}

void Cover::aim(const Probing& probing, double rotation) {
    offsets_.resize(probing.x.size());
    offsetsOf(probing, float(std::cos(rotation) / cell_), float(std::sin(rotation) / cell_), float(columns_),
              offsets_.data());
}

/// Cells whose middles lie in the shape.
void Cover::fill(const Placed& placed, int sheet, int by) {
    const auto cellsTo = [](double middle, std::ptrdiff_t count) {
        return std::clamp(std::ptrdiff_t(std::lround(middle)), std::ptrdiff_t{0}, count);
    };
    std::ptrdiff_t first = rows_, end = 0;
    placed.eachSide([&](Point a, Point b) {
        if (a.y > b.y)
            std::swap(a, b);
        a = (a - corner_) * (1 / cell_);
        b = (b - corner_) * (1 / cell_);
        const std::ptrdiff_t from = cellsTo(a.y, rows_), to = cellsTo(b.y, rows_);
        if (from >= to)
            return;
        const double slope = (b.x - a.x) / (b.y - a.y);
        for (std::ptrdiff_t row = from; row < to; ++row)
            crossings_[std::size_t(row)].push_back(float(a.x + slope * (double(row) + 0.5 - a.y)));
        first = std::min(first, from);
        end = std::max(end, to);
    });
    for (std::ptrdiff_t row = first; row < end; ++row) {
        std::vector<float>& crossings = crossings_[std::size_t(row)];
        std::sort(crossings.begin(), crossings.end());
        std::uint8_t* cells = cells_[std::size_t(sheet)].data() + row * columns_;
        for (std::size_t i = 0; i + 1 < crossings.size(); i += 2) {
            const std::ptrdiff_t to = cellsTo(double(crossings[i + 1]), columns_);
            for (std::ptrdiff_t column = cellsTo(double(crossings[i]), columns_); column < to; ++column)
                cells[column] = std::uint8_t(cells[column] + by);
        }
        crossings.clear();
    }
}

} // namespace hasami::nesting
