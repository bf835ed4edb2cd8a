#pragma once

#include "nesting/layout/layout.h"
#include "nesting/layout/random.h"
#include "nesting/search/bed.h"
#include "nesting/search/belt.h"

#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

namespace hasami::nesting {

/// One search with a state and random numbers of its own: shortens the best layout by a bit, lets parts that
/// run into each other find other places until none does, and so on.
class Island {
public:
    struct Hooks {
        std::function<bool()> isOver;  ///< asked after each move
        std::function<bool()> isPause; ///< asked after each attempt
        /// A sound layout better than all of its own before, and the last of those, that it was made of.
        /// Tells the best of all till then where that is another.
        std::function<std::optional<Spots>(const Spots& now, const Spots& before)> found;
        std::function<const Spots*(double reach)> better; ///< another's layout that reaches less far, or none
        std::function<Belt()> belt;                       ///< where to look for shortenings by now
    };

    Island(const Ground& ground, const std::vector<std::size_t>& copies, const Spots& start,
           std::uint64_t seed, bool isDense);

    /// Until it is over; can be called again. `share` of the time has gone: late on it takes smaller steps.
    void run(const Hooks& hooks, const std::function<double()>& share);

    /// Goes on from another layout, and what it made of the one before since then it tries to make of that.
    void adopt(const Spots& spots, const Spots& before);
    const Spots& best() const { return best_; }
    std::uint64_t moves() const { return moves_; }

private:
    enum class End { free, stalled, over };

    bool shorten(double by, const Belt& belt);
    bool pullOut();
    End separate(const Hooks& hooks, int patience);
    End sweep(const Hooks& hooks);
    bool keep(const Hooks& hooks);
    void join(const Hooks& hooks);
    void disturb();

    const Ground& ground_;
    std::vector<std::size_t> itemOf_;
    Bed bed_;
    Random random_;
    Spots best_;
    std::optional<Spots> joint_; ///< its own change and another's, not sound yet
    double step_, leastStep_;    ///< by which it shortens, of the length
    double mostShift_;           ///< mm
    double pullShare_;           ///< how often it only lays those again that reach farthest
    /// How long an attempt may take, of its shortest: grows while none comes right.
    double leastInsistence_ = 1, insistence_ = 1;
    std::uint64_t moves_ = 0;
    std::size_t sweeps_ = 0; ///< of the last separation
};

} // namespace hasami::nesting
