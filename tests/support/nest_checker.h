#pragma once

#include "nesting/problem.h"

#include <string>

namespace hasami::test {

/// What is wrong with a layout, found by brute force, every side against every other: it shares nothing with
/// the search but points and segments. Empty where nothing is.
std::string faultOf(const nesting::Problem& problem, const nesting::Nest& nest);

} // namespace hasami::test
