#pragma once

#include "artwork/own_artwork.h"

#include <string>

namespace hasami {

/// The same for drawings that are painted alike, and by XXH3's 128 bits for no others.
std::string drawingId(const Drawing& drawing);

} // namespace hasami
