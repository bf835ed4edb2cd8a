#pragma once

#include "artwork/own_artwork.h"
#include "codes/code.h"

#include <vector>

namespace hasami {

/// A code as it is printed, in mm from the top left of its quiet zone.
struct CodeOutline {
    std::vector<Curve> ink; ///< modules or bars, exact; and the letters below
    double width = 0, height = 0;
    double module = 0; ///< how wide one is
};

/// Throws InputError where the code can't hold the text.
CodeOutline codeOutline(const CodeArtwork& code);

} // namespace hasami
