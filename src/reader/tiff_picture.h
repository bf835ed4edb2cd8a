#pragma once

#include "artwork/picture.h"

#include <span>

namespace hasami {

/// Reads a page (counted from 1) of a TIFF file: grey, RGB or CMYK, with coverage where it has some; CMYK of
/// 8 bits keeps its inks. Throws InputError without the file's name.
Picture readTiff(std::span<const std::byte> bytes, int page);

} // namespace hasami
