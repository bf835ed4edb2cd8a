#include "raster/level_lines.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <optional>

namespace hasami {

namespace {

double offWholeNumbers(double level) {
    level = std::clamp(level, 0.5, 254.5);
    return level == std::floor(level) ? level + 1e-3 : level;
}

/// Follows the loops. A loop is entered at a "step": a pair of horizontal neighbours (column - 1, row) and
/// (column, row) of which one is inside and one is not. Each loop has some, since it goes around a sample.
class Tracer {
public:
    Tracer(const Grid<std::uint8_t>& samples, double level)
        : samples_(samples), level_(offWholeNumbers(level)),
          least_(static_cast<std::uint8_t>(std::ceil(level_))),
          seen_((std::size_t(samples.width()) + 1) * std::size_t(samples.height()), false) {}

    std::vector<Loop> all(const std::stop_token& stop) {
        std::vector<Loop> loops;
        for (int row = 0; row < samples_.height(); ++row) {
            if (row % 64 == 0)
                throwIfStopped(stop);
            const std::uint8_t* cells = samples_.row(row).data();
            for (int column = 0; column <= samples_.width(); ++column) {
                column = skipEven(cells, column);
                // Only steps from outside to inside start a loop; each loop has one.
                if (column < samples_.width() && !inside(column - 1, row) && cells[column] >= least_ &&
                    !seen_[stepIndex(column, row)])
                    loops.push_back(follow(column, row));
            }
        }
        return loops;
    }

private:
    /// The first column from `column` on that may be a step up: eight alike samples are passed at once.
    int skipEven(const std::uint8_t* cells, int column) const {
        while (column >= 1 && column + 8 <= samples_.width()) {
            std::uint64_t here = 0, before = 0;
            std::memcpy(&here, cells + column, 8);
            std::memcpy(&before, cells + column - 1, 8);
            if (here != before)
                break;
            column += 8;
        }
        return column;
    }

    double value(int column, int row) const {
        const bool within = column >= 0 && row >= 0 && column < samples_.width() && row < samples_.height();
        return within ? samples_.at(column, row) : 0;
    }
    bool inside(int column, int row) const { return value(column, row) > level_; }

    std::size_t stepIndex(int column, int row) const {
        return std::size_t(row) * (std::size_t(samples_.width()) + 1) + std::size_t(column);
    }

    struct Crossing {
        Point place;
        bool isExact = false; ///< from the area
        bool isAlong = false; ///< the row or column runs along the edge rather than across
    };

    /// Where the level lies between the centres of two neighbours of which one is inside.
    Crossing crossing(int column1, int row1, int column2, int row2) const {
        const bool firstIsInside = inside(column1, row1);
        const int outX = firstIsInside ? column2 : column1, outY = firstIsInside ? row2 : row1;
        const int inX = firstIsInside ? column1 : column2, inY = firstIsInside ? row1 : row2;
        const int dx = inX - outX, dy = inY - outY;
        const double v0 = value(outX, outY), v1 = value(inX, inY);
        const double linear = (level_ - v0) / (v1 - v0);
        const auto exact = placeByArea(outX, outY, dx, dy, linear);
        const double t = exact.value_or(linear);
        const double across = std::abs(value(outX + dy, outY + dx) + value(inX + dy, inY + dx) -
                                       value(outX - dy, outY - dx) - value(inX - dy, inY - dx)) /
                              4;
        return {{outX + 0.5 + t * dx, outY + 0.5 + t * dy}, exact.has_value(), across >= 2 * (v1 - v0)};
    }

    /// The edge's place along the row or column from the outside sample (0) to the inside one (1), from the
    /// area it covers: where the samples go from nothing to all within a few cells, their sum gives it
    /// exactly for a straight edge of any slope, which a straight line between two samples does not. Levels
    /// other than the middle one are as far from it as that line says.
    std::optional<double> placeByArea(int x, int y, int dx, int dy, double linear) const {
        constexpr int reach = 4;
        constexpr double nothing = 3, all = 252, middle = 127.5;
        const auto at = [&](int k) { return value(x + k * dx, y + k * dy); };
        int low = 0, high = 1;
        while (at(low) > nothing)
            if (-low == reach || at(low - 1) > at(low))
                return {};
            else
                --low;
        while (at(high) < all)
            if (high == reach || at(high + 1) < at(high))
                return {};
            else
                ++high;
        double sum = 0, linearMiddle = 0;
        for (int k = low; k <= high; ++k) {
            sum += at(k);
            if (k < high && at(k) <= middle && at(k + 1) > middle)
                linearMiddle = k + (middle - at(k)) / (at(k + 1) - at(k));
        }
        // Kept between the two samples, so that no line reaches into its neighbours' cells and crosses
        // theirs.
        constexpr double nearest = 0.001;
        return std::clamp(high + 0.5 - sum / 255 + linear - linearMiddle, nearest, 1 - nearest);
    }

