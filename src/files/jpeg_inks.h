#pragma once

#include "artwork/picture.h"

#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// The inks of a CMYK JPEG picture, 8 bits each, as one sees it (turned as the file says): what Qt, which
/// turns them into red, green and blue, does not give. Nothing if they can't be decoded. By libjpeg.
std::optional<FineColours> readJpegInks(std::span<const std::byte> bytes, const JpegCoding& coding);

/// The ICC profile in a JPEG file; empty where it has none.
std::vector<std::byte> profileOfJpeg(std::span<const std::byte> bytes);

} // namespace hasami
