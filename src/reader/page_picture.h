#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace hasami {

/// A page drawn on nothing: red, green, blue, coverage for each pixel, row by row, colours not multiplied.
struct PagePicture {
    int width = 0, height = 0;
    std::vector<std::uint8_t> pixels;
};

/// REQUIRES: a PDF file that was opened before, a page that it has (counted from 1), width and height above
/// 0.
PagePicture drawPage(std::span<const char> pdf, int page, int width, int height);

} // namespace hasami
