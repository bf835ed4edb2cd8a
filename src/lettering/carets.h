#pragma once

#include "lettering/lay_lettering.h"

#include <optional>

namespace hasami {

/// A place between two letters where text can be typed: a stroke from the baseline up to the cap height, in
/// mm of the layout.
struct CaretPlace {
    std::size_t at = 0; ///< in the text, bytes
    int line = 0;
    Point base, top;
};

/// All of them, by their place in the text; at least one. Where several letters are drawn as one, they share
/// its width evenly.
std::vector<CaretPlace> caretPlaces(const std::string& text, const LaidLettering& laid);

/// The counter at a point of the layout, whether it is kept or not.
std::optional<Counter> counterAt(const Lettering& lettering, const FontSource& fonts, Point place);

} // namespace hasami
