#pragma once

#include "artwork/own_artwork.h"
#include "codes/code.h"

#include <optional>
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

/// How wide a module is in dots of a printer of that many dots an inch.
double dotsOfModule(const CodeArtwork& code, int resolution);

/// With fewer dots, one more or less of them spoils a module.
inline constexpr double fewestDotsOfModule = 4;

/// How wide the code has to be for that, rounded up to 0.1 mm, where it is not.
std::optional<double> widthForDots(const CodeArtwork& code, int resolution);

} // namespace hasami
