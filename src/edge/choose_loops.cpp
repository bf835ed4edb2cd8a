#include "edge/choose_loops.h"

#include <algorithm>
#include <cmath>

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

/// The loop as a switch tells it: in parts of the artwork's size, so that it is found again at another size.
LoopSwitch told(const LoopFacts& loop, const Box& artwork) {
    const double whole = sizeOf(artwork);
    return {(loop.box.centre() - artwork.least) * (1 / whole), std::sqrt(std::abs(loop.area)) / whole,
            loop.area < 0, false};
}

/// How unlike they are, in parts of the artwork's size.
double unlike(const LoopSwitch& a, const LoopSwitch& b) {
    return distance(a.centre, b.centre) + std::abs(a.size - b.size);
}

constexpr double mostUnlike = 0.08;

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
    for (const LoopSwitch& s : options.switches) {
        std::size_t best = facts.size();
        double least = mostUnlike;
        for (std::size_t i = 0; i < facts.size(); ++i)
            if (facts[i].isOpening == s.isOpening && unlike(facts[i], s) < least) {
                least = unlike(facts[i], s);
                best = i;
            }
        if (best < facts.size())
            chosen[best] = s.isCut;
    }
    return chosen;
}

void switchLoop(EdgeOptions& options, const LoopFacts& loop, const Box& artwork, bool isCut) {
    constexpr double same = 0.004; // a level that moved a little still finds the loop it was set for
    LoopSwitch wanted = told(loop, artwork);
    wanted.isCut = isCut;
    std::erase_if(options.switches, [&](const LoopSwitch& s) {
        return s.isOpening == wanted.isOpening && unlike(s, wanted) < same;
    });
    if (isChosen(loop, options.loops) != isCut)
        options.switches.push_back(wanted);
}

} // namespace hasami
