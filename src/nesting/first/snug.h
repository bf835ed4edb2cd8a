#pragma once

#include "nesting/layout/layout.h"

#include <cstdint>
#include <functional>

namespace hasami::nesting {

/// A layout of parts that fit each other side by side, as the pieces of a cut-up sheet do: one after the
/// other into the foremost corner that is still free, sides along its sides, where most of the outline lies
/// along what is there already. Many partial layouts are followed at once, more each time, up to `mostWidth`,
/// until it is over or the parts turn out not to be of that kind; each layout found is offered. Only without
/// a gap, for up to 200 copies, on a roll or a single sheet; no mirroring.
void findSnugStarts(const Ground& ground, const Start& rows, std::uint64_t seed, std::size_t mostWidth,
                    const std::function<bool()>& isOver, const std::function<void(const Start&)>& offer);

} // namespace hasami::nesting
