#include "nesting/first/berths.h"

#include <algorithm>
#include <bit>

namespace hasami::nesting {

namespace {

/// Contacts are listed down to this much less than asked for: after one copy has taken the best berth, the
/// next one asks for less.
constexpr double ahead = 0.15;

} // namespace

std::optional<Berths::Berth> Berths::foremost(int last) {
    if (places() <= 0)
        return {};
    for (; first_ <= last; ++first_) {
        const Column& column = upToDate(first_);
        if (!column.isFull)
            for (int word = 0; word * wordBits < places(); ++word)
                if (const std::uint64_t free = ~column.taken[std::size_t(word)])
                    return Berth{first_, word * wordBits + std::countr_zero(free)};
        columns_.pop_front();
    }
    return {};
}

std::optional<Berths::Berth> Berths::snuggest(int at, double least) {
    Column& column = upToDate(at);
    if (column.isFull)
        return {};
    if (!column.hasEdges) {
        addEdges(column, 0, places(), column.edges);
        column.hasEdges = true;
    }
    std::optional<Berth> best;
    for (Edge& edge : column.edges) {
        if (edge.contact <= least)
            continue;
        if (!edge.isKnown) {
            const double bound = std::max(0.0, least - ahead);
            const double contact = field_->contact(*stamp_, at, edge.row, bound);
            edge.isKnown = contact > 0;
            edge.contact = edge.isKnown ? contact : bound;
        }
        if (edge.contact > least) {
            least = edge.contact;
            best = {at, edge.row, edge.contact};
        }
    }
    return best;
}

bool Berths::isFull(const Bits& taken) const {
    const auto whole = std::size_t(places()) / wordBits;
    for (std::size_t i = 0; i < whole; ++i)
        if (~taken[i] != 0)
            return false;
    return places() % wordBits == 0 || (~taken[whole] & bitsBetween(0, places() % wordBits)) == 0;
}

Berths::Column& Berths::upToDate(int at) {
    while (columns_.size() <= std::size_t(at - first_)) {
        columns_.emplace_back();
        lookAtAll(columns_.back(), first_ + int(columns_.size()) - 1);
    }
    Column& column = columns_[std::size_t(at - first_)];
    const std::vector<Field::Patch>& patches = field_->patches();
    for (; column.seen < patches.size() && !column.isFull; ++column.seen)
        lookAt(patches[column.seen], column, at);
    return column;
}

void Berths::lookAtAll(Column& column, int at) const {
    column.seen = field_->patches().size();
    column.taken.assign(field_->words() + 1, 0);
    for (const Stamp::Run& run : stamp_->runs)
        if (field_->addTaken(run, at, 0, field_->words(), column.taken) && isFull(column.taken)) {
            column.isFull = true;
            return;
        }
}

void Berths::lookAt(const Field::Patch& patch, Column& column, int at) const {
    if (patch.toColumn <= at - rimWidth || patch.fromColumn >= at + stamp_->columns + rimWidth)
        return;
    const int from = std::max(patch.fromRow - stamp_->rows - rimWidth + 1, 0);
    const int to = std::min(patch.toRow + rimWidth, places());
    if (to <= from)
        return;
    const int fromWord = from / wordBits, toWord = (to - 1) / wordBits + 1;
    for (const Stamp::Run& run : stamp_->runs)
        if (at + run.column >= patch.fromColumn && at + run.column < patch.toColumn)
            field_->addTaken(run, at, std::size_t(fromWord), std::size_t(toWord), column.taken);
    column.isFull = isFull(column.taken);
    if (column.isFull || !column.hasEdges)
        return;
    const auto isBefore = [](const Edge& edge, int row) { return edge.row < row; };
    auto& edges = column.edges;
    const auto first = std::lower_bound(edges.begin(), edges.end(), from, isBefore);
    const auto last = std::lower_bound(first, edges.end(), to, isBefore);
    std::vector<Edge> fresh;
    addEdges(column, from, to, fresh);
    edges.insert(edges.erase(first, last), fresh.begin(), fresh.end());
}

/// Those of rows in [from, to).
void Berths::addEdges(const Column& column, int from, int to, std::vector<Edge>& edges) const {
    const auto freeIn = [&](int word) {
        return word >= 0 && word * wordBits < places()
                   ? ~column.taken[std::size_t(word)] & bitsBetween(0, places() - word * wordBits)
                   : 0;
    };
    for (int word = from / wordBits; word * wordBits < to; ++word) {
        const std::uint64_t here = freeIn(word);
        const std::uint64_t up = here << 1 | freeIn(word - 1) >> (wordBits - 1);
        const std::uint64_t down = here >> 1 | freeIn(word + 1) << (wordBits - 1);
        const std::uint64_t asked = bitsBetween(from - word * wordBits, to - word * wordBits);
        for (std::uint64_t bits = here & ~(up & down) & asked; bits != 0; bits &= bits - 1)
            edges.push_back({word * wordBits + std::countr_zero(bits)});
    }
}

} // namespace hasami::nesting
