#pragma once

#include "lettering/font.h"

namespace hasami {

/// How much of the space that a few usual letters take in a line has ink, 0 to 1: heavy fonts have much.
double inkShare(const Font& font);

} // namespace hasami
