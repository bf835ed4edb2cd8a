#include "nesting/shape/side_grid.h"

namespace hasami::nesting {

namespace {

constexpr double crossingSlack = 1e-6; // of a cell: what touches but for rounding is found as well

std::size_t within(double position, std::size_t count) {
    return std::size_t(std::clamp(position, 0.0, double(count - 1)));
}

} // namespace

SideGrid::SideGrid(const Box& box, std::size_t sides, double length)
    : least_(box.least),
      // About a cell for each side, and no more than a few that each goes through.
      cell_(std::max({std::sqrt(box.width() * box.height() / double(std::max<std::size_t>(sides, 1))),
                      length / (4 * double(std::max<std::size_t>(sides, 1))), 1e-9})),
      columns_(1 + std::size_t(box.width() / cell_)), rows_(1 + std::size_t(box.height() / cell_)),
      cells_(columns_ * rows_) {}

std::size_t SideGrid::columnOf(double x) const {
    return within((x - least_.x) / cell_, columns_);
}

std::size_t SideGrid::rowOf(double y) const {
    return within((y - least_.y) / cell_, rows_);
}

const std::vector<SideGrid::Run>& SideGrid::runs(Point a, Point b) const {
    const double eps = crossingSlack * cell_;
    if (a.y > b.y)
        std::swap(a, b);
    runs_.clear();
    const std::size_t last = rowOf(b.y + eps);
    for (std::size_t row = rowOf(a.y - eps); row <= last; ++row) {
        const double top = least_.y + double(row) * cell_ - eps, bottom = top + cell_ + 2 * eps;
        const bool isFlat = b.y - a.y <= eps;
        const double from = row == 0 || isFlat ? 0 : std::clamp((top - a.y) / (b.y - a.y), 0.0, 1.0);
        const double to = row + 1 == rows_ || isFlat ? 1 : std::clamp((bottom - a.y) / (b.y - a.y), 0.0, 1.0);
        const auto [left, right] = std::minmax({between(a, b, from).x, between(a, b, to).x});
        runs_.push_back({row * columns_ + columnOf(left - eps), row * columns_ + columnOf(right + eps)});
    }
    return runs_;
}

void SideGrid::add(Point a, Point b, std::uint32_t side) {
    for (const Run& run : runs(a, b))
        for (std::size_t cell = run.first; cell <= run.last; ++cell)
            cells_[cell].push_back(side);
}

} // namespace hasami::nesting
