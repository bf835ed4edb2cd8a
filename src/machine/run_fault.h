#pragma once

#include "machine/registration.h"
#include "profile/profile.h"

#include <string>

namespace hasami {

/// What is wrong with the sheet as its marks were read, and what to do: one sentence without a full stop.
/// Empty where nothing is.
std::string sentenceOf(const Registration& registration);

/// Why the marks of a registration without a fault can hardly be right, as a sentence without a full stop.
/// Empty where they can.
std::string doubtOn(const Registration& registration, const LoadLimits& limits);

} // namespace hasami
