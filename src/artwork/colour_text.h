#pragma once

#include "artwork/picture.h"

#include <optional>
#include <string>
#include <string_view>

namespace hasami {

/// "#RRGGBB", as sRGB.
std::string colourText(Rgba colour);

/// Reads what colourText gives, in either case, opaque; nothing if it is something else.
std::optional<Rgba> parseColour(std::string_view text);

} // namespace hasami
