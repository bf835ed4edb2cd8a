#pragma once

#include "geometry/affine.h"

#include <span>
#include <vector>

namespace hasami {

/// From where a sheet's plan has a place to where it was printed on the bed, mm: what the cutter makes of the
/// marks that it found.
class SheetMap {
public:
    Point operator()(Point sheet) const;

    /// A turn of the sheet's x axis here, radians.
    double turnAt(Point sheet) const;

    /// Affine, with a twist: q = affine(p) + twist (p.x - centre.x) (p.y - centre.y).
    struct Part {
        Affine affine;
        Point twist, centre;
    };
    /// One part, or parts one after the other along the feed, between `breaks`. REQUIRES: one part more than
    /// breaks.
    SheetMap() : parts_(1) {}
    SheetMap(std::vector<Part> parts, std::vector<double> breaks)
        : parts_(std::move(parts)), breaks_(std::move(breaks)) {}

private:
    std::vector<Part> parts_;
    std::vector<double> breaks_;
};

/// A place of the sheet and where it was found on the bed.
struct PointPair {
    Point from, to;
};

/// By least squares, with a twist or without. REQUIRES: three pairs, with a twist four.
SheetMap::Part fitted(std::span<const PointPair> pairs, bool withTwist);

/// A turn, a scale and a shift. REQUIRES: two pairs at different places.
Affine similarityOf(const PointPair& a, const PointPair& b);

Point mapped(const SheetMap::Part& part, Point p);

/// Root mean square of the pairs' distances off it.
double residualOf(const SheetMap::Part& part, std::span<const PointPair> pairs);

/// How an affine map changes lengths along its axes, and how far these are off a right angle (radians).
struct MapShape {
    double along, across, shear;

    static constexpr double mostScale = 0.011; // of a length: media stretch by less than a percent
    static constexpr double mostShear = 0.004;
};
MapShape shapeOf(const Affine& map);

/// Whether a print can lie so: hardly stretched or sheared, and not mirrored.
bool isPlausible(const Affine& map);

/// Whether three places span a triangle that says something about both axes.
bool spanPlane(Point a, Point b, Point c);

Point middleOf(std::span<const PointPair> pairs);

/// The `count` pairs nearest to a place, or all where there are fewer.
std::vector<PointPair> nearestTo(Point place, std::vector<PointPair> pairs, std::size_t count);

} // namespace hasami
