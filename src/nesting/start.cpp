#include "nesting/start.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <map>
#include <numeric>

namespace hasami::nesting {

namespace {

constexpr double apart = 1e-6; // mm between boxes that would touch

Box turnedBox(const Shape& shape, double turn) {
    const double c = std::cos(turn), s = std::sin(turn);
    Box box;
    for (const Point p : shape.hull)
        box.add(Point{c * p.x - s * p.y, s * p.x + c * p.y});
    return box;
}

/// The turn, and whether mirrored, in which the box takes the least of the medium's length for its width.
struct BestTurn {
    double turn = 0;
    bool isMirrored = false;
    Box box;
};

BestTurn flattest(const Item& item, const Box& room) {
    BestTurn best;
    double least = 1e300;
    for (const bool isMirrored : {false, true}) {
        if (isMirrored && item.shapes.size() < 2)
            continue;
        for (const double turn : item.turns) {
            const Box box = turnedBox(item.shapes[isMirrored ? 1 : 0], turn);
            if (box.width() > room.width() || box.height() > room.height())
                continue;
            const double inRow = std::floor(room.height() / (box.height() + apart));
            const double each = box.width() / std::max(1.0, inRow);
            if (each < least) {
                least = each;
                best = {turn, isMirrored, box};
            }
        }
    }
    return best;
}

/// Puts boxes in rows, past what is blocked.
class Shelves {
public:
    Shelves(const Ground& ground, int sheet, double x) : ground_(ground) {
        for (const Obstacle& obstacle : ground.obstacles) {
            Box box;
            for (const Loop& loop : obstacle.loops)
                box.add(bounds(loop));
            blocked_.emplace_back(obstacle.sheet, box);
        }
        startSheet(sheet);
        x_ = std::max(x_, x);
    }

    /// False where there are too many sheets.
    bool add(const BestTurn& turn, Spot& spot) {
        while (true) {
            if (sheet_ >= Limits::mostSheets)
                return false;
            if (y_ + turn.box.height() > ground_.room.most.y + slack / 2) {
                nextRow();
                continue;
            }
            if (x_ + turn.box.width() > ground_.room.most.x + slack / 2) {
                startSheet(sheet_ + 1);
                continue;
            }
            const Box box{{x_, y_}, {x_ + turn.box.width(), y_ + turn.box.height()}};
            if (const Box* other = blockedBy(box)) {
                // Past the obstacle across, or, where no row fits beside it, past it along.
                y_ = other->most.y + apart;
                past_ = past_ == 0 ? other->most.x : std::min(past_, other->most.x);
                continue;
            }
            spot.sheet = sheet_;
            spot.pose = {x_ - turn.box.least.x, y_ - turn.box.least.y, turn.turn, turn.isMirrored};
            y_ += turn.box.height() + apart;
            depth_ = std::max(depth_, turn.box.width());
            isRowUsed_ = true;
            return true;
        }
    }

private:
    void startSheet(int sheet) {
        sheet_ = sheet;
        x_ = ground_.room.least.x;
        y_ = ground_.room.least.y;
        depth_ = past_ = 0;
        isRowUsed_ = false;
    }

    void nextRow() {
        if (isRowUsed_)
            x_ += depth_ + apart;
        else
            x_ = std::max(x_, past_) + apart; // nothing but obstacles
        y_ = ground_.room.least.y;
        depth_ = past_ = 0;
        isRowUsed_ = false;
    }

    const Box* blockedBy(const Box& box) const {
        for (const auto& [sheet, other] : blocked_)
            if (sheet == sheet_ && other.meets(box))
                return &other;
        return nullptr;
    }

