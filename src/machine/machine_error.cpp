#include "machine/machine_error.h"

#include <cmath>
#include <numbers>
#include <random>

namespace hasami {

namespace {

constexpr double usualPrint = 0.03, usualCut = 0.05; // mm

} // namespace

MachineError MachineError::of(const Profile& profile) {
    return {profile.printer.error > 0 ? profile.printer.error : usualPrint,
            profile.cutter.error > 0 ? profile.cutter.error : usualCut};
}

Point RepeatError::of(const Cut& cut) const {
    std::seed_seq seeds{seed_, std::uint32_t(cut.kind), std::uint32_t(cut.piece), std::uint32_t(cut.line)};
    std::array<std::uint32_t, 2> random{};
    seeds.generate(random.begin(), random.end());
    constexpr double all = 4294967296.0;
    const double angle = 2 * std::numbers::pi * random[0] / all;
    return Point{std::cos(angle), std::sin(angle)} *
           (most_ * std::sqrt(random[1] / all)); // evenly over a disc
}

SheetMap setByHand(const PrintMap& print, const Box& medium, std::uint32_t seed) {
    constexpr double off = 0.5, turned = 0.3; // mm, degrees
    std::minstd_rand random(seed * 40503U + 7);
    std::uniform_real_distribution<double> share(-1, 1);
    const Point corner = medium.least, side{medium.most.x, medium.least.y};
    const Point there = print(corner), along = print(side) - there;
    const double turn = std::atan2(along.y, along.x) + turned * share(random) * std::numbers::pi / 180;
    const double angle = std::numbers::pi * share(random);
    const Point hand = Point{std::cos(angle), std::sin(angle)} * (off * std::abs(share(random)));
    const Affine map =
        Affine::translation(there + hand) * Affine::rotation(turn) * Affine::translation(corner * -1);
    return SheetMap({{map, {}, {}}}, {});
}

} // namespace hasami
