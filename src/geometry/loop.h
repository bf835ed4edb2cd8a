#pragma once

#include "geometry/point.h"

#include <span>
#include <vector>

namespace hasami {

/// A closed polygon; the first point is not repeated at the end.
using Loop = std::vector<Point>;

/// Shoelace area: positive for an outer loop (clockwise on screen, where y runs down), negative for an
/// opening.
double signedArea(std::span<const Point> loop);

/// Length all the way round.
double perimeter(std::span<const Point> loop);

Box bounds(std::span<const Point> points);

/// The loop with what leaves the box drawn along its sides: inside, it winds around each point as often as
/// before. Nothing where it lies outside altogether. O(n).
Loop cutTo(const Loop& loop, const Box& box);

/// Whether the point lies inside, by the even-odd rule.
bool contains(std::span<const Point> loop, Point p);

/// An area: outer loops (positive area) and openings (negative area). What the operations of
/// region_operations.h return is simple and free of crossings; what is given to them need not be.
struct Region {
    std::vector<Loop> loops;

    bool isEmpty() const { return loops.empty(); }
};

/// Area of the outer loops less the openings. REQUIRES: no crossings.
double area(const Region& region);

Box bounds(const Region& region);

/// Empty for an empty box.
Region regionOf(const Box& box);

} // namespace hasami
