#include "nesting/merge.h"

namespace hasami::nesting {

namespace {

/// Whether it lies anew: otherwise than moved along.
bool isLaidAnew(const Spot& before, const Spot& now) {
    return before.sheet != now.sheet || before.pose.y != now.pose.y ||
           before.pose.rotation != now.pose.rotation || before.pose.isMirrored != now.pose.isMirrored;
}

} // namespace

std::optional<Spots> merged(const Spots& before, const Spots& one, const Spots& other) {
    if (one.sheets != before.sheets || other.sheets != before.sheets)
        return {};
    Spots both = one;
    for (std::size_t i = 0; i < before.at.size(); ++i) {
        const Spot &was = before.at[i], &first = one.at[i], &second = other.at[i];
        if (!isLaidAnew(was, second)) {
            both.at[i].pose.x += second.pose.x - was.pose.x;
        } else if (!isLaidAnew(was, first)) {
            both.at[i] = second;
            both.at[i].pose.x += first.pose.x - was.pose.x;
        } else {
            return {};
        }
    }
    return both;
}

} // namespace hasami::nesting
