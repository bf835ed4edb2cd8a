#include "nesting/first/raster.h"

#include "nesting/layout/layout.h"
#include "nesting/shape/wide.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace hasami::nesting {

namespace {

/// Adds bits moved down, `words` of them and then one of zeros, in the words [fromWord, toWord).
HASAMI_WIDE void addMoved(const std::uint64_t* bits, std::size_t words, std::size_t by, std::size_t fromWord,
                          std::size_t toWord, Bits& to) {
    const std::size_t whole = by / wordBits, rest = by % wordBits;
    if (whole >= words)
        return;
    const std::uint64_t* const from = bits + whole;
    std::uint64_t* const sum = to.data();
    const std::size_t end = std::min(toWord, words - whole);
    if (rest == 0)
        for (std::size_t i = fromWord; i < end; ++i)
            sum[i] |= from[i];
    else
        for (std::size_t i = fromWord; i < end; ++i)
            sum[i] |= from[i] >> rest | from[i + 1] << (wordBits - rest);
}

void fillBits(std::uint64_t* bits, int from, int to) {
    for (int word = from / wordBits; word * wordBits < to; ++word)
        bits[word] |= bitsBetween(from - word * wordBits, to - word * wordBits);
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
    // The long ones first: they show soonest that there is no room.
    std::stable_sort(stamp.runs.begin(), stamp.runs.end(),
                     [](const Stamp::Run& a, const Stamp::Run& b) { return a.count > b.count; });
    return stamp;
}

void addRim(Stamp& stamp) {
    constexpr int width = rimWidth;
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

Field::Field(int rows, int columns, int longestRun)
    : rows_(rows), words_(std::size_t(rows + wordBits - 1) / wordBits), mostColumns_(columns),
      longestReach_(std::bit_floor(std::size_t(std::clamp(longestRun, 1, rows)))) {}

/// Bit r is set where some bit from r + from on, `count` of them, is: those are two overlapping powers of
/// two.
bool Field::addTaken(const Stamp::Run& run, int column, std::size_t fromWord, std::size_t toWord,
                     Bits& taken) const {
    const auto at = std::size_t(column) + std::size_t(run.column);
    if (at >= columns_.size() || columns_[at].empty())
        return false;
    const auto from = std::size_t(run.from), count = std::size_t(run.count);
    const std::size_t reach = std::min(std::bit_floor(count), longestReach_);
    const auto level = std::size_t(std::countr_zero(reach));
    const std::uint64_t* const bits = columns_[at].data() + level * (words_ + 1);
    addMoved(bits, words_, from, fromWord, toWord, taken);
    if (count > reach)
        addMoved(bits, words_, from + count - reach, fromWord, toWord, taken);
    return true;
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
            const std::uint64_t* const bits = columns_[std::size_t(at)].data();
            for (int word = from / wordBits; word * wordBits < to; ++word)
                free -= std::popcount(bits[word] & bitsBetween(from - word * wordBits, to - word * wordBits));
        }
        if (free > mostFree)
            return 0;
    }
    return (whole - free) / whole;
}

void Field::take(const Stamp& stamp, int column, int row) {
    for (const Stamp::Run& run : stamp.runs)
        fill(column + run.column, row + run.from, run.count);
    patches_.push_back({column, column + stamp.columns, row, row + stamp.rows});
}

void Field::take(int column, int from, int count) {
    fill(column, from, count);
    patches_.push_back({column, column + 1, from, from + count});
}

void Field::fill(int column, int from, int count) {
    if (std::size_t(column) >= columns_.size())
        columns_.resize(std::size_t(column) + 1);
    Bits& bits = columns_[std::size_t(column)];
    const auto levels = std::size_t(std::countr_zero(longestReach_)) + 1;
    bits.resize(levels * (words_ + 1));
    for (std::size_t level = 0; level < levels; ++level)
        fillBits(bits.data() + level * (words_ + 1), std::max(0, from - (1 << level) + 1), from + count);
}

} // namespace hasami::nesting