    const Ground& ground_;
    std::vector<std::pair<int, Box>> blocked_;
    int sheet_ = 0;
    double x_ = 0, y_ = 0, depth_ = 0, past_ = 0;
    bool isRowUsed_ = false;
};

double usedOn(const Ground& ground, const std::vector<std::size_t>& copies, const Spots& spots, int sheet) {
    double most = ground.room.least.x;
    for (std::size_t i = 0; i < copies.size(); ++i)
        if (spots.at[i].sheet == sheet) {
            const Pose& pose = spots.at[i].pose;
            const Shape& shape = ground.items[copies[i]].shapes[pose.isMirrored ? 1 : 0];
            most = std::max(most, turnedBox(shape, pose.rotation).most.x + pose.x);
        }
    return most;
}

void closeOff(const Ground& ground, Start& start) {
    int last = 0;
    for (const Spot& spot : start.spots.at)
        last = std::max(last, spot.sheet);
    start.spots.sheets = last + 1;
    start.spots.length = usedOn(ground, start.copies, start.spots, last) - ground.room.least.x;
}

} // namespace

double reachOf(const Ground& ground, const Spots& spots) {
    return (spots.sheets - 1) * (ground.isRoll() ? 0 : ground.fullLength()) + spots.length;
}

Start rows(const Ground& ground) {
    Start start;
    std::vector<std::pair<double, std::size_t>> order;
    std::vector<BestTurn> turns(ground.items.size());
    for (std::size_t i = 0; i < ground.items.size(); ++i) {
        const Item& item = ground.items[i];
        if (item.copies == 0)
            continue;
        if (item.turns.empty()) {
            start.notPlaced.push_back(
                {item.part, item.copies, "it is larger than the medium inside its margin"});
            continue;
        }
        turns[i] = flattest(item, ground.room);
        order.emplace_back(-turns[i].box.width(), i);
    }
    std::sort(order.begin(), order.end());
    Shelves shelves(ground, 0, ground.room.least.x);
    for (const auto& [width, i] : order)
        for (int copy = 0; copy < ground.items[i].copies; ++copy) {
            Spot spot;
            if (!shelves.add(turns[i], spot)) {
                start.notPlaced.push_back(
                    {ground.items[i].part, ground.items[i].copies - copy,
                     "more than " + std::to_string(Limits::mostSheets) + " sheets would be needed"});
                break;
            }
            start.copies.push_back(i);
            start.spots.at.push_back(spot);
        }
    closeOff(ground, start);
    return start;
}

namespace {

/// A set of cells across the medium, one bit each.
using Bits = std::vector<std::uint64_t>;

/// A part's cells at one turn: runs across, column by column.
struct Stamp {
    struct Run {
        int column, from, count;
    };
    std::vector<Run> runs;
    int columns = 0, rows = 0;
    double turn = 0;
    bool isMirrored = false;
    Box box;
};

/// All cells that the shape touches.
Stamp stampOf(const Shape& shape, double turn, bool isMirrored, double cell) {
    Stamp stamp;
    stamp.turn = turn;
    stamp.isMirrored = isMirrored;
    stamp.box = turnedBox(shape, turn);
    stamp.columns = int(std::ceil(stamp.box.width() / cell - 1e-9));
    stamp.rows = int(std::ceil(stamp.box.height() / cell - 1e-9));
    const double c = std::cos(turn), s = std::sin(turn);
    std::vector<Loop> loops = shape.loops;
    for (Loop& loop : loops)
        for (Point& p : loop)
            p = Point{c * p.x - s * p.y, s * p.x + c * p.y} - stamp.box.least;
    std::vector<std::vector<std::pair<double, double>>> spans(std::size_t(stamp.columns));
    std::vector<std::vector<double>> crossings(std::size_t(stamp.columns) + 1);
    for (const Loop& loop : loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            Point a = loop[i], b = loop[(i + 1) % loop.size()];
            if (a.x > b.x)
                std::swap(a, b);
            const int first = std::clamp(int(a.x / cell), 0, stamp.columns - 1);
            const int last = std::clamp(int(b.x / cell), 0, stamp.columns - 1);
            const auto yAt = [&](double x) {
                return b.x > a.x ? a.y + (b.y - a.y) * (std::clamp(x, a.x, b.x) - a.x) / (b.x - a.x) : a.y;
            };
            for (int column = first; column <= last; ++column) {
                const double y0 = column == first ? a.y : yAt(column * cell);
                const double y1 = column == last ? b.y : yAt((column + 1) * cell);
                spans[std::size_t(column)].emplace_back(std::min(y0, y1), std::max(y0, y1));
            }
            for (int line = 0; line <= stamp.columns; ++line) // each column's left rim
                if (const double x = line * cell; a.x <= x && x < b.x)
                    crossings[std::size_t(line)].push_back(yAt(x));
        }
    for (std::vector<double>& ys : crossings)
        std::sort(ys.begin(), ys.end());
    for (int column = 0; column < stamp.columns; ++column) {
        auto& all = spans[std::size_t(column)];
        for (const int line : {column, column + 1}) {
            const auto& ys = crossings[std::size_t(line)];
            for (std::size_t i = 0; i + 1 < ys.size(); i += 2)
                all.emplace_back(ys[i], ys[i + 1]);
        }
        std::vector<std::pair<int, int>> cells;
        for (const auto& [from, to] : all)
            cells.emplace_back(std::clamp(int(from / cell), 0, stamp.rows - 1),
                               std::clamp(int(to / cell), 0, stamp.rows - 1));
        std::sort(cells.begin(), cells.end());
        for (std::size_t i = 0; i < cells.size();) {
            int end = cells[i].second;
            std::size_t j = i + 1;
            for (; j < cells.size() && cells[j].first <= end + 1; ++j)
                end = std::max(end, cells[j].second);
            stamp.runs.push_back({column, cells[i].first, end - cells[i].first + 1});
            i = j;
        }
    }
    // The long ones first: they tell soonest that there is no room.
    std::stable_sort(stamp.runs.begin(), stamp.runs.end(),
                     [](const Stamp::Run& a, const Stamp::Run& b) { return a.count > b.count; });
    return stamp;
}

/// One sheet's cells that are taken.
class Field {
public:
    Field(int rows, int columns) : rows_(rows), words_(std::size_t(rows + 63) / 64), mostColumns_(columns) {}

