#pragma once

#include "sticker/remark.h"
#include "sticker/sticker.h"

#include <stop_token>
#include <vector>

namespace hasami {

/// One kind of trouble with a sticker's outlines, seen in them alone.
struct LineFault {
    FindingCode code = {};
    std::size_t count = 1;
    Point place;       ///< of the first, mm of the design
    double amount = 0; ///< what the code is about, see below
};

/// What is looked for, in mm and mm².
struct LineFaultLimits {
    static constexpr double shortLine = 3; ///< a shorter one is hardly cut at all
    static constexpr double weeding = 1;   ///< narrower openings can't be taken hold of
    static constexpr double neck = 1;      ///< narrower ones tear
    static constexpr double partArea = 4;  ///< smaller parts hang on no neck
    static constexpr double tipTurn = 150; ///< degrees
    static constexpr double startBlade =
        0.25; ///< offset of a drag knife's tip, where the machine compensates
};

/// `crossing-line`: lines that cross themselves or each other. `short-line`: closed lines shorter than the
/// limit; the amount is the largest area inside one. `tight-corner`: a line turns back within twice the
/// blade's offset, which is the amount. `small-opening`: openings narrower than the limit; the amount is the
/// largest area of them in the artwork's edge. `thin-neck`: parts that hang together by less than the limit;
/// the amount is how wide the narrowest is. `several-parts`: what is peeled is that many pieces; the amount
/// is the widest gap that has to be bridged to make them one, 0 where they are too many to tell. `blade`: the
/// offset of the knife's tip; 0: not known. O(n log n) in the outlines' points. Throws Stopped.
std::vector<LineFault> lineFaults(const Sticker& sticker, double blade, const std::stop_token& stop = {});

} // namespace hasami
