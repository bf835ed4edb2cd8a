#pragma once

#include "geometry/affine.h"

#include <cstdint>
#include <vector>

namespace hasami {

/// How far a printer's places are off within a sheet, smoothly from place to place: no map of a few marks
/// takes all of it away. By seed, the same each time. mm of the sheet.
class Distortion {
public:
    Distortion() = default; ///< none
    /// At most `most` anywhere on the medium.
    Distortion(double most, std::uint32_t seed, const Box& medium);

    /// O(1): between the knots of a grid as a bilinear surface.
    Point at(Point sheet) const;

private:
    std::vector<Point> knots_;
    Box medium_;
};

/// How a print comes out of the printer and lies in the cutter. Lengths in mm.
struct PrintError {
    Point shift;                                ///< along the feed and across it
    double turn = 0;                            ///< degrees, clockwise on screen
    double stretchAlong = 0, stretchAcross = 0; ///< parts of a length
    double scale = 1;          ///< of the whole page, as printers that fit pages to their paper do
    double bow = 0;            ///< how far the middle of its length lies to the side of its ends
    bool isUpsideDown = false; ///< loaded with its trailing edge first
    double distortion = 0;     ///< how far places are off beyond all that, at most (Distortion)
    std::uint32_t seed = 1;    ///< of that

    friend bool operator==(const PrintError&, const PrintError&) = default;
};

/// Where on the bed what belongs at a place of the sheet was printed. The bed's axes are the sheet's, as it
/// would lie without an error; mm.
class PrintMap {
public:
    /// `medium`: the sheet's box, about whose middle it is turned, stretched and scaled.
    PrintMap(const PrintError& error, const Box& medium);

    Point operator()(Point sheet) const { return outer_(bowed(sheet, 1) + distortion_.at(sheet)); }
    /// The inverse, to a millionth of a millimetre.
    Point back(Point bed) const;

private:
    /// A parabola over the length.
    Point bowed(Point p, double sign) const {
        const double t = (p.x - from_) / length_;
        return {p.x, p.y + sign * bow_ * 4 * t * (1 - t)};
    }

    double from_, length_, bow_;
    Affine outer_, inverse_;
    Distortion distortion_;
    bool isDistorted_ = false;
};

} // namespace hasami