    /// The least row at which the stamp fits in a column, or -1.
    int rowFor(const Stamp& stamp, int column) {
        const int places = rows_ - stamp.rows + 1;
        if (places <= 0)
            return -1;
        taken_.assign(words_, 0);
        for (const Stamp::Run& run : stamp.runs) {
            const auto at = std::size_t(column) + std::size_t(run.column);
            if (at >= columns_.size() || columns_[at].empty())
                continue; // nothing is there
            add(columns_[at], run);
            if (isFull(places))
                return -1;
        }
        for (int word = 0; word * 64 < places; ++word)
            if (const std::uint64_t free = ~taken_[std::size_t(word)]) {
                const int row = word * 64 + std::countr_zero(free);
                return row < places ? row : -1;
            }
        return -1;
    }

    /// Whether no row is left of so many.
    bool isFull(int places) const {
        const auto whole = std::size_t(places) / 64;
        for (std::size_t i = 0; i < whole; ++i)
            if (~taken_[i] != 0)
                return false;
        return places % 64 == 0 || (~taken_[whole] & ((std::uint64_t(1) << (places % 64)) - 1)) == 0;
    }

    void take(const Stamp& stamp, int column, int row) {
        for (const Stamp::Run& run : stamp.runs)
            take(column + run.column, row + run.from, run.count);
    }

    void take(int column, int from, int count) {
        if (std::size_t(column) >= columns_.size())
            columns_.resize(std::size_t(column) + 1);
        Bits& bits = columns_[std::size_t(column)];
        if (bits.empty())
            bits.assign(words_, 0);
        for (int row = from; row < from + count; ++row)
            bits[std::size_t(row) / 64] |= std::uint64_t(1) << (row % 64);
    }

    int mostColumns() const { return mostColumns_; }
    int usedColumns() const { return int(columns_.size()); }

private:
    /// Bit r is set where some bit from r + from on, `count` of them, is.
    void add(const Bits& bits, const Stamp::Run& run) {
        spread_ = bits;
        int length = 1;
        for (; length * 2 <= run.count; length *= 2)
            spreadDown(length);
        if (length < run.count)
            spreadDown(run.count - length);
        const auto words = std::size_t(run.from) / 64;
        const int rest = run.from % 64;
        for (std::size_t i = 0; i + words < words_; ++i) {
            std::uint64_t word = spread_[i + words] >> rest;
            if (rest > 0 && i + words + 1 < words_)
                word |= spread_[i + words + 1] << (64 - rest);
            taken_[i] |= word;
        }
    }

    void spreadDown(int by) {
        const auto words = std::size_t(by) / 64;
        const int rest = by % 64;
        for (std::size_t i = 0; i + words < words_; ++i) {
            std::uint64_t word = spread_[i + words] >> rest;
            if (rest > 0 && i + words + 1 < words_)
                word |= spread_[i + words + 1] << (64 - rest);
            spread_[i] |= word;
        }
    }

