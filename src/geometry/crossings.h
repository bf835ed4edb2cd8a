#pragma once

#include "geometry/curve.h"

#include <cstddef>
#include <span>
#include <vector>

namespace hasami {

/// One piece of one of several curves.
struct PieceOfCurve {
    std::size_t curve = 0, segment = 0;

    friend bool operator==(const PieceOfCurve&, const PieceOfCurve&) = default;
};

/// Two pieces that meet elsewhere than where one goes on into the other or both end, or one that meets
/// itself.
struct Crossing {
    PieceOfCurve one, other;
};

/// Where curves, closed or open, cross or touch themselves or each other, exact to a nanometre: pieces are
/// halved until they are straight, or lie apart. About O(n log n) for n short pieces that mostly lie apart.
std::vector<Crossing> crossingsOf(std::span<const Curve> curves);

} // namespace hasami
