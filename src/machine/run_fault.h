#pragma once

#include "machine/registration.h"

#include <string>

namespace hasami {

/// What is wrong with the sheet as its marks were read, and what to do: one sentence without a full stop.
/// Empty where nothing is.
std::string sentenceOf(const Registration& registration);

/// How a sheet lies that somebody has put in: what goes beyond this is rather a wrong mark, or marks in
/// another order, and is asked about before anything is cut. (Stretch is limited by isPlausible.)
struct LoadLimits {
    double turn = 4;   ///< degrees
    double shift = 60; ///< mm
};

/// Why the marks of a registration without a fault can hardly be right, as a sentence without a full stop.
/// Empty where they can.
std::string doubtOn(const Registration& registration, const LoadLimits& limits = {});

} // namespace hasami
