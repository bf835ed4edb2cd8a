#include "machine/print_map.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace hasami {

namespace {

constexpr int knotsAlong = 17; // of a distortion, along each side

} // namespace

Distortion::Distortion(double most, std::uint32_t seed, const Box& medium) : medium_(medium) {
    if (most <= 0)
        return;
    std::minstd_rand random(seed * 2654435761U + 1);
    std::uniform_real_distribution<double> share(0, 1);
    // Up to one and a half waves along each side: what feed rollers, stretch and a head's rail do.
    struct Wave {
        double along, across, phase, otherPhase;
    };
    const auto wave = [&] {
        return Wave{0.5 + share(random), 0.5 + share(random), share(random), share(random)};
    };
    const Wave x = wave(), y = wave();
    const auto height = [](const Wave& w, double u, double v) {
        constexpr double turn = 2 * std::numbers::pi;
        return std::sin(turn * (w.along * u + w.phase)) * std::cos(turn * (w.across * v + w.otherPhase));
    };
    for (int j = 0; j < knotsAlong; ++j)
        for (int i = 0; i < knotsAlong; ++i) {
            const double u = double(i) / (knotsAlong - 1), v = double(j) / (knotsAlong - 1);
            knots_.push_back(Point{height(x, u, v), height(y, u, v)} * (most / std::numbers::sqrt2));
        }
}

Point Distortion::at(Point sheet) const {
    if (knots_.empty())
        return {};
    const auto place = [](double value, double from, double size) {
        return std::clamp((value - from) / std::max(1.0, size), 0.0, 1.0) * (knotsAlong - 1);
    };
    const double x = place(sheet.x, medium_.least.x, medium_.width()),
                 y = place(sheet.y, medium_.least.y, medium_.height());
    const int i = std::min(int(x), knotsAlong - 2), j = std::min(int(y), knotsAlong - 2);
    const auto knot = [&](int a, int b) {
        return knots_[std::size_t(j + b) * knotsAlong + std::size_t(i + a)];
    };
    return between(between(knot(0, 0), knot(1, 0), x - i), between(knot(0, 1), knot(1, 1), x - i), y - j);
}

Point PrintMap::back(Point bed) const {
    const Point straight = inverse_(bed);
    Point sheet = bowed(straight, -1);
    for (int i = 0; isDistorted_ && i < 3;
         ++i) // it changes by less than a hundredth of its size within a millimetre
        sheet = bowed(straight - distortion_.at(sheet), -1);
    return sheet;
}

PrintMap::PrintMap(const PrintError& error, const Box& medium)
    : from_(medium.least.x), length_(std::max(1.0, medium.width())), bow_(error.bow),
      distortion_(error.distortion, error.seed, medium), isDistorted_(error.distortion > 0) {
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
