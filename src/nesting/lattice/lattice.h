#pragma once

#include "nesting/layout/layout.h"

#include <cstdint>
#include <functional>

namespace hasami::nesting {

/// Layouts of parts with many copies as rows of a pattern that repeats: all turned alike, or each second row
/// by half a turn; rows across the medium or along it, each moved along by as much as lets it come closest.
/// The patterns that take the least length of this very medium for these very copies are made better step
/// by step. One type after the other along the medium; parts with few copies follow in rows. On a roll, then,
/// the same with rows of several patterns (`bestCourses`), where that takes less.
///
/// None where there is no part with at least 8 copies, something is blocked, or it is over.
void findLattices(const Ground& ground, const Start& rows, std::uint64_t seed,
                  const std::function<bool()>& isOver, const std::function<void(const Start&)>& offer);

} // namespace hasami::nesting
