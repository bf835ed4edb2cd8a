#pragma once

#include "artwork/artwork.h"
#include "edge/choose_loops.h"
#include "edge/colour_regions.h"
#include "edge/coverage.h"
#include "geometry/curve.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// The fit tolerance in mm for an item: the option, or from its pixels' size.
double fitTolerance(const Item& item, const EdgeOptions& options);

/// A closed line that was found.
struct EdgeLoop {
    LoopFacts facts;
    Curve curve;
    std::vector<bool> byHand;   ///< for each segment; empty where nothing was changed by hand
    std::optional<Rgba> colour; ///< of the area that it goes around, where lines were found by colours
};

/// All loops of one picture: the level line of its coverage, in mm of the design, as fitted curves; outer
/// ones run clockwise on screen, openings the other way. Away from corners within some hundredths of a pixel
/// of the drawn shape, plus the tolerance. Throws Stopped. Nothing is found where no pixel reaches the level,
/// or only specks do. The largest first.
std::vector<EdgeLoop> findLoops(const Item& item, const Coverage& coverage, const EdgeOptions& options,
                                const std::stop_token& stop = {});

/// The loops around every area of one colour. Neighbours share their border: the same pieces, run the other
/// way, so that no gap is left and nothing overlaps. Areas smaller than options.leastSpeck go to their
/// neighbours. `pixels` are the picture's.
std::vector<EdgeLoop> findColourLoops(const Item& item, const Grid<Rgba>& pixels,
                                      const ColourRegions& regions, const EdgeOptions& options,
                                      const std::stop_token& stop = {});

/// Those of the loops that become the edge, by choice and switches. What was done by hand may cross itself:
/// then what lies inside.
std::vector<Curve> edgeOf(std::span<const EdgeLoop> loops, const EdgeOptions& options, const Box& artwork);

/// Both in one.
std::vector<Curve> findEdge(const Item& item, const Coverage& coverage, const EdgeOptions& options,
                            const std::stop_token& stop = {});

/// A coverage made coarse enough to find its level line again while a slider moves.
struct EdgePreview {
    Grid<std::uint8_t> cells;
    int factor = 1;    ///< pixels of the picture a cell is wide
    double level = 50; ///< suggested, percent
    EdgeWay way = EdgeWay::transparency;
};

/// At most about a million cells. One pass over the coverage.
EdgePreview previewOf(const Coverage& coverage);

/// The plain shape around a box.
Curve shapeAround(const Box& box, const PlainShape& shape);

/// The same shape, given by its size.
PlainShape withOwnSize(const Box& box, const PlainShape& shape);

/// The level line of a preview as it is, in mm of the design: with the same loops as findEdge gives, but not
/// fitted, and within a cell of the preview instead of parts of a pixel. REQUIRES: the item is upright.
std::vector<Loop> roughEdge(const Item& item, const EdgePreview& preview, const EdgeOptions& options);

/// Edges of several items as one: what overlaps is joined and fitted again. One that no other comes near
/// stays as it is. Throws Stopped.
std::vector<Curve> joinEdges(std::vector<std::vector<Curve>> edges, double tolerance,
                             const std::stop_token& stop = {});

} // namespace hasami
