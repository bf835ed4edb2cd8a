#include "geometry/rim_grid.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace hasami {

namespace {

constexpr double sidesInCell = 2;
constexpr double leastCell = 0.25;  // mm: rays of a few mm go through few cells
constexpr double cellsForSide = 16; // at most: a large shape of few sides needs no more memory than they do

/// Where along `d` from `p` the ray meets the side from a to b, in lengths of d; below 0 where it does not.
double hit(Point p, Point d, Point a, Point b) {
    const Point side = b - a;
    const double across = cross(d, side);
    if (across == 0)
        return -1;
    const double along = cross(a - p, side) / across, onSide = cross(a - p, d) / across;
    return onSide >= 0 && onSide <= 1 ? along : -1;
}

} // namespace

RimGrid::RimGrid(const Region& region) {
    std::size_t most = 0;
    for (const Loop& loop : region.loops)
        most += loop.size();
    sides_.reserve(most);
    for (const Loop& loop : region.loops)
        addLoop(loop);
    if (!sides_.empty())
        sortIntoCells();
}

void RimGrid::addLoop(const Loop& loop) {
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Side side{loop[i], loop[(i + 1) % loop.size()]};
        if (side.from == side.to)
            continue;
        sides_.push_back(side);
        bounds_.add(side.from);
    }
}

int RimGrid::columnOf(double x) const {
    return std::clamp(int(std::floor((x - bounds_.least.x) / cell_)), 0, columns_ - 1);
}

int RimGrid::rowOf(double y) const {
    return std::clamp(int(std::floor((y - bounds_.least.y) / cell_)), 0, rows_ - 1);
}

/// All cells that a side goes through, and maybe some beside it.
template <class Act>
void RimGrid::eachCellOf(const Side& side, const Act& act) const {
    const int steps = std::max(1, int(std::ceil(distance(side.from, side.to) / cell_)));
    int lastLeft = -1, lastTop = -1, lastRight = -1, lastBottom = -1;
    for (int i = 0; i < steps; ++i) {
        const Point a = between(side.from, side.to, double(i) / steps);
        const Point b = between(side.from, side.to, double(i + 1) / steps);
        const int left = columnOf(std::min(a.x, b.x)), right = columnOf(std::max(a.x, b.x));
        const int top = rowOf(std::min(a.y, b.y)), bottom = rowOf(std::max(a.y, b.y));
        for (int row = top; row <= bottom; ++row)
            for (int column = left; column <= right; ++column)
                if (i == 0 || column < lastLeft || column > lastRight || row < lastTop || row > lastBottom)
                    act(cellAt(column, row));
        lastLeft = left, lastTop = top, lastRight = right, lastBottom = bottom;
    }
}

void RimGrid::sortIntoCells() {
    double around = 0;
    for (const Side& side : sides_)
        around += distance(side.from, side.to);
    const double area = std::max(bounds_.width(), 1e-3) * std::max(bounds_.height(), 1e-3);
    const double sides = double(sides_.size());
    cell_ = std::max({around / sides * sidesInCell, std::sqrt(area / (sides * cellsForSide)), leastCell});
    columns_ = int(bounds_.width() / cell_) + 1;
    rows_ = int(bounds_.height() / cell_) + 1;
    starts_.assign(std::size_t(columns_) * std::size_t(rows_) + 1, 0);
    for (const Side& side : sides_)
        eachCellOf(side, [&](std::size_t cell) { ++starts_[cell + 1]; });
    for (std::size_t i = 1; i < starts_.size(); ++i)
        starts_[i] += starts_[i - 1];
    inCells_.resize(starts_.back());
    std::vector<std::uint32_t> next(starts_.begin(), starts_.end() - 1);
    for (std::size_t i = 0; i < sides_.size(); ++i)
        eachCellOf(sides_[i], [&](std::size_t cell) { inCells_[next[cell]++] = std::uint32_t(i); });
}

