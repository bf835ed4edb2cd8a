#pragma once

#include "nesting/layout/layout.h"

#include <span>

namespace hasami::nesting {

/// Whether no exact shape touches another or a blocked area, and all lie in the room. Tested on the exact
/// shapes alone, independent of the search.
bool isSound(const Ground& ground, std::span<const std::size_t> copies, const Spots& spots);

} // namespace hasami::nesting
