#pragma once

#include "artwork/picture.h"

namespace hasami {

/// The smallest part that holds all that a picture shows: where it is not transparent or, of an opaque one,
/// where it is not of the plain colour that its four corners share. Nothing if the corners differ, or nothing
/// stands out. One pass.
std::optional<PixelBox> filledPart(const Picture& picture);

} // namespace hasami
