#pragma once

namespace hasami {

/// What work costs beside the medium, in the currency of the medium's price. 0: not counted.
struct Prices {
    double ink = 0;     ///< of a square metre that is printed
    double machine = 0; ///< of an hour of the cutter
    double wage = 0;    ///< of an hour of weeding
    double margin = 0;  ///< percent on top of the costs

    double weedPiece = 4;  ///< seconds to weed a sticker, however small
    double weedMetre = 15; ///< seconds more for each metre of its cut lines

    friend bool operator==(const Prices&, const Prices&) = default;
};

} // namespace hasami
