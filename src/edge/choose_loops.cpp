#include "edge/choose_loops.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

namespace hasami {

namespace {

bool isChosen(const LoopFacts& loop, LoopChoice choice) {
    switch (choice) {
    case LoopChoice::outer:
        return loop.depth == 0 && loop.area > 0;
    case LoopChoice::openings:
        return loop.depth <= 1;
    case LoopChoice::all:
        return true;
    }
    return false;
}

double sizeOf(const Box& artwork) {
    return std::max({artwork.width(), artwork.height(), 1e-9});
}

/// The loop as a switch identifies it: as fractions of the artwork's size, so that it is found again at
/// another size.
LoopSwitch told(const LoopFacts& loop, const Box& artwork) {
    const double whole = sizeOf(artwork);
    return {(loop.box.centre() - artwork.least) * (1 / whole), std::sqrt(std::abs(loop.area)) / whole,
            loop.area < 0, false, 0};
}

/// How unlike they are, in parts of the artwork's size.
double unlike(const LoopSwitch& a, const LoopSwitch& b) {
    return distance(a.centre, b.centre) + std::abs(a.size - b.size);
}

constexpr double mostUnlike = 0.08;
constexpr double same = 0.004; // a level that moved a little still finds the loop it was set for

/// Loops in order of the middles' x, so that one looks only at those nearby.
class Finder {
public:
    explicit Finder(const std::vector<LoopSwitch>& facts) : facts_(facts), order_(facts.size()) {
        std::iota(order_.begin(), order_.end(), std::size_t{0});
        std::sort(order_.begin(), order_.end(),
                  [&](std::size_t a, std::size_t b) { return facts_[a].centre.x < facts_[b].centre.x; });
    }

    /// The loop that the switch was set for.
    std::optional<std::size_t> find(const LoopSwitch& s) const {
        const auto near = findWithin(s, same);
        return near ? near : findWithin(s, mostUnlike);
    }

private:
    std::optional<std::size_t> findWithin(const LoopSwitch& s, double least) const {
        std::optional<std::size_t> best;
        auto at = std::lower_bound(order_.begin(), order_.end(), s.centre.x - least,
                                   [&](std::size_t i, double x) { return facts_[i].centre.x < x; });
        for (; at != order_.end() && facts_[*at].centre.x <= s.centre.x + least; ++at)
            if (facts_[*at].isOpening == s.isOpening && unlike(facts_[*at], s) < least) {
                least = unlike(facts_[*at], s);
                best = *at;
            }
        return best;
    }

    const std::vector<LoopSwitch>& facts_;
    std::vector<std::size_t> order_;
};

} // namespace

std::vector<bool> chooseLoops(std::span<const LoopFacts> loops, const EdgeOptions& options,
                              const Box& artwork) {
    std::vector<bool> chosen;
    std::vector<LoopSwitch> facts;
    chosen.reserve(loops.size());
    facts.reserve(loops.size());
    for (const LoopFacts& loop : loops) {
        chosen.push_back(isChosen(loop, options.loops));
        facts.push_back(told(loop, artwork));
    }
    if (options.switches.empty())
        return chosen;
    const Finder finder(facts);
    for (const LoopSwitch& s : options.switches)
        if (const auto loop = finder.find(s))
            chosen[*loop] = s.isCut;
    return chosen;
}

void switchLoop(EdgeOptions& options, const LoopFacts& loop, const Box& artwork, bool isCut, int item) {
    LoopSwitch wanted = told(loop, artwork);
    wanted.isCut = isCut;
    wanted.item = item;
    std::erase_if(options.switches, [&](const LoopSwitch& s) {
        return s.item == item && std::abs(s.centre.x - wanted.centre.x) < same &&
               s.isOpening == wanted.isOpening && unlike(s, wanted) < same;
    });
    if (isChosen(loop, options.loops) != isCut)
        options.switches.push_back(wanted);
}

} // namespace hasami
