#pragma once

#include <cstdint>

namespace hasami {

/// A colour with straight (not premultiplied) coverage, 0 to 255 each.
struct Rgba {
    std::uint8_t red = 0, green = 0, blue = 0, coverage = 0;

    friend bool operator==(const Rgba&, const Rgba&) = default;
};

} // namespace hasami
