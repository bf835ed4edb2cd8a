#include "nesting/search/merge.h"

#include <cstddef>
#include <limits>
#include <vector>

namespace hasami::nesting {

namespace {

/// Whether it was laid again: otherwise than moved along.
bool isLaidAnew(const Spot& before, const Spot& now) {
    return before.sheet != now.sheet || before.pose.y != now.pose.y ||
           before.pose.rotation != now.pose.rotation || before.pose.isMirrored != now.pose.isMirrored;
}

double apart(const Spot& a, const Spot& b) {
    return a.sheet == b.sheet ? distance({a.pose.x, a.pose.y}, {b.pose.x, b.pose.y})
                              : std::numeric_limits<double>::infinity();
}

/// How far one of two changes moved along what lies around a place in the layout that the other gave.
class Along {
public:
    Along(const Spots& before, const Spots& now, const Spots& places)
        : before_(before), now_(now), places_(places) {
        for (std::size_t i = 0; i < before.at.size(); ++i)
            if (!isLaidAnew(before.at[i], now.at[i]) && !isLaidAnew(before.at[i], places.at[i]))
                kept_.push_back(i);
    }

    /// Around where a copy lies that the other one laid again: not far from where it was it moves along as it
    /// would have there.
    double around(std::size_t copy) const {
        const Spot& spot = places_.at[copy];
        std::optional<std::size_t> like;
        double nearest = std::numeric_limits<double>::infinity();
        if (!isLaidAnew(before_.at[copy], now_.at[copy])) {
            like = copy;
            nearest = apart(before_.at[copy], spot);
        }
        for (const std::size_t other : kept_)
            if (const double away = apart(places_.at[other], spot); away < nearest) {
                nearest = away;
                like = other;
            }
        return like ? now_.at[*like].pose.x - before_.at[*like].pose.x : 0;
    }

private:
    const Spots &before_, &now_, &places_;
    std::vector<std::size_t> kept_; // that neither laid again
};

} // namespace

std::optional<Spots> joined(const Spots& before, const Spots& own, const Spots& other) {
    if (own.sheets != before.sheets || other.sheets != before.sheets)
        return {};
    const Along byOwn(before, own, other), byOther(before, other, own);
    Spots both = other;
    both.length -= before.length - own.length;
    for (std::size_t i = 0; i < before.at.size(); ++i) {
        const Spot &was = before.at[i], &mine = own.at[i];
        Spot& spot = both.at[i];
        if (isLaidAnew(was, spot)) {
            spot.pose.x += byOwn.around(i);
        } else if (isLaidAnew(was, mine)) {
            spot = mine;
            spot.pose.x += byOther.around(i);
        } else {
            spot.pose.x += mine.pose.x - was.pose.x;
        }
    }
    return both;
}

} // namespace hasami::nesting
