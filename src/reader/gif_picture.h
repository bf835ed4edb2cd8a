#pragma once

#include "artwork/picture.h"

#include <span>

namespace hasami {

/// Reads the first picture of a GIF file. Throws InputError without the file's name.
Picture readGif(std::span<const std::byte> bytes);

} // namespace hasami
