#pragma once

#include "artwork/own_artwork.h"
#include "artwork/paint_list.h"

namespace hasami {

/// What a drawing paints, as of a page of vector art: outlines exactly as drawn, whatever they are filled
/// with.
PaintList paintListOf(const Drawing& drawing);

} // namespace hasami