    int rows_;
    std::size_t words_;
    int mostColumns_;
    std::vector<Bits> columns_; // none is taken in an empty one
    Bits taken_, spread_;
};

class BottomLeft {
public:
    BottomLeft(const Ground& ground, const Start& rows, int cells, std::size_t mostTurns)
        : ground_(ground), rows_(rows), mostTurns_(mostTurns) {
        std::vector<double> sizes;
        for (const std::size_t copy : rows.copies)
            sizes.push_back(ground.items[copy].shapes.front().radius * 2);
        std::nth_element(sizes.begin(), sizes.begin() + std::ptrdiff_t(sizes.size() / 2), sizes.end());
        const double middling = sizes[sizes.size() / 2];
        cell_ = std::max({middling / cells, ground.room.height() / 4000, 0.02});
        rowsAcross_ = std::max(1, int(ground.room.height() / cell_));
        cell_ = ground.room.height() / rowsAcross_; // nothing is lost at the far side
    }

    std::optional<Start> lay(const std::function<bool()>& isOver) {
        Start start;
        start.notPlaced = rows_.notPlaced;
        std::vector<std::size_t> order(rows_.copies.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return weightOf(rows_.copies[a]) > weightOf(rows_.copies[b]);
        });
        for (const std::size_t i : order) {
            if (isOver())
                return {};
            const std::size_t item = rows_.copies[i];
            start.copies.push_back(item);
            const auto spot = place(item);
            start.spots.at.push_back(spot.value_or(Spot{}));
            if (!spot)
                late_.push_back(start.copies.size() - 1);
        }
        if (!addLate(start))
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
        Shelves shelves(ground_, ground_.isRoll() ? 0 : int(fields_.size()), used);
        return std::all_of(late_.begin(), late_.end(), [&](std::size_t i) {
            return shelves.add(flattest(ground_.items[start.copies[i]], ground_.room), start.spots.at[i]);
        });
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
            for (std::size_t i = 0; i < it.turns.size(); i += i < 4 ? 1 : step) {
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
            for (std::size_t i = 0; i < stamps.size(); ++i) {
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
    return BottomLeft(ground, rows, cells, mostTurns).lay(isOver);
}

void appendRows(const Ground& ground, Start& start, const std::vector<std::size_t>& copies, double reached) {
    int last = 0;
    for (const Spot& spot : start.spots.at)
        last = std::max(last, spot.sheet);
    Shelves shelves(ground, ground.isRoll() ? 0 : last, ground.room.least.x + reached);
    for (const std::size_t copy : copies)
        shelves.add(flattest(ground.items[start.copies[copy]], ground.room), start.spots.at[copy]);
    closeOff(ground, start);
}

bool isSound(const Ground& ground, std::span<const std::size_t> copies, const Spots& spots) {
    struct Entry {
        int sheet;
        std::size_t number;
        double left;
    };
    std::vector<Placed> placed;
    std::vector<Entry> order;
    const auto add = [&](int sheet, Placed here) {
        order.push_back({sheet, placed.size(), here.box().least.x});
        placed.push_back(std::move(here));
    };
    for (std::size_t i = 0; i < copies.size(); ++i) {
        const Spot& spot = spots.at[i];
        Placed here(ground.items[copies[i]].shapes[spot.pose.isMirrored ? 1 : 0].exact, {});
        here.place(spot.pose);
        if (!ground.room.grownBy(slack).holds(here.box()))
            return false;
        add(spot.sheet, std::move(here));
    }
    const std::size_t own = placed.size();
    for (const Obstacle& obstacle : ground.obstacles) {
        Placed here(obstacle.loops, {});
        here.place({});
        add(obstacle.sheet, std::move(here));
    }
    std::sort(order.begin(), order.end(), [](const Entry& a, const Entry& b) {
        return a.sheet < b.sheet || (a.sheet == b.sheet && a.left < b.left);
    });
    std::vector<std::size_t> open;
    int sheet = -1;
    for (const Entry& entry : order) {
        if (entry.sheet != sheet)
            open.clear();
        sheet = entry.sheet;
        std::erase_if(open, [&](std::size_t other) { return placed[other].box().most.x < entry.left; });
        for (const std::size_t other : open)
            if ((other < own || entry.number < own) && placed[entry.number].touches(placed[other]))
                return false;
        open.push_back(entry.number);
    }
    return true;
}

} // namespace hasami::nesting