    /// The side of a cell (of the dual grid, between four sample centres) through which the line leaves.
    enum class Side { top, right, bottom, left };

    /// The dual cell (column, row) has the samples (column, row) top left to (column + 1, row + 1) bottom
    /// right. The inside is kept to the right of the way as seen on screen, so that outer loops run
    /// clockwise.
    Side sideOut(int column, int row, Side in) const {
        const bool topLeft = inside(column, row), topRight = inside(column + 1, row);
        const bool bottomLeft = inside(column, row + 1), bottomRight = inside(column + 1, row + 1);
        if (topLeft == bottomRight && topRight == bottomLeft && topLeft != topRight) {
            const double mean = (value(column, row) + value(column + 1, row) + value(column, row + 1) +
                                 value(column + 1, row + 1)) /
                                4;
            const bool joined = mean > level_; // the two inside samples
            // Joined: the lines cut off the two outside corners; else the two inside ones.
            const bool cutsTopLeft = topLeft != joined;
            switch (in) {
            case Side::top:
                return cutsTopLeft ? Side::left : Side::right;
            case Side::left:
                return cutsTopLeft ? Side::top : Side::bottom;
            case Side::right:
                return cutsTopLeft ? Side::bottom : Side::top;
            case Side::bottom:
                return cutsTopLeft ? Side::right : Side::left;
            }
        }
        if (in != Side::top && topLeft != topRight)
            return Side::top;
        if (in != Side::right && topRight != bottomRight)
            return Side::right;
        if (in != Side::bottom && bottomLeft != bottomRight)
            return Side::bottom;
        return Side::left;
    }

    Loop follow(int startColumn, int startRow) {
        std::vector<Crossing> crossings;
        // Outside on the left, inside on the right: going up keeps the inside to the right of the way.
        int column = startColumn - 1, row = startRow - 1; // the dual cell above the step
        Side in = Side::bottom;
        do {
            const Side out = sideOut(column, row, in);
            switch (in) {
            case Side::bottom:
                // Through the pair (column, row + 1), (column + 1, row + 1) from below: a step up.
                seen_[stepIndex(column + 1, row + 1)] = true;
                crossings.push_back(crossing(column, row + 1, column + 1, row + 1));
                break;
            case Side::top:
                crossings.push_back(crossing(column, row, column + 1, row));
                break;
            case Side::left:
                crossings.push_back(crossing(column, row, column, row + 1));
                break;
            case Side::right:
                crossings.push_back(crossing(column + 1, row, column + 1, row + 1));
                break;
            }
            switch (out) {
            case Side::top:
                --row;
                in = Side::bottom;
                break;
            case Side::bottom:
                ++row;
                in = Side::top;
                break;
            case Side::left:
                --column;
                in = Side::right;
                break;
            case Side::right:
                ++column;
                in = Side::left;
                break;
            }
        } while (!(in == Side::bottom && column == startColumn - 1 && row == startRow - 1));
        return pointsOf(crossings);
    }

    /// A crossing along the edge says little where those beside it are exact.
    static Loop pointsOf(const std::vector<Crossing>& crossings) {
        constexpr std::size_t fewest = 8;
        const std::size_t count = crossings.size();
        Loop loop;
        loop.reserve(count);
        for (std::size_t i = 0; i < count; ++i) {
            const bool betweenExact =
                crossings[(i + 1) % count].isExact && crossings[(i + count - 1) % count].isExact;
            if (count < fewest || crossings[i].isExact || !crossings[i].isAlong || !betweenExact)
                loop.push_back(crossings[i].place);
        }
        return loop;
    }

    const Grid<std::uint8_t>& samples_;
    double level_;
    std::uint8_t least_; // the least sample that is inside
    std::vector<bool> seen_;
};

} // namespace

std::vector<Loop> levelLines(const Grid<std::uint8_t>& samples, double level, const std::stop_token& stop) {
    if (samples.isEmpty())
        return {};
    return Tracer(samples, level).all(stop);
}

} // namespace hasami
