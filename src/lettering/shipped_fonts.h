#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace hasami {

/// A font that is part of the program (data/fonts, where the licences are).
struct ShippedFont {
    const char* family;
    const char* style;
    const char* file; ///< its name
    std::span<const std::byte> bytes;
    bool isForWindow = false; ///< the window's own, and not meant for lettering
};

/// All of them; the first is the window's own, which text on sheets is set in.
const std::vector<ShippedFont>& shippedFonts();

} // namespace hasami
