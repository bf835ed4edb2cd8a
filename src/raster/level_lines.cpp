#include "raster/level_lines.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>
#include <cstring>

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

    /// Where the level lies between the centres of two neighbours of which one is inside.
    Point crossing(int column1, int row1, int column2, int row2) const {
        const double v1 = value(column1, row1), v2 = value(column2, row2);
        return between({column1 + 0.5, row1 + 0.5}, {column2 + 0.5, row2 + 0.5}, (level_ - v1) / (v2 - v1));
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
        Loop loop;
        // Outside on the left, inside on the right: going up keeps the inside to the right of the way.
        int column = startColumn - 1, row = startRow - 1; // the dual cell above the step
        Side in = Side::bottom;
        do {
            const Side out = sideOut(column, row, in);
            switch (in) {
            case Side::bottom:
                // Through the pair (column, row + 1), (column + 1, row + 1) from below: a step up.
                seen_[stepIndex(column + 1, row + 1)] = true;
                loop.push_back(crossing(column, row + 1, column + 1, row + 1));
                break;
            case Side::top:
                loop.push_back(crossing(column, row, column + 1, row));
                break;
            case Side::left:
                loop.push_back(crossing(column, row, column, row + 1));
                break;
            case Side::right:
                loop.push_back(crossing(column + 1, row, column + 1, row + 1));
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
