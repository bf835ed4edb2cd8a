#pragma once

#include "nesting/layout/layout.h"
#include "nesting/layout/random.h"

#include <functional>
#include <vector>

namespace hasami::nesting {

/// A repeating pattern. In its own frame rows run along y and follow each other along x.
struct Pattern {
    double turn = 0; ///< of the parts in that frame; in each second row half a turn more, if it is double
    bool isDouble = false;
    bool isLengthwise = false; ///< the frame is turned so that rows run along the medium
    double pitch = 0;          ///< between neighbours of a row
    double shift[2] = {0, 0};  ///< of the next row along itself, from even rows and from odd ones
    double step[2] = {0, 0};   ///< from row to row
    double origin = 0;         ///< of the first row along itself, from where it begins at the rim
};

struct Yield {
    double length = 1e300; ///< of the room that is used
    std::vector<Pose> poses;
};

/// Turns to look for close rows in, those that a part may have; any first few of many lie far apart. `whole`:
/// a full turn, or half of it where rows are looked at from both sides.
std::vector<double> turnsToTry(const Item& item, double whole);

/// One type's patterns on one medium.
class Weaver {
public:
    Weaver(const Shape& shape, const Ground& ground, std::size_t copies)
        : shape_(shape), across_(ground.room.height()), along_(ground.isRoll() ? 1e300 : ground.room.width()),
          copies_(copies) {}

    /// The least pitch of a row of parts so turned.
    double leastPitch(double turn) const;

    /// The best patterns for parts so turned, tried by pitch and shift.
    void gather(double turn, bool mayBeDouble, bool isLengthwise,
                std::vector<std::pair<double, Pattern>>& all, const std::function<bool()>& isOver) const;

    Yield yieldOf(const Pattern& pattern, bool wantsPoses) const;

    /// Whether no two parts of the pattern touch.
    bool isFree(const Pattern& pattern) const;

    /// Smaller steps, other shifts, pitches and turns, as long as that takes less.
    Pattern descend(Pattern pattern, bool turnsFreely, Random& random, int tries,
                    const std::function<bool()>& isOver) const;

private:
    void weave(Pattern pattern, std::vector<std::pair<double, Pattern>>& all) const;

    const Shape& shape_;
    double across_, along_;
    std::size_t copies_;
};

} // namespace hasami::nesting
