#pragma once

namespace hasami::nesting {

/// A part of the medium's length, in shares of it.
struct Belt {
    double from = 0, to = 1;
};

/// Where searches side by side look for lines to shorten at, and for places: each in a belt of its own, so
/// that what they find seldom meets. From turn to turn the belts move on, so that none stays where they end.
Belt beltOf(int number, int belts, int turn);

} // namespace hasami::nesting
