#include "machine/print_map.h"

#include <algorithm>
#include <numbers>

namespace hasami {

PrintMap::PrintMap(const PrintError& error, const Box& medium)
    : from_(medium.least.x), length_(std::max(1.0, medium.width())), bow_(error.bow) {
    const Point centre = medium.centre();
    outer_ =
        Affine::translation(centre + error.shift) * Affine::rotation(error.turn * std::numbers::pi / 180) *
        Affine::scaling(error.scale * (1 + error.stretchAlong), error.scale * (1 + error.stretchAcross)) *
        Affine::translation(centre * -1);
    if (error.isUpsideDown)
        outer_ =
            Affine::translation(centre) * Affine::scaling(-1, -1) * Affine::translation(centre * -1) * outer_;
    inverse_ = inverse(outer_);
}

} // namespace hasami
