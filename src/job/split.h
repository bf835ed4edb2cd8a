#pragma once

#include "job/job.h"

#include <string_view>
#include <vector>

namespace hasami {

/// Separate parts of artwork by their outlines: those closer to each other than a distance are one. Each is
/// given by its outer curves; in reading order, by rows and from the left. O(n log n) in the outlines'
/// points.
std::vector<std::vector<Curve>> partsOf(const std::vector<Curve>& edge, double together);

/// Puts a design for each part in the place of a design; nothing where there is one part alone. Each shows
/// its share of the artwork: cropped, or shown inside its own outline where another part reaches into the
/// crop; what is vector art stays so. Own artwork with parts of its own becomes figures of their outlines.
/// Names are numbered, recipes and counts kept. Gives back their ids. Throws InputError where there would be
/// too many designs. REQUIRES: the design is in the job; `edge` is its own.
std::vector<std::string> splitDesign(Job& job, std::string_view id, const std::vector<Curve>& edge,
                                     double together);

/// Lays the artwork of other designs beside that of a design, which keeps its recipe, and removes them.
/// Throws InputError where there would be too many items. REQUIRES: all are in the job, `id` is not among the
/// others.
void gatherDesigns(Job& job, std::string_view id, const std::vector<std::string>& others);

} // namespace hasami
