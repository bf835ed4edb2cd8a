#pragma once

#include "nesting/bed.h"

#include <optional>

namespace hasami::nesting {

/// Both of two changes to one layout, made side by side: copies that only one of them laid anew lie as it
/// laid them, moved along as the other moved them. Nothing where both laid the same copy anew. Nobody has
/// looked whether it is sound, nor how long it is.
std::optional<Spots> merged(const Spots& before, const Spots& one, const Spots& other);

} // namespace hasami::nesting
