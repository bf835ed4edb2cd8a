#pragma once

#include "machine/registration.h"

#include <string>

namespace hasami {

/// What is wrong with the sheet as its marks were read, and what to do: one sentence without a full stop.
/// Empty where nothing is.
std::string sentenceOf(const Registration& registration);

} // namespace hasami
