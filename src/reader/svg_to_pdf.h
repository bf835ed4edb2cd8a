#pragma once

#include <span>
#include <string>

namespace hasami {

/// An SVG drawing as a PDF file of one page. Its natural size: its width and height, or else its viewBox at
/// 96 pixels an inch, or else what it draws. The page is larger than that, evenly, for filters and some masks
/// become pictures of one pixel a point.
struct EnlargedPdf {
    std::string pdf;
    double scale = 1; ///< how many times larger
};

/// Nothing outside the drawing is read. Throws InputError.
EnlargedPdf svgToPdf(std::span<const char> svg);

} // namespace hasami
