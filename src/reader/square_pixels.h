#pragma once

#include "artwork/picture.h"

namespace hasami {

/// Stretches a picture whose pixels are not as wide as high, as fax machines and printers write them, to
/// square ones as fine as its finer direction. Resolutions in pixels a millimetre; 0: not known, and nothing
/// is done.
void squarePixels(Picture& picture, double across, double down);

} // namespace hasami
