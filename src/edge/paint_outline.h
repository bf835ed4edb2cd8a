#pragma once

#include "artwork/artwork.h"
#include "artwork/vector_page.h"
#include "edge/find_edge.h"
#include "geometry/region_operations.h"

#include <stop_token>
#include <vector>

namespace hasami {

/// How many of the page's first items are backdrop: plain paint, in one colour, over the whole page or all
/// but a point (1/72 inch) of it. None if there is nothing else, or if what else there is reaches three edges
/// of the page or all four, as a flag's stripes do.
std::size_t backdropItems(const PaintList& paint);

/// The area of the design that the page paints with more than 5 % opacity, each thing as it is clipped,
/// strokes with their true width; within 0.003 mm. What shows less than its shape (soft masks, pictures of
/// their own transparency) is taken from `picture`, the page as drawn. Throws Stopped.
Region paintedArea(const Item& item, const PaintList& paint, const Picture& picture, bool withBackdrop,
                   const std::stop_token& stop = {});

/// All loops of the painted area, in mm of the design. As findLoops.
std::vector<EdgeLoop> findPaintLoops(const Item& item, const PaintList& paint, const Picture& picture,
                                     const EdgeOptions& options, const std::stop_token& stop = {});

/// Whether the areas of each colour follow exactly from what is painted: plain paint alone, in not too many
/// changes of colour.
bool hasPlainColours(const PaintList& paint);

/// The loops around every area of one colour that is seen, exactly as painted: what lies in front takes from
/// what lies behind, the backdrop is left out. The borders of neighbours are the same within the tolerance.
/// As findLoops, with the loops' colours. O(changes of colour that meet). REQUIRES: hasPlainColours.
std::vector<EdgeLoop> findPaintColourLoops(const Item& item, const PaintList& paint, const Picture& picture,
                                           const EdgeOptions& options, const std::stop_token& stop = {});

/// From mm of the page to mm of the design.
Affine fromPage(const Item& item, const PaintList& paint);

} // namespace hasami
