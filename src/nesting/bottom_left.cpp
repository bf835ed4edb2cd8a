#include "nesting/bottom_left.h"

#include "nesting/raster.h"
#include "nesting/rows.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace hasami::nesting {

namespace {

constexpr double snugSpan = 0.5;    // of a middling part: what reaches that much farther may be snugger
constexpr double snugFarness = 0.4; // what reaching as far as that counts, as contact

class BottomLeft {
public:
    BottomLeft(const Ground& ground, const Start& rows, const Care& care, const std::function<bool()>& isOver)
        : ground_(ground), rows_(rows), care_(care), isOver_(isOver),
          span_(std::max(1, int(care.cells * snugSpan))) {
        std::vector<double> sizes;
        for (const std::size_t copy : rows.copies)
            sizes.push_back(ground.items[copy].shapes.front().radius * 2);
        std::nth_element(sizes.begin(), sizes.begin() + std::ptrdiff_t(sizes.size() / 2), sizes.end());
        const double middling = sizes[sizes.size() / 2];
        cell_ = std::max({middling / care.cells, ground.room.height() / 4000, 0.02});
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
        const std::size_t step = std::max<std::size_t>(1, it.turns.size() / care_.mostTurns);
        for (std::size_t shape = 0; shape < it.shapes.size(); ++shape)
            for (std::size_t i = 0; i < it.turns.size() && !isOver_(); i += i < 4 ? 1 : step) {
                Stamp stamp = stampOf(it.shapes[shape], it.turns[i], shape == 1, cell_);
                if (stamp.rows > rowsAcross_)
                    continue;
                if (care_.isSnug)
                    addRim(stamp);
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

    /// A stamp's place on a field.
    struct Place {
        const Stamp* stamp = nullptr;
        int column = 0, row = 0;

        int reach() const { return column + stamp->columns; }
    };

    /// Where its end lies nearest to the start. `begins`: the first column of each stamp that it may fit at,
    /// known from before, since nothing ever fits where it did not.
    std::optional<Place> foremost(Field& field, const std::vector<Stamp>& stamps, std::vector<int>& begins) {
        std::optional<Place> best;
        begins.resize(stamps.size(), 0);
        for (std::size_t i = 0; i < stamps.size() && !isOver_(); ++i) {
            const Stamp& stamp = stamps[i];
            int& column = begins[i];
            const int most = std::min(field.mostColumns(), best ? best->reach() : field.mostColumns());
            int row = -1;
            for (; column <= most - stamp.columns; ++column)
                if ((row = field.rowFor(stamp, column)) >= 0)
                    break;
            if (row >= 0 && (!best || column + stamp.columns < best->reach() || row < best->row))
                best = Place{&stamp, column, row};
        }
        return best;
    }

    /// Not much farther than the foremost one, where most of its rim lies along others.
    Place snuggest(Field& field, const std::vector<Stamp>& stamps, const std::vector<int>& begins,
                   const Place& foremost) {
        Place best = foremost;
        double most = field.contact(*best.stamp, best.column, best.row, 0);
        for (std::size_t i = 0; i < stamps.size() && !isOver_(); ++i) {
            const Stamp& stamp = stamps[i];
            const int last = std::min(field.mostColumns(), foremost.reach() + span_) - stamp.columns;
            for (int column = begins[i]; column <= last; ++column) {
                const double farness = snugFarness * (column + stamp.columns - foremost.reach()) / span_;
                if (1 - farness <= most)
                    break;
                field.edgeRows(stamp, column, edgeRows_);
                for (const int row : edgeRows_)
                    if (const double contact = field.contact(stamp, column, row, most + farness) - farness;
                        contact > most) {
                        most = contact;
                        best = {&stamp, column, row};
                    }
            }
        }
        return best;
    }

    std::optional<Spot> place(std::size_t item) {
        const std::vector<Stamp>& stamps = stampsOf(item);
        if (stamps.empty())
            return {};
        for (std::size_t sheet = 0; sheet < std::size_t(Limits::mostSheets); ++sheet) {
            Field& here = field(sheet);
            auto& begins = begins_[item];
            begins.resize(std::max(begins.size(), sheet + 1));
            if (const auto first = foremost(here, stamps, begins[sheet])) {
                const Place place = care_.isSnug ? snuggest(here, stamps, begins[sheet], *first) : *first;
                const Stamp& stamp = *place.stamp;
                here.take(stamp, place.column, place.row);
                const Point corner = ground_.room.least + Point{place.column * cell_, place.row * cell_};
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
    const Care& care_;
    const std::function<bool()>& isOver_;
    double cell_ = 1;
    int rowsAcross_ = 1;
    int span_; // columns
    std::vector<Field> fields_;
    std::vector<std::size_t> late_;
    std::map<std::size_t, std::vector<Stamp>> stamps_;            // by item
    std::map<std::size_t, std::vector<std::vector<int>>> begins_; // by item, sheet, stamp
    std::vector<int> edgeRows_;                                   // scratch
};

} // namespace

std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, const Care& care,
                                const std::function<bool()>& isOver) {
    if (rows.copies.empty())
        return {};
    return BottomLeft(ground, rows, care, isOver).lay();
}

} // namespace hasami::nesting
