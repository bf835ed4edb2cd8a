#pragma once

#include "nesting/problem.h"

#include <cstdint>
#include <functional>
#include <optional>
#include <stop_token>

namespace hasami::nesting {

/// How long to go on, and on what.
struct Effort {
    double seconds = 10;
    std::optional<std::uint64_t> moves =
        {}; ///< of parts, in place of the seconds: then the result is the same on every run
    std::uint64_t seed = 1;
    int threads = 0; ///< 0: all cores
};

/// Called as a better layout is there, from any thread, one call at a time.
using Progress = std::function<void(const Nest&)>;

/// Lays the parts on as little of the medium as it can find in the time. Rows first, then better ones as they
/// come; each has passed an exact test. Stopping gives the best so far within some 50 ms. Parts that fit
/// nowhere are listed and the others placed.
///
/// Throws InputError, which names the part, where something can't be used.
Nest nest(const Problem& problem, const Effort& effort, const std::stop_token& stop = {},
          const Progress& progress = {});

} // namespace hasami::nesting
