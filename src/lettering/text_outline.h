#pragma once

#include "geometry/curve.h"

#include <string>
#include <vector>

namespace hasami {

/// A line of text as areas.
struct TextOutline {
    std::vector<Curve> rims; ///< y down, the first letter's origin at 0, the baseline along x
    double width = 0;        ///< from there to where the next letter would stand
};

/// A text (UTF-8) in the letters of the window, Open Sans, as high as its capitals are to be, mm. Shaped by
/// HarfBuzz. Letters that the font lacks are left out.
TextOutline outlineOfText(const std::string& text, double capHeight);

} // namespace hasami
