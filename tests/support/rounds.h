#pragma once

namespace hasami::test {

/// How many rounds a test of random input takes: all of them, or a few where sanitizers make each ten to
/// thirty times as slow.
template <class Number>
constexpr Number rounds(Number all, Number withSanitizers) {
#ifdef HASAMI_SANITIZED
    static_cast<void>(all);
    return withSanitizers;
#else
    static_cast<void>(withSanitizers);
    return all;
#endif
}

} // namespace hasami::test
