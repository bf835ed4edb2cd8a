#include "nesting/bottom_left.h"

#include "nesting/raster.h"
#include "nesting/rows.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace hasami::nesting {

namespace {

class BottomLeft {
public:
    BottomLeft(const Ground& ground, const Start& rows, int cells, std::size_t mostTurns,
               const std::function<bool()>& isOver)
        : ground_(ground), rows_(rows), mostTurns_(mostTurns), isOver_(isOver) {
        std::vector<double> sizes;
        for (const std::size_t copy : rows.copies)
            sizes.push_back(ground.items[copy].shapes.front().radius * 2);
        std::nth_element(sizes.begin(), sizes.begin() + std::ptrdiff_t(sizes.size() / 2), sizes.end());
        const double middling = sizes[sizes.size() / 2];
        cell_ = std::max({middling / cells, ground.room.height() / 4000, 0.02});
        rowsAcross_ = std::max(1, int(ground.room.height() / cell_));
        cell_ = ground.room.height() / rowsAcross_; // nothing is lost at the far side
    }

    /// Nothing where it is over before the end.
    std::optional<Start> lay() {
        Start start;
        start.notPlaced = rows_.notPlaced;
        std::vector<std::size_t> order(rows_.copies.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return weightOf(rows_.copies[a]) > weightOf(rows_.copies[b]);
        });
        for (const std::size_t i : order) {
            if (isOver_())
                return {};
            const std::size_t item = rows_.copies[i];
            start.copies.push_back(item);
            const auto spot = place(item);
            start.spots.at.push_back(spot.value_or(Spot{}));
            if (!spot)
                late_.push_back(start.copies.size() - 1);
        }
        if (isOver_() || !addLate(start))
            return {};
        closeOff(ground_, start);
        return start;
    }

private:
    /// Those that the raster is too coarse for, in rows behind the others.
    bool addLate(Start& start) {
        if (late_.empty())
            return true;
        double used = ground_.room.least.x;
        if (ground_.isRoll() && !fields_.empty())
            used += fields_.front().usedColumns() * cell_;
        return addRows(ground_, start, late_, ground_.isRoll() ? 0 : int(fields_.size()), used);
    }

    double weightOf(std::size_t item) const {
        const Shape& shape = ground_.items[item].shapes.front();
        return std::abs(signedArea(shape.hull)) * shape.radius;
    }

    const std::vector<Stamp>& stampsOf(std::size_t item) {
        auto& stamps = stamps_[item];
        if (!stamps.empty())
            return stamps;
        const Item& it = ground_.items[item];
        const std::size_t step = std::max<std::size_t>(1, it.turns.size() / mostTurns_);
        for (std::size_t shape = 0; shape < it.shapes.size(); ++shape)
            for (std::size_t i = 0; i < it.turns.size() && !isOver_(); i += i < 4 ? 1 : step) {
                Stamp stamp = stampOf(it.shapes[shape], it.turns[i], shape == 1, cell_);
                if (stamp.rows <= rowsAcross_)
                    stamps.push_back(std::move(stamp));
            }
        return stamps;
    }

    Field& field(std::size_t sheet) {
        while (fields_.size() <= sheet) {
            const double length = ground_.isRoll() ? 1e9 : ground_.room.width();
            fields_.emplace_back(rowsAcross_, int(std::min(length / cell_, 1e8)));
            for (const Obstacle& obstacle : ground_.obstacles)
                if (obstacle.sheet == int(fields_.size()) - 1)
                    block(fields_.back(), obstacle);
        }
        return fields_[sheet];
    }

    void block(Field& field, const Obstacle& obstacle) const {
        Shape shape;
        shape.loops = obstacle.loops;
        for (const Loop& loop : obstacle.loops)
            shape.hull.insert(shape.hull.end(), loop.begin(), loop.end());
        const Stamp stamp = stampOf(shape, 0, false, cell_);
        const Point corner = (stamp.box.least - ground_.room.least) * (1 / cell_);
        const int column = int(std::floor(corner.x)), row = int(std::floor(corner.y));
        for (const Stamp::Run& run : stamp.runs)
            for (const int more : {0, 1}) { // the stamp's cells are not the field's
                const int from = std::max(0, row + run.from),
                          to = std::min(rowsAcross_, row + run.from + run.count + 1);
                if (column + run.column + more >= 0 && to > from)
                    field.take(column + run.column + more, from, to - from);
            }
    }

    std::optional<Spot> place(std::size_t item) {
        const std::vector<Stamp>& stamps = stampsOf(item);
        if (stamps.empty())
            return {};
        auto& from = begins_[item];
        from.resize(stamps.size());
        for (std::size_t sheet = 0; sheet < std::size_t(Limits::mostSheets); ++sheet) {
            Field& here = field(sheet);
            int best = std::numeric_limits<int>::max(), bestRow = 0;
            std::size_t chosen = 0;
            int bestColumn = 0;
            for (std::size_t i = 0; i < stamps.size() && !isOver_(); ++i) {
                auto& begins = from[i];
                if (begins.size() <= sheet)
                    begins.resize(sheet + 1, 0);
                int& column = begins[sheet]; // nothing fits before it, nor will again
                const int last = std::min(here.mostColumns() - stamps[i].columns, best - stamps[i].columns);
                int row = -1;
                for (; column <= last; ++column)
                    if ((row = here.rowFor(stamps[i], column)) >= 0)
                        break;
                if (row >= 0 && (column + stamps[i].columns < best ||
                                 (column + stamps[i].columns == best && row < bestRow))) {
                    best = column + stamps[i].columns;
                    bestRow = row;
                    bestColumn = column;
                    chosen = i;
                }
            }
            if (best < std::numeric_limits<int>::max()) {
                const Stamp& stamp = stamps[chosen];
                here.take(stamp, bestColumn, bestRow);
                const Point corner = ground_.room.least + Point{bestColumn * cell_, bestRow * cell_};
                return Spot{int(sheet),
                            {corner.x - stamp.box.least.x, corner.y - stamp.box.least.y, stamp.turn,
                             stamp.isMirrored}};
            }
            if (ground_.isRoll())
                return {};
            const bool isUntouched = here.usedColumns() == 0;
            if (isUntouched)
                return {}; // fits no empty one: only exactly
        }
        return {};
    }

    const Ground& ground_;
    const Start& rows_;
    std::size_t mostTurns_;
    const std::function<bool()>& isOver_;
    double cell_ = 1;
    int rowsAcross_ = 1;
    std::vector<Field> fields_;
    std::vector<std::size_t> late_;
    std::map<std::size_t, std::vector<Stamp>> stamps_;            // by item
    std::map<std::size_t, std::vector<std::vector<int>>> begins_; // by item, stamp, sheet
};

} // namespace

std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, int cells, std::size_t mostTurns,
                                const std::function<bool()>& isOver) {
    if (rows.copies.empty())
        return {};
    return BottomLeft(ground, rows, cells, mostTurns, isOver).lay();
}

} // namespace hasami::nesting
