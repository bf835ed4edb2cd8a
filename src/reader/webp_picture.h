#pragma once

#include "artwork/picture.h"

#include <span>

namespace hasami {

/// Reads a WebP file; of an animation, its first picture. Throws InputError without the file's name.
Picture readWebp(std::span<const std::byte> bytes);

} // namespace hasami
