#pragma once

#include <cstddef>

// One build for all machines; the wide form gives the same numbers bit for bit.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__)
#define HASAMI_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define HASAMI_WIDE
#endif

namespace hasami::nesting {

/// Eight numbers that are reckoned with at once.
using Lanes = float __attribute__((vector_size(32)));
inline constexpr std::size_t lanes = 8;

} // namespace hasami::nesting
