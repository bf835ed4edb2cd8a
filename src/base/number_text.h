#pragma once

#include <string>

namespace hasami {

/// A number as text with a point, whatever the locale: at most `decimals` digits behind it, no trailing
/// zeros, no "-0". REQUIRES: a finite value and 0 <= decimals <= 17.
std::string numberText(double value, int decimals);

} // namespace hasami
