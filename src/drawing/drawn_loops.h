#pragma once

#include "artwork/artwork.h"
#include "edge/find_edge.h"

#include <stop_token>

namespace hasami {

/// All loops around what a drawing paints, as findLoops gives them. Outlines that nothing overlaps are the
/// drawing's own curves; others are joined and fitted within the tolerance. Throws Stopped. REQUIRES: the
/// item is own artwork, upright.
std::vector<EdgeLoop> findDrawnLoops(const Item& item, const EdgeOptions& options,
                                     const std::stop_token& stop = {});

} // namespace hasami
