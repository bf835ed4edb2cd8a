#pragma once

#include "machine/print_map.h"
#include "machine/program.h"
#include "machine/sheet_map.h"

#include <cstdint>

namespace hasami {

/// How far the simulated machines are off by themselves, as far as their profile knows, mm.
struct MachineError {
    double print = 0; ///< within a sheet, at most (Distortion)
    double cut = 0;   ///< of a line from where it was sent to, at most

    /// What a profile says; where it says nothing, what good machines have.
    static MachineError of(const Profile& profile);
};

/// How far off a line is cut, the same all along it, by seed: backlash, and how the head settles.
class RepeatError {
public:
    RepeatError(double most, std::uint32_t seed) : most_(most), seed_(seed) {}
    Point of(const Cut& cut) const;

private:
    double most_;
    std::uint32_t seed_;
};

/// How a sheet without marks lies by the origin that a hand has set on its print: up to half a millimetre and
/// 0.3 degrees off, by seed. `print`: how it really lies.
SheetMap setByHand(const PrintMap& print, const Box& medium, std::uint32_t seed);

} // namespace hasami
