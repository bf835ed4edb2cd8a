#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"

namespace hasami {

/// Reads a page (counted from 1) of a TIFF file: grey, RGB or CMYK, with coverage where it has some; CMYK of
/// 8 bits keeps its inks. Throws InputError.
Picture readTiff(const Asset& asset, int page);

} // namespace hasami
