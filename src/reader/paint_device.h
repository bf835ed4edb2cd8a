#pragma once

#include "artwork/paint_list.h"

#include <string>

class PDFDoc;

namespace hasami {

/// Everything that a page paints, without annotations. `page` counts from 1; it is taken for `scale`
/// times smaller than it says. Throws InputError where it paints
/// too much.
PaintList paintOf(PDFDoc& document, int page, double scale);

} // namespace hasami
