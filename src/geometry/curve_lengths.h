#pragma once

#include "geometry/curve_place.h"

#include <array>
#include <vector>

namespace hasami {

/// Lengths along a closed curve, in mm from its start; to some 1e-4 of a segment's length. Keeps a reference.
class CurveLengths {
public:
    /// REQUIRES: at least one segment; the curve outlives this. O(segments).
    explicit CurveLengths(const Curve& curve);

    double whole() const { return before_.back(); }

    /// The place at a length from the start, which wraps around. O(log segments).
    CurvePlace placeAt(double length) const;

    /// The length from the start to a place.
    double lengthAt(const CurvePlace& place) const;

private:
    static constexpr std::size_t steps = 32; // a segment

    const Curve& curve_;
    std::vector<double> before_;                     // each segment, and in all
    std::vector<std::array<double, steps>> lengths_; // of the chords up to each step of a bent segment
};

} // namespace hasami
