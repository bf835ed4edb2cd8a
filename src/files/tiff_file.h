#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"

#include <stop_token>

namespace hasami {

/// Reads a page (counted from 1) of a TIFF file: grey, RGB or CMYK, with coverage where it has some; CMYK of
/// 8 bits keeps its inks. Throws InputError and Stopped.
Picture readTiff(const Asset& asset, int page, const std::stop_token& stop = {});

} // namespace hasami
