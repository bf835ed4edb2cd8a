#pragma once

#include <cstddef>
#include <span>

namespace hasami {

/// What a GIF file says of itself, read before anything is decoded.
struct GifHeader {
    int width = 0, height = 0;
    bool isWhole = false; ///< its first picture is there to its end
};

/// Walks the blocks up to the end of the first picture, after the GIF89a specification.
GifHeader readGifHeader(std::span<const std::byte> bytes);

} // namespace hasami
