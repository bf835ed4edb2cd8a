#pragma once

#include "nesting/nest.h"

namespace hasami {

inline constexpr double mostSearchSeconds = 7 * 24 * 3600;

/// Nests; an interrupt ends the search and gives the best so far. Progress goes to standard error when it is
/// a terminal. Throws InputError.
nesting::Nest nestWatched(const nesting::Problem& problem, const nesting::Effort& effort);

} // namespace hasami
