#include "nesting/first/bottom_left.h"

#include "nesting/first/berths.h"
#include "nesting/first/rows.h"

#include <algorithm>
#include <cmath>
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
        longestRun_ = int(*std::max_element(sizes.begin(), sizes.end()) / cell_) + 2;
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

    /// Makes an item's stamps the ones to be laid. Copies of one come after each other.
    void use(std::size_t item) {
        if (item_ == item)
            return;
        item_ = item;
        berths_.clear();
        stamps_.clear();
        const Item& it = ground_.items[item];
        const std::size_t step = std::max<std::size_t>(1, it.turns.size() / care_.mostTurns);
        for (std::size_t shape = 0; shape < it.shapes.size(); ++shape)
            for (std::size_t i = 0; i < it.turns.size() && !isOver_(); i += i < 4 ? 1 : step) {
                Stamp stamp = stampOf(it.shapes[shape], it.turns[i], shape == 1, cell_);
                if (stamp.rows > rowsAcross_)
                    continue;
                if (care_.isSnug)
                    addRim(stamp);
                stamps_.push_back(std::move(stamp));
            }
    }

    Field& field(std::size_t sheet) {
        while (fields_.size() <= sheet) {
            const double length = ground_.isRoll() ? 1e9 : ground_.room.width();
            fields_.emplace_back(rowsAcross_, int(std::min(length / cell_, 1e8)), longestRun_);
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

    /// Of the stamps' berths, by stamp, the one that ends nearest to the start.
    std::optional<Place> foremost(const Field& field, std::vector<Berths>& berths) const {
        std::optional<Place> best;
        for (std::size_t i = 0; i < stamps_.size() && !isOver_(); ++i) {
            const Stamp& stamp = stamps_[i];
            const int most = std::min(field.mostColumns(), best ? best->reach() : field.mostColumns());
            const auto berth = berths[i].foremost(most - stamp.columns);
            if (berth && (!best || berth->column + stamp.columns < best->reach() || berth->row < best->row))
                best = Place{&stamp, berth->column, berth->row};
        }
        return best;
    }

    /// Not much farther than the foremost one, where most of its rim lies along others.
    Place snuggest(const Field& field, std::vector<Berths>& berths, const Place& foremost) const {
        Place best = foremost;
        double most = field.contact(*best.stamp, best.column, best.row, 0);
        for (std::size_t i = 0; i < stamps_.size() && !isOver_(); ++i) {
            const Stamp& stamp = stamps_[i];
            const int last = std::min(field.mostColumns(), foremost.reach() + span_) - stamp.columns;
            const auto first = berths[i].foremost(last);
            for (int column = first ? first->column : last + 1; column <= last; ++column) {
                const double farness = snugFarness * (column + stamp.columns - foremost.reach()) / span_;
                if (1 - farness <= most)
                    break;
                if (const auto berth = berths[i].snuggest(column, most + farness)) {
                    most = berth->contact - farness;
                    best = {&stamp, column, berth->row};
                }
            }
        }
        return best;
    }

    std::optional<Spot> place(std::size_t item) {
        use(item);
        if (stamps_.empty())
            return {};
        for (std::size_t sheet = 0; sheet < std::size_t(Limits::mostSheets); ++sheet) {
            Field& here = field(sheet);
            if (berths_.size() == sheet) {
                berths_.emplace_back();
                for (const Stamp& stamp : stamps_)
                    berths_.back().emplace_back(here, stamp);
            }
            if (const auto first = foremost(here, berths_[sheet])) {
                const Place place = care_.isSnug ? snuggest(here, berths_[sheet], *first) : *first;
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
    int longestRun_ = 1;
    std::deque<Field> fields_;
    std::vector<std::size_t> late_;
    std::optional<std::size_t> item_;
    std::vector<Stamp> stamps_;               // of that item
    std::vector<std::vector<Berths>> berths_; // of its stamps, by sheet
};

} // namespace

std::optional<Start> bottomLeft(const Ground& ground, const Start& rows, const Care& care,
                                const std::function<bool()>& isOver) {
    if (rows.copies.empty())
        return {};
    return BottomLeft(ground, rows, care, isOver).lay();
}

} // namespace hasami::nesting
