#include "nesting/lattice/lattice.h"

#include "nesting/first/rows.h"
#include "nesting/lattice/courses.h"
#include "nesting/lattice/weaver.h"
#include "nesting/shape/outline.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace hasami::nesting {

namespace {

using std::numbers::pi;
constexpr int leastCopies = 8;

/// The patterns that take the least of the medium, the best one first; where it is over before the end, of
/// those tried till then.
std::vector<Pattern> bestPatterns(const Weaver& weaver, const Item& item, Random& random,
                                  const std::function<bool()>& isOver) {
    std::vector<std::pair<double, Pattern>> all;
    for (const double turn : turnsToTry(item, pi))
        for (const bool isLengthwise : {false, true})
            if (!isOver())
                weaver.gather(turn + (isLengthwise ? pi / 2 : 0), mayTurn(item, turn + pi), isLengthwise, all,
                              isOver);
    if (all.empty())
        return {};
    const auto isLess = [](const auto& a, const auto& b) { return a.first < b.first; };
    const auto isMore = [](const auto& a, const auto& b) { return a.first > b.first; };
    constexpr std::size_t kept = 24;
    std::make_heap(all.begin(), all.end(), isMore); // of very many only the first are wanted
    // Unlike ones: neighbours in turn and pitch end up in the same place.
    std::vector<std::pair<double, Pattern>> some;
    int tried = 0;
    constexpr int mostTried = 5000, mostTriedLate = 100;
    for (auto end = all.end(); end != all.begin(); --end) {
        std::pop_heap(all.begin(), end, isMore);
        const auto& entry = *std::prev(end);
        const bool isKnown = std::any_of(some.begin(), some.end(), [&](const auto& other) {
            const Pattern &p = entry.second, &q = other.second;
            return p.isDouble == q.isDouble && p.isLengthwise == q.isLengthwise &&
                   std::abs(std::remainder(p.turn - q.turn, pi)) < 0.06 &&
                   std::abs(p.pitch / q.pitch - 1) < 0.06;
        });
        if (isKnown)
            continue;
        if (weaver.isFree(entry.second))
            some.push_back(entry);
        const bool isHasty = isOver() && (!some.empty() || tried >= mostTriedLate);
        if (some.size() == kept || ++tried == mostTried || isHasty)
            break;
    }
    struct Round {
        std::size_t most;
        int tries;
    };
    for (const Round round : {Round{kept, 300}, Round{8, 800}, Round{3, 4000}}) {
        for (std::size_t i = 0; i < std::min(round.most, some.size()) && !isOver(); ++i) {
            auto& [length, pattern] = some[i];
            pattern = weaver.descend(pattern, item.turnsFreely, random, round.tries, isOver);
            length = weaver.yieldOf(pattern, false).length;
        }
        std::sort(some.begin(), some.end(), isLess);
    }
    std::vector<Pattern> best;
    best.reserve(some.size());
    for (const auto& [length, pattern] : some)
        best.push_back(pattern);
    return best;
}

/// Copies that are laid one type after the other.
class Rank {
public:
    Rank(const Ground& ground, const Start& rows) : ground_(ground), start_(rows) {}

    void add(const std::vector<std::size_t>& copies, const Yield& yield) {
        for (std::size_t i = 0; i < copies.size(); ++i) {
            Pose pose = yield.poses[i % yield.poses.size()];
            pose.x += ground_.room.least.x + reached_;
            pose.y += ground_.room.least.y;
            start_.spots.at[copies[i]] = {int(i / yield.poses.size()), pose};
        }
        reached_ += yield.length + slack;
        ++types_;
    }

    /// With those too few for a pattern in rows behind.
    Start closed(const std::vector<std::size_t>& few) const {
        Start start = start_;
        start.isDense = types_ == 1 && few.empty(); // where types meet there is much to gain
        appendRows(ground_, start, few, reached_);
        return start;
    }

private:
    const Ground& ground_;
    Start start_;
    double reached_ = 0;
    int types_ = 0;
};

} // namespace

void findLattices(const Ground& ground, const Start& rows, std::uint64_t seed,
                  const std::function<bool()>& isOver, const std::function<void(const Start&)>& offer) {
    if (!ground.obstacles.empty())
        return;
    std::map<std::size_t, std::vector<std::size_t>> byType; // copies of `rows`, by number
    for (std::size_t i = 0; i < rows.copies.size(); ++i) {
        const Item& item = ground.items[rows.copies[i]];
        byType[item.turns.empty() ? std::size_t(-1) : item.type].push_back(i);
    }
    constexpr std::ptrdiff_t mostTypes = 4; // each takes a second
    const auto large = std::count_if(byType.begin(), byType.end(), [](const auto& entry) {
        return entry.second.size() >= std::size_t(leastCopies);
    });
    if (large == 0 || large > mostTypes || (!ground.isRoll() && byType.size() > 1))
        return;
    struct Found {
        const std::vector<std::size_t>& copies;
        const Item& item;
        std::vector<Pattern> patterns;
        Yield yield;
    };
    std::vector<Found> found;
    std::vector<std::size_t> few;
    Random random(seed);
    // Wider by a hair, so that what is free by itself is so wherever on the medium it is reckoned.
    constexpr double hair = 1e-6; // mm
    const auto widened = [](Shape shape, double by) {
        shape.loops = cornersMoved(shape.loops, by);
        return shape;
    };
    Rank lattices(ground, rows), mixed(ground, rows);
    for (const auto& [type, copies] : byType) {
        if (copies.size() < std::size_t(leastCopies)) {
            few.insert(few.end(), copies.begin(), copies.end());
            continue;
        }
        const Item& item = ground.items[rows.copies[copies.front()]];
        const Shape shape = widened(item.shapes.front(), hair);
        const Weaver weaver(shape, ground, copies.size());
        std::vector<Pattern> patterns = bestPatterns(weaver, item, random, isOver);
        if (patterns.empty())
            return;
        Yield yield = weaver.yieldOf(patterns.front(), true);
        lattices.add(copies, yield);
        found.push_back({copies, item, std::move(patterns), std::move(yield)});
    }
    offer(lattices.closed(few));
    if (!ground.isRoll())
        return;
    for (const Found& type : found) {
        const Shape shape = widened(type.item.shapes.front(), hair / 2); // what lies in patterns is free
        const Yield courses = bestCourses(type.item, shape, ground, type.copies.size(), type.patterns,
                                          type.yield.length, isOver);
        mixed.add(type.copies, courses.poses.empty() ? type.yield : courses);
    }
    offer(mixed.closed(few));
}

} // namespace hasami::nesting
