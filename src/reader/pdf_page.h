#pragma once

#include <string>

namespace hasami {

/// What a PDF file holds, what one of its pages (counted from 1) paints, and the page's picture:
///
///     hasami-page 1
///     pages COUNT
///     font HEX              one for each font of the page, its name in hexadecimal digits
///     paint BYTES           and that many bytes of a paint list
///     pixels WIDTH HEIGHT   and as many pixels of four bytes: red, green, blue, coverage
///
/// The page is taken for `scale` times smaller than it says. Throws InputError with a sentence that goes on
/// after the file's name.
std::string pageAnswer(const std::string& pdf, int page, double scale);

} // namespace hasami
