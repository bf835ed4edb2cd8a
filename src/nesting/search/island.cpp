#include "nesting/search/island.h"

#include "nesting/layout/sound.h"
#include "nesting/search/merge.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <utility>

namespace hasami::nesting {

namespace {

constexpr double lateShare = 0.9; // of the time: from then on only small steps
constexpr double mostStep = 0.05, leastStep = 0.0008, leastLatticeStep = 0.003;
constexpr double leastStepOfPart = 0.006; // of a middling part: on long rolls that is less
constexpr double mostShift = 0.3;         // of a middling part, what follows a line moves up to it at once
constexpr int patience = 25, latePatience = 40; // sweeps without any gain
constexpr int strikes = 2;                      // patience lost, from the least bad again, before it gives up

constexpr double mostInsistence = 4, insistenceGrowth = 1.1;
constexpr std::size_t mostTroubled = 100; // copies, about, that one attempt has to do with

/// Without any gain: few to begin with, since another attempt elsewhere is worth more than to insist.
std::uint64_t mostIdleMoves(std::size_t copies, double insistence) {
    return std::uint64_t(insistence * double(100 + std::min(copies, mostTroubled)));
}

} // namespace

Island::Island(const Ground& ground, const std::vector<std::size_t>& copies, const Spots& start,
               std::uint64_t seed, bool isDense)
    : ground_(ground), itemOf_(copies),
      bed_(ground.items, copies, ground.obstacles, ground.room, ground.isRoll()), random_(seed), best_(start),
      step_(isDense ? 0.002 : 0.02), leastStep_(leastStep), pullShare_(isDense ? 0.4 : 0.05) {
    const double size = middlingSize(ground, copies);
    const bool isUniform = std::all_of(itemOf_.begin(), itemOf_.end(), [&](std::size_t item) {
        return ground_.items[item].type == ground_.items[itemOf_.front()].type;
    });
    if (start.length > 0)
        leastStep_ = std::min(leastStep, leastStepOfPart * size / start.length);
    if (isDense && isUniform) { // a lattice: it gives way at few places, and to long attempts only
        leastStep_ = leastLatticeStep;
        leastInsistence_ = insistence_ = mostInsistence;
    }
    mostShift_ = mostShift * size;
}

void Island::adopt(const Spots& spots, const Spots& before) {
    joint_.reset();
    if (reachOf(ground_, best_) < reachOf(ground_, before) && best_.at != spots.at)
        joint_ = joined(before, best_, spots);
    best_ = spots;
}

/// Puts the best with less length: what lies beyond a line, in the belt on a single sheet, moves back by as
/// much. Where the last sheet would hold nothing it is given up. False where that can't be.
bool Island::shorten(double by, const Belt& belt) {
    Spots spots = best_;
    const bool mayGoOn = spots.sheets > 1;
    // Of several sheets, so that the last one is given up in a few steps.
    const double least = mayGoOn ? std::max(spots.length * by, ground_.fullLength() * by)
                                 : std::min(spots.length * by, mostShift_);
    double length = spots.length - least;
    double smallest = 1e300;
    for (std::size_t i = 0; i < itemOf_.size(); ++i)
        smallest = std::min(smallest, bed_.itemOf(i).shapes.front().poles.front().radius * 2);
    if (mayGoOn && length < smallest) {
        --spots.sheets;
        length = ground_.fullLength();
    } else if (length <= 0) {
        return false;
    }
    const int last = spots.sheets - 1;
    const bool dropsSheet = spots.sheets < best_.sheets;
    if (!dropsSheet && random_.unit() < pullShare_)
        return pullOut();
    const double start = ground_.room.least.x + (mayGoOn ? 0 : belt.from * spots.length);
    const double end = ground_.room.least.x + (mayGoOn ? 1 : belt.to) * spots.length;
    const double line = random_.between(start, end);
    if (!mayGoOn)
        bed_.keepTo(start, end);
    for (Spot& spot : spots.at) {
        if (spot.sheet > last) {
            spot.sheet = int(random_.below(std::size_t(spots.sheets)));
        } else if (spot.sheet == last && !dropsSheet && spot.pose.x > line) {
            spot.pose.x -= least;
        }
    }
    spots.length = length;
    bed_.put(spots);
    return true;
}

/// The few that reach farthest lie elsewhere; the others stay.
bool Island::pullOut() {
    bed_.put(best_);
    const int last = best_.sheets - 1;
    std::vector<std::pair<double, std::size_t>> reach;
    for (std::size_t i = 0; i < itemOf_.size(); ++i)
        if (bed_.spot(i).sheet == last)
            reach.emplace_back(-bed_.boxOf(i).most.x, i);
    const std::size_t some = 1 + random_.below(3);
    if (reach.size() <= some)
        return false;
    std::partial_sort(reach.begin(), reach.begin() + std::ptrdiff_t(some) + 1, reach.end());
    Spots spots = best_;
    spots.length =
        std::min(-reach[some].first - ground_.room.least.x, best_.length * (1 - leastLatticeStep / 10));
    bed_.put(spots);
    for (std::size_t i = 0; i < some; ++i)
        bed_.scatter(reach[i].second, random_);
    return true;
}

Island::End Island::sweep(const Hooks& hooks) {
    std::vector<std::size_t> some = bed_.troubled();
    for (std::size_t i = some.size(); i > 1; --i)
        std::swap(some[i - 1], some[random_.below(i)]);
    for (const std::size_t copy : some) {
        if (bed_.isFree(copy))
            continue;
        bed_.improve(copy, random_);
        ++moves_;
        if (hooks.isOver())
            return End::over;
    }
    return bed_.isFree() ? End::free : End::stalled;
}

Island::End Island::separate(const Hooks& hooks, int patience) {
    bed_.forgetWeights();
    sweeps_ = 0;
    double least = bed_.loss();
    Spots leastSpots = bed_.spots();
    if (bed_.isFree())
        return End::free;
    for (int strike = 0; strike < strikes;) {
        const double before = least;
        std::uint64_t since = moves_;
        for (int idle = 0; idle < patience && moves_ - since < mostIdleMoves(itemOf_.size(), insistence_);) {
            const End end = sweep(hooks);
            ++sweeps_;
            if (end != End::stalled)
                return end;
            const double loss = bed_.loss();
            if (loss < least) {
                if (loss < 0.98 * least) {
                    idle = 0;
                    since = moves_;
                } else {
                    ++idle;
                }
                least = loss;
                leastSpots = bed_.spots();
            } else {
                ++idle;
            }
            bed_.weigh();
        }
        strike = least < 0.98 * before ? 0 : strike + 1;
        bed_.put(leastSpots);
    }
    return End::stalled;
}

bool Island::keep(const Hooks& hooks) {
    Spots found = bed_.usedSpots();
    if (!(reachOf(ground_, found) < reachOf(ground_, best_)) || !isSound(ground_, itemOf_, found))
        return false;
    const Spots before = std::exchange(best_, std::move(found));
    if (const auto other = hooks.found(best_, before)) {
        joint_ = joined(before, best_, *other);
        if (reachOf(ground_, *other) < reachOf(ground_, best_))
            best_ = *other;
    }
    return true;
}

/// Both changes at once: where both took the same place, some copies find another.
void Island::join(const Hooks& hooks) {
    bed_.put(*std::exchange(joint_, std::nullopt));
    if (separate(hooks, patience) == End::free)
        keep(hooks);
}

/// Two large parts, unlike where there are such, change places.
void Island::disturb() {
    const std::size_t count = itemOf_.size();
    if (count < 2)
        return;
    const auto large = [&] {
        std::size_t best = random_.below(count);
        for (int i = 0; i < 2; ++i)
            if (const std::size_t other = random_.below(count);
                bed_.itemOf(other).shapes.front().area > bed_.itemOf(best).shapes.front().area)
                best = other;
        return best;
    };
    const std::size_t a = large();
    std::size_t b = large();
    for (int i = 0; i < 10 && (b == a || bed_.itemOf(a).type == bed_.itemOf(b).type); ++i)
        b = large();
    if (a == b)
        return;
    Spot first = bed_.spot(a), second = bed_.spot(b);
    std::swap(first.sheet, second.sheet);
    std::swap(first.pose.x, second.pose.x);
    std::swap(first.pose.y, second.pose.y);
    bed_.move(a, first);
    bed_.move(b, second);
}

void Island::run(const Hooks& hooks, const std::function<double()>& share) {
    if (itemOf_.empty())
        return;
    while (!hooks.isOver() && !hooks.isPause()) {
        ++moves_; // so that attempts without any come to an end as well
        bed_.keepTo(ground_.room.least.x, ground_.room.most.x);
        if (joint_) {
            join(hooks);
            continue;
        }
        if (const Spots* better = hooks.better(reachOf(ground_, best_)))
            best_ = *better;
        const bool isLate = share() > lateShare;
        const double step =
            isLate ? std::min(step_, 0.002 * std::max(0.02, (1 - share()) / (1 - lateShare))) : step_;
        if (!shorten(step, hooks.belt()) && !pullOut())
            return;
        End end = separate(hooks, isLate ? latePatience : patience);
        const int disturbances = isLate ? 0 : int(insistence_ - 1);
        for (int tries = 0; end == End::stalled && tries < disturbances; ++tries) {
            disturb();
            end = separate(hooks, patience);
        }
        if (end == End::over)
            return;
        if (end == End::free && keep(hooks)) {
            insistence_ = leastInsistence_;
            step_ = sweeps_ < 15   ? std::min(mostStep, step_ * 1.4)
                    : sweeps_ > 60 ? std::max(leastStep_, step_ * 0.7)
                                   : step_;
        } else {
            insistence_ = std::min(mostInsistence, insistence_ * insistenceGrowth);
            step_ = std::max(leastStep_, step_ * 0.5);
        }
    }
}

} // namespace hasami::nesting