bool RimGrid::holds(Point p) const {
    if (sides_.empty() || p.x < bounds_.least.x || p.x > bounds_.most.x || p.y < bounds_.least.y ||
        p.y > bounds_.most.y)
        return false;
    bool isInside = false;
    std::vector<std::uint32_t> counted;
    const int row = rowOf(p.y);
    for (int column = columnOf(p.x); column < columns_; ++column)
        for (std::size_t i = starts_[cellAt(column, row)]; i < starts_[cellAt(column, row) + 1]; ++i) {
            const auto& [a, b] = sides_[inCells_[i]];
            if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x))
                counted.push_back(inCells_[i]);
        }
    std::sort(counted.begin(), counted.end()); // a side may lie in several cells of the row
    counted.erase(std::unique(counted.begin(), counted.end()), counted.end());
    for (std::size_t i = 0; i < counted.size(); ++i)
        isInside = !isInside;
    return isInside;
}

double RimGrid::clearance(Point p, double most, double about) const {
    if (sides_.empty())
        return most;
    double nearest = most;
    for (double reach = std::max(cell_, about);; reach *= 2) {
        for (int row = rowOf(p.y - reach); row <= rowOf(p.y + reach); ++row)
            for (int column = columnOf(p.x - reach); column <= columnOf(p.x + reach); ++column)
                for (std::size_t i = starts_[cellAt(column, row)]; i < starts_[cellAt(column, row) + 1];
                     ++i) {
                    const auto& [a, b] = sides_[inCells_[i]];
                    nearest = std::min(nearest, distanceToSegment(p, a, b));
                }
        if (nearest <= reach || reach >= most)
            return nearest;
    }
}

std::optional<double> RimGrid::firstHit(Point from, Point direction, double most) const {
    if (sides_.empty())
        return {};
    // The stretch of the ray that lies in the box of all sides.
    double begin = 0, end = most;
    for (const auto& [at, by, least, greatest] :
         {std::array{from.x, direction.x, bounds_.least.x, bounds_.most.x},
          std::array{from.y, direction.y, bounds_.least.y, bounds_.most.y}}) {
        if (by == 0) {
            if (at < least || at > greatest)
                return {};
            continue;
        }
        const double a = (least - at) / by, b = (greatest - at) / by;
        begin = std::max(begin, std::min(a, b));
        end = std::min(end, std::max(a, b));
    }
    if (begin > end)
        return {};
    const Point entry = from + direction * begin;
    int column = columnOf(entry.x), row = rowOf(entry.y);
    const int right = direction.x > 0 ? 1 : -1, down = direction.y > 0 ? 1 : -1;
    constexpr double never = std::numeric_limits<double>::infinity();
    const auto timeTo = [](double line, double at, double by) { return by == 0 ? never : (line - at) / by; };
    double nearest = never;
    while (column >= 0 && column < columns_ && row >= 0 && row < rows_) {
        for (std::size_t i = starts_[cellAt(column, row)]; i < starts_[cellAt(column, row) + 1]; ++i) {
            const auto& [a, b] = sides_[inCells_[i]];
            if (const double t = hit(from, direction, a, b); t >= 0 && t < nearest)
                nearest = t;
        }
        const double across =
            timeTo(bounds_.least.x + cell_ * (column + (right > 0 ? 1 : 0)), from.x, direction.x);
        const double along =
            timeTo(bounds_.least.y + cell_ * (row + (down > 0 ? 1 : 0)), from.y, direction.y);
        const double leaves = std::min(across, along);
        if (nearest <= leaves || leaves > end)
            break;
        if (across < along)
            column += right;
        else
            row += down;
    }
    return nearest <= most ? std::optional(nearest) : std::nullopt;
}

bool RimGrid::crosses(Point from, Point to) const {
    const double far = distance(from, to);
    return far > 0 && firstHit(from, unit(to - from), far).has_value();
}

} // namespace hasami
