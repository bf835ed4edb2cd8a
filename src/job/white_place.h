#pragma once

#include "job/job.h"

#include <optional>

namespace hasami {

/// Whether the design's colours are seen through the medium that they are printed on.
inline bool isSeenThrough(const Design& design) {
    return design.recipe.isMirrored;
}

/// Whether the design has white ink that hides its colours where it lies on the wrong side of them.
bool hasWhite(const Design& design);

/// Whether white that lies there hides the colours of no such design.
constexpr bool suits(WhitePlace place, bool isSeenThrough) {
    return place == WhitePlace::between || (place == WhitePlace::over) == isSeenThrough;
}

/// Where white has to lie so that it hides no design's colours; nothing where no design has such white.
std::optional<WhitePlace> whitePlaceFor(const Job& job);

/// Moves white there, unless it suits as it lies.
void suitInkOrder(Job& job);

} // namespace hasami
