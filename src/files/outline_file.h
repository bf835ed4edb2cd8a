#pragma once

#include "profile/profile.h"
#include "sticker/sticker.h"

#include <string>

namespace hasami {

/// One sticker's cut lines, in mm with the origin at the artwork's top left.

/// Shapes and units: docs/outline-json.md.
std::string outlineJson(const Sticker& sticker);

/// The page reaches around the artwork and the lines.
std::string outlineSvg(const Sticker& sticker, const Profile& profile);

/// A layer for each kind; y runs up from the bottom of that page.
std::string outlineDxf(const Sticker& sticker, const Profile& profile);

/// From the page's bottom left.
std::string outlineHpgl(const Sticker& sticker, const Profile& profile);

/// As the print file holds them, without the artwork. TrimBox: the artwork.
std::string outlinePdf(const Sticker& sticker, const Profile& profile);

} // namespace hasami
