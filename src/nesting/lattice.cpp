#include "nesting/lattice.h"

#include "nesting/outline.h"
#include "nesting/rows.h"
#include "nesting/weaver.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace hasami::nesting {

namespace {

constexpr double pi = std::numbers::pi;
constexpr int leastCopies = 8;

/// The pattern that takes the least of the medium; where it is over before the end, of those tried till then.
std::optional<Pattern> bestPattern(const Weaver& weaver, const Item& item, Random& random,
                                   const std::function<bool()>& isOver) {
    const auto has = [&](double turn) {
        return item.turnsFreely || std::any_of(item.turns.begin(), item.turns.end(), [&](double known) {
                   return std::abs(std::remainder(known - turn, 2 * pi)) < 1e-9;
               });
    };
    std::vector<double> turns = item.turns;
    if (item.turnsFreely)
        for (int i = 0; i < 60; ++i)
            turns.push_back(i * 37 % 60 * pi / 60); // any first few lie far apart
    std::vector<std::pair<double, Pattern>> all;
    for (const double turn : turns)
        for (const bool isLengthwise : {false, true})
            if (!isOver())
                weaver.gather(turn + (isLengthwise ? pi / 2 : 0), has(turn + pi), isLengthwise, all, isOver);
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
    for (int round = 0; round < 3; ++round) {
        for (auto& [length, pattern] : some) {
            if (isOver())
                break;
            pattern = weaver.descend(pattern, item.turnsFreely, random,
                                     round == 0   ? 300
                                     : round == 1 ? 800
                                                  : 4000,
                                     isOver);
            length = weaver.yieldOf(pattern, false).length;
        }
        std::sort(some.begin(), some.end(), isLess);
        some.resize(std::min<std::size_t>(some.size(), round == 0 ? 8 : 3));
    }
    return some.empty() ? std::nullopt : std::optional(some.front().second);
}

} // namespace

std::optional<Start> latticeStart(const Ground& ground, const Start& rows, std::uint64_t seed,
                                  const std::function<bool()>& isOver) {
    if (!ground.obstacles.empty())
        return {};
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
        return {};
    Start start{rows.copies, rows.spots, rows.notPlaced, true};
    Random random(seed);
    double reached = 0;
    std::vector<std::size_t> few;
    for (const auto& [type, copies] : byType) {
        if (copies.size() < std::size_t(leastCopies)) {
            few.insert(few.end(), copies.begin(), copies.end());
            continue;
        }
        const Item& item = ground.items[rows.copies[copies.front()]];
        // Wider by a hair, so that what is free by itself is so wherever on the medium it is reckoned.
        constexpr double hair = 1e-6; // mm
        Shape shape = item.shapes.front();
        shape.loops = cornersMoved(shape.loops, hair);
        const Weaver weaver(shape, ground, copies.size());
        const auto pattern = bestPattern(weaver, item, random, isOver);
        if (!pattern)
            return {};
        const Yield yield = weaver.yieldOf(*pattern, true);
        for (std::size_t i = 0; i < copies.size(); ++i) {
            const std::size_t sheet = i / yield.poses.size();
            Pose pose = yield.poses[i % yield.poses.size()];
            pose.x += ground.room.least.x + reached;
            pose.y += ground.room.least.y;
            start.spots.at[copies[i]] = {int(sheet), pose};
        }
        reached += yield.length + slack;
    }
    appendRows(ground, start, few, reached);
    return start;
}

} // namespace hasami::nesting
