#pragma once

#include "profile/profile.h"

namespace hasami {

/// How far a print, and a cut off that print, are expected to be off at most, mm.
struct ExpectedError {
    static constexpr double assumed = 0.3; ///< of each where the profile does not say it

    double print = assumed, cut = assumed;
    bool isAssumed = true; ///< the profile does not say both

    double together() const { return print + cut; }

    static ExpectedError of(const Profile& profile) {
        const double print = profile.printer.error, cut = profile.cutter.error; // 0: not said
        return {print > 0 ? print : assumed, cut > 0 ? cut : assumed, print == 0 || cut == 0};
    }
};

} // namespace hasami
