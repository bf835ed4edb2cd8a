#pragma once

#include "nesting/problem.h"

#include <string>
#include <string_view>

namespace hasami::nesting {

/// Reads what `hasami-cli nest` is given (docs/nest.md). Throws InputError, which names the place.
Problem problemFromJson(std::string_view text);

/// What it answers with.
std::string nestToJson(const Problem& problem, const Nest& nest, double seconds);

} // namespace hasami::nesting
