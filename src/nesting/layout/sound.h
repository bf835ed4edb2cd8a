#pragma once

#include "nesting/layout/layout.h"

#include <span>

namespace hasami::nesting {

/// Whether no exact shape touches another or what is blocked, and all lie in the room: told by themselves
/// alone, whatever a search believes.
bool isSound(const Ground& ground, std::span<const std::size_t> copies, const Spots& spots);

} // namespace hasami::nesting
