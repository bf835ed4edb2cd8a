#pragma once

// One build for all machines; the wide form gives the same numbers bit for bit.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__)
#define HASAMI_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define HASAMI_WIDE
#endif
