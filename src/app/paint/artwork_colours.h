#pragma once

#include "app/document/document.h"

#include <optional>
#include <vector>

namespace hasami {

/// Colours that suit a design: those that its artwork shows most, then black and white. Fewer while its
/// pictures are being read.
std::vector<Rgba> coloursThatSuit(Document& document, const Design& design);

/// Colours to choose from for what is printed: black ink and white, those chosen in the job so far, then
/// those that suit the design. Seven at most.
std::vector<PaintColour> coloursToTake(Document& document, const Design& design);

/// What the artwork shows at a place of the design, in mm; nothing where it is transparent or not there.
std::optional<Rgba> colourAt(Document& document, const Design& design, Point place);

/// Gives the selected design's border the colour, as one undo step.
void setBorderColour(Document& document, const PaintColour& colour);

} // namespace hasami
