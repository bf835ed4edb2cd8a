#include "raster/nearest_cells.h"

#include "base/error.h"

#include <algorithm>
#include <atomic>
#include <limits>
#include <thread>

namespace hasami {

namespace {

constexpr int tileSide = 512;
constexpr int nowhere = std::numeric_limits<int>::min();

/// One tile's work, with room that is used again.
class Tile {
public:
    Tile(const CellRuns& sources, const CellRuns& wanted, int farthest)
        : sources_(sources), wanted_(wanted), farthest_(farthest) {}

    void tell(int left, int top, int right, int bottom, const std::function<void(const NearestRun&)>& visit) {
        left_ = left - farthest_;
        width_ = right - left + 2 * farthest_;
        top_ = top;
        height_ = bottom - top;
        if (!holdsWanted(left, right))
            return;
        findInColumns();
        for (int row = top; row < bottom; ++row)
            for (const CellRuns::Run& run : wanted_.row(row)) {
                const int from = std::max(run.from, left), to = std::min(run.to, right);
                if (from < to)
                    tellRun(row, from, to, visit);
            }
    }

private:
    bool holdsWanted(int left, int right) const {
        for (int row = top_; row < top_ + height_; ++row)
            for (const CellRuns::Run& run : wanted_.row(row))
                if (run.from < right && run.to > left)
                    return true;
        return false;
    }

    int& inColumn(int x, int row) {
        return column_[std::size_t(row - top_) * std::size_t(width_) + std::size_t(x)];
    }

    /// For each cell of the tile's rows the row of the nearest source in its column, `nowhere` without one.
    void findInColumns() {
        column_.assign(std::size_t(width_) * std::size_t(height_), nowhere);
        std::vector<int> last(std::size_t(width_), nowhere);
        for (int row = top_ - farthest_; row < top_ + height_; ++row) {
            note(row, last);
            if (row >= top_)
                std::copy(last.begin(), last.end(), &inColumn(0, row));
        }
        std::fill(last.begin(), last.end(), nowhere);
        for (int row = top_ + height_ + farthest_ - 1; row >= top_; --row) {
            note(row, last);
            if (row >= top_ + height_)
                continue;
            int* best = &inColumn(0, row);
            for (int x = 0; x < width_; ++x) {
                const int below = last[std::size_t(x)];
                if (below != nowhere && (best[x] == nowhere || below - row < row - best[x]))
                    best[x] = below;
            }
        }
        envelopeRow_ = nowhere;
    }

    void note(int row, std::vector<int>& last) const {
        for (const CellRuns::Run& run : sources_.row(row)) {
            const int from = std::max(run.from - left_, 0), to = std::min(run.to - left_, width_);
            if (from < to)
                std::fill(last.begin() + from, last.begin() + to, row);
        }
    }

    /// The lower envelope of the parabolas that the columns' sources give along a row.
    void findEnvelope(int row) {
        if (envelopeRow_ == row)
            return;
        envelopeRow_ = row;
        apexes_.clear();
        starts_.clear();
        const int* rows = &inColumn(0, row);
        for (int x = 0; x < width_; ++x) {
            if (rows[x] == nowhere)
                continue;
            const double height = double(rows[x] - row) * (rows[x] - row);
            double start = -1;
            while (!apexes_.empty()) {
                const Apex& before = apexes_.back();
                start = ((height + double(x) * x) - (before.height + double(before.x) * before.x)) /
                        (2.0 * (x - before.x));
                if (start > starts_.back())
                    break;
                apexes_.pop_back();
                starts_.pop_back();
                start = -1;
            }
            apexes_.push_back({x, height});
            starts_.push_back(start);
        }
    }

    void tellRun(int row, int from, int to, const std::function<void(const NearestRun&)>& visit) {
        findEnvelope(row);
        nearest_.clear();
        const int* rows = &inColumn(0, row);
        std::size_t at = 0;
        for (int column = from; column < to; ++column) {
            if (apexes_.empty()) {
                nearest_.push_back({column, row});
                continue;
            }
            const int x = column - left_;
            if (column == from)
                at = std::size_t(std::upper_bound(starts_.begin(), starts_.end(), double(x)) -
                                 starts_.begin()) -
                     1;
            while (at + 1 < starts_.size() && starts_[at + 1] <= x)
                ++at;
            nearest_.push_back({apexes_[at].x + left_, rows[apexes_[at].x]});
        }
        visit({from, row, nearest_});
    }

    struct Apex {
        int x;
        double height;
    };

    const CellRuns& sources_;
    const CellRuns& wanted_;
    int farthest_;
    int left_ = 0, top_ = 0, width_ = 0, height_ = 0; // of the window
    std::vector<int> column_;
    int envelopeRow_ = nowhere;
    std::vector<Apex> apexes_;
    std::vector<double> starts_; // from where on each apex is the nearest
    std::vector<Cell> nearest_;
};

} // namespace

void findNearest(const CellRuns& sources, const CellRuns& wanted, int farthest, int threads,
                 const std::stop_token& stop, const std::function<void(const NearestRun&)>& visit) {
    const CellRuns::Extent all = wanted.extent();
    const int across = (all.width() + tileSide - 1) / tileSide,
              down = (all.height() + tileSide - 1) / tileSide;
    if (across <= 0 || down <= 0)
        return;
    std::atomic<int> next = 0;
    const auto work = [&] {
        Tile tile(sources, wanted, farthest);
        for (int i = next++; i < across * down && !stop.stop_requested(); i = next++) {
            const int left = all.left + i % across * tileSide, top = all.top + i / across * tileSide;
            tile.tell(left, top, std::min(left + tileSide, all.right), std::min(top + tileSide, all.bottom),
                      visit);
        }
    };
    {
        std::vector<std::jthread> helpers;
        for (int i = 1; i < std::min(threads, across * down); ++i)
            helpers.emplace_back(work);
        work();
    }
    throwIfStopped(stop);
}

} // namespace hasami
