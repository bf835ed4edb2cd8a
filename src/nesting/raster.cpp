#include "nesting/raster.h"

#include "nesting/start.h"
#include "nesting/wide.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace hasami::nesting {

namespace {

constexpr int wordBits = 64;

/// The bits of a word that lie in [from, to), counted from the word's first.
std::uint64_t bitsBetween(int from, int to) {
    const std::uint64_t all = ~std::uint64_t{0};
    if (to <= 0)
        return 0;
    const std::uint64_t begun = from <= 0 ? all : all << from;
    return to >= wordBits ? begun : begun & ~(all << to);
}

/// Adds the other's bits, moved down by so many. Both end with a word of zeros.
HASAMI_WIDE void orMoved(Bits& bits, const Bits& other, std::size_t by) {
    const std::size_t words = by / wordBits, rest = by % wordBits;
    if (words + 1 >= other.size())
        return;
    std::uint64_t* const to = bits.data();
    const std::uint64_t* const from = other.data() + words;
    const std::size_t count = other.size() - 1 - words;
    if (rest == 0)
        for (std::size_t i = 0; i < count; ++i)
            to[i] |= from[i];
    else
        for (std::size_t i = 0; i < count; ++i)
            to[i] |= from[i] >> rest | from[i + 1] << (wordBits - rest);
}

} // namespace

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

void addRim(Stamp& stamp) {
    constexpr int width = 2; // of the rim: cells are taken that shapes only touch
    const int columns = stamp.columns + 2 * width, rows = stamp.rows + 2 * width;
    enum Cell : char { free, near, own };
    std::vector<Cell> cells(std::size_t(columns) * std::size_t(rows), free);
    const auto cell = [&](int column, int row) -> Cell& {
        return cells[std::size_t(column) * std::size_t(rows) + std::size_t(row)];
    };
    for (const Stamp::Run& run : stamp.runs)
        for (int column = run.column; column <= run.column + 2 * width; ++column)
            std::fill_n(&cell(column, run.from), run.count + 2 * width, near);
    for (const Stamp::Run& run : stamp.runs)
        std::fill_n(&cell(run.column + width, run.from + width), run.count, own);
    for (int column = 0; column < columns; ++column)
        for (int row = 0; row < rows; ++row) {
            const int from = row;
            while (row < rows && cell(column, row) == near)
                ++row;
            if (row > from)
                stamp.rim.push_back({column - width, from - width, row - from});
            stamp.rimCells += row - from;
        }
}

/// Leaves in `taken_` where the stamp does not fit; false where it fits nowhere.
bool Field::findFree(const Stamp& stamp, int column) {
    const int places = rows_ - stamp.rows + 1;
    if (places <= 0)
        return false;
    taken_.assign(words_ + 1, 0);
    for (const Stamp::Run& run : stamp.runs) {
        const auto at = std::size_t(column) + std::size_t(run.column);
        if (at >= columns_.size() || columns_[at].empty())
            continue; // nothing is there
        add(columns_[at], run);
        if (isFull(places))
            return false;
    }
    return true;
}

int Field::rowFor(const Stamp& stamp, int column) {
    if (!findFree(stamp, column))
        return -1;
    const int places = rows_ - stamp.rows + 1;
    for (int word = 0; word * wordBits < places; ++word)
        if (const std::uint64_t free = ~taken_[std::size_t(word)]) {
            const int row = word * wordBits + std::countr_zero(free);
            return row < places ? row : -1;
        }
    return -1;
}

void Field::edgeRows(const Stamp& stamp, int column, std::vector<int>& rows) {
    rows.clear();
    if (!findFree(stamp, column))
        return;
    const int places = rows_ - stamp.rows + 1;
    const auto freeIn = [&](std::size_t word) {
        return word < words_ ? ~taken_[word] & bitsBetween(0, places - int(word) * wordBits) : 0;
    };
    std::uint64_t before = 0, here = freeIn(0);
    for (std::size_t word = 0; int(word) * wordBits < places; ++word) {
        const std::uint64_t after = freeIn(word + 1);
        const std::uint64_t up = here << 1 | before >> (wordBits - 1),
                            down = here >> 1 | after << (wordBits - 1);
        for (std::uint64_t edges = here & ~(up & down); edges != 0; edges &= edges - 1)
            rows.push_back(int(word) * wordBits + std::countr_zero(edges));
        before = here;
        here = after;
    }
}

HASAMI_WIDE double Field::contact(const Stamp& stamp, int column, int row, double bound) const {
    const double whole = std::max(1, stamp.rimCells);
    const int mostFree = int(std::clamp((1 - bound) * whole, 0.0, whole));
    int free = 0;
    for (const Stamp::Run& run : stamp.rim) {
        const int at = column + run.column;
        if (at < 0 || at >= mostColumns_)
            continue;
        const int from = std::max(row + run.from, 0), to = std::min(row + run.from + run.count, rows_);
        if (to <= from)
            continue;
        free += to - from;
        if (std::size_t(at) < columns_.size() && !columns_[std::size_t(at)].empty()) {
            const std::uint64_t* const bits = columns_[std::size_t(at)].front().data();
            for (int word = from / wordBits; word * wordBits < to; ++word)
                free -= std::popcount(bits[word] & bitsBetween(from - word * wordBits, to - word * wordBits));
        }
        if (free > mostFree)
            return 0;
    }
    return (whole - free) / whole;
}

/// Whether no row is left of so many.
bool Field::isFull(int places) const {
    const auto whole = std::size_t(places) / wordBits;
    for (std::size_t i = 0; i < whole; ++i)
        if (~taken_[i] != 0)
            return false;
    return places % wordBits == 0 || (~taken_[whole] & bitsBetween(0, places % wordBits)) == 0;
}

void Field::take(const Stamp& stamp, int column, int row) {
    for (const Stamp::Run& run : stamp.runs)
        take(column + run.column, row + run.from, run.count);
}

void Field::take(int column, int from, int count) {
    if (std::size_t(column) >= columns_.size())
        columns_.resize(std::size_t(column) + 1);
    Column& whole = columns_[std::size_t(column)];
    whole.resize(1);
    Bits& bits = whole.front();
    bits.resize(words_ + 1);
    for (int row = from; row < from + count; ++row)
        bits[std::size_t(row) / wordBits] |= std::uint64_t(1) << (row % wordBits);
}

/// Bit r is set where some bit from r + from on, `count` of them, is: those are two overlapping powers of
/// two.
void Field::add(Column& column, const Stamp::Run& run) {
    const auto count = std::size_t(run.count);
    std::size_t level = 0, reach = 1; // a power of two
    for (; 2 * reach <= count; ++level, reach *= 2)
        if (column.size() == level + 1) {
            column.push_back(column.back());
            orMoved(column.back(), column[level], reach);
        }
    const auto from = std::size_t(run.from);
    orMoved(taken_, column[level], from);
    if (count > reach)
        orMoved(taken_, column[level], from + count - reach);
}

} // namespace hasami::nesting
