#pragma once

#include "artwork/paint_list.h"

#include <poppler/GfxState.h>
#include <string>

namespace hasami {

Rgba colourOf(const GfxRGB& rgb);

/// The name of the one spot colour that a space is of; empty where it is none.
std::string spotName(GfxColorSpace* space);

/// What the colours of a page are made of, for those who want to stay with it.
struct SeenSpaces {
    bool grey = false;   ///< without a profile
    bool inks = false;   ///< CMYK, spot colours
    bool other = false;  ///< red, green and blue
    bool device = false; ///< some have no ICC profile

    void add(GfxColorSpace* space);
};

} // namespace hasami
