#pragma once

#include "nesting/layout/layout.h"

#include <optional>

namespace hasami::nesting {

/// One's own change to a layout carried over to another that was made of the same one, side by side: copies
/// that one of the two laid again lie as it laid them, moved along as the other moved what lies near there;
/// those that both did lie as the other laid them. Nobody has looked whether it is sound: where both changed
/// the same place, some copies lie upon each other. Nothing where the sheets are not as many.
std::optional<Spots> joined(const Spots& before, const Spots& own, const Spots& other);

} // namespace hasami::nesting
