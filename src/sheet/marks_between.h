#pragma once

#include "geometry/loop.h"
#include "sheet/closest.h"

#include <span>
#include <vector>

namespace hasami {

/// Where more marks stand between the pieces of a sheet.
struct MarkRoom {
    Box within;                  ///< their centres lie in it
    std::span<const Body> taken; ///< pieces, and what is kept free
    double clearance = 0;        ///< from a mark's centre to what is taken, mm
    double apart = 0;            ///< from centre to centre of two marks, mm
};

/// At most `count` places, from which with those of the marks that stand already a drift of the second order
/// (x, y, xy, x², y² in both axes) is measured best: the determinant of its normal equations is as large as
/// exchanging one place after another makes it. After V. V. Fedorov, "Theory of Optimal Experiments", 1972.
/// Fewer where there is no more room. O(points + cells of about a quarter of the clearance + count · places).
std::vector<Point> placesBetween(const MarkRoom& room, std::span<const Point> standing, int count);

/// How well that drift is measured from places, as the logarithm of that determinant with coordinates from -1
/// to 1 over a frame; for comparing places in one frame.
double conditioning(std::span<const Point> places, const Box& frame);

} // namespace hasami
