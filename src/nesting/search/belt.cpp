#include "nesting/search/belt.h"

#include <cmath>

namespace hasami::nesting {

Belt beltOf(int number, int belts, int turn) {
    if (belts <= 1)
        return {};
    constexpr double movesOn = 0.37; // of a belt; no simple fraction, so that ends don't come again soon
    const double from = std::fmod((number % belts + turn * movesOn) / belts, 1.0);
    const double to = from + 1.0 / belts;
    if (to <= 1)
        return {from, to};
    // Over the end it goes on at the start: the longer piece of it.
    return to - 1 > 1 - from ? Belt{0, to - 1} : Belt{from, 1};
}

} // namespace hasami::nesting
