#pragma once

#include "artwork/paint_list.h"

#include <poppler/GfxState.h>
#include <string>

namespace hasami {

Rgba colourOf(const GfxRGB& rgb);

/// The name of the one spot colour that a space is of; empty where it is none.
std::string spotName(GfxColorSpace* space);

/// What a colour is mixed of, for those who want to stay with it.
enum class Inks { none, cmyk, other };

Inks inksOf(GfxColorSpace* space);

} // namespace hasami
