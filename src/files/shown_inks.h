#pragma once

#include "artwork/picture.h"

#include <span>

namespace hasami {

/// Shows a CMYK picture for the eye as its ICC profile says, relative colorimetric with black point
/// compensation. What is printed of it stays. Nothing changes where the profile is none of CMYK. REQUIRES:
/// the picture has its inks.
void showInksBy(Picture& picture, std::span<const std::byte> profile);

} // namespace hasami
