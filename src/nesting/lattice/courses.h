#pragma once

#include "nesting/lattice/weaver.h"

#include <functional>
#include <span>

namespace hasami::nesting {

/// Lays copies of one item, by a shape that may be a little wider, on a roll in courses, as a mason does:
/// rows of parts turned alike and evenly apart, across the roll or along it, that need not be like each
/// other. What one pattern leaves over at the end, or at the side, another fills.
///
/// The courses are those of `patterns`, the best ones first, and close rows of parts so turned. An order in
/// which they take the least is found by dynamic programming over the copies laid, with distances between
/// courses from their rims; then each is moved up to those before as close as the shapes allow. Tells what
/// reaches less far than `bound`, or no poses; also where it is over before.
Yield bestCourses(const Item& item, const Shape& shape, const Ground& ground, std::size_t copies,
                  std::span<const Pattern> patterns, double bound, const std::function<bool()>& isOver);

} // namespace hasami::nesting
