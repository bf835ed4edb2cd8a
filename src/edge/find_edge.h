#pragma once

#include "artwork/artwork.h"
#include "geometry/curve.h"
#include "raster/grid.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

struct EdgeOptions {
    /// The coverage at which the line runs, in percent: low takes in faint pixels, high leaves them out.
    double level = 50;

    /// Loose bits smaller than this, in mm², leave no line.
    double leastSpeck = 1;

    /// Openings smaller than this, in mm², are closed even where openings are cut.
    double leastOpening = 1;

    /// Keep openings as lines of their own; otherwise only the outer lines are found.
    bool cutOpenings = false;

    /// How far the fitted line may lie from the level line, in mm. DEFAULT: a tenth of a pixel, held between
    /// 0.005 and 0.05 mm.
    std::optional<double> tolerance;

    friend bool operator==(const EdgeOptions&, const EdgeOptions&) = default;
};

/// The fit tolerance in mm for an item: the option, or from its pixels' size.
double fitTolerance(const Item& item, const EdgeOptions& options);

/// The edge of one picture by its transparency: the level line of the coverage, in mm of the design, as
/// fitted curves; outer ones run clockwise on screen, openings the other way. `coverage` is the item's
/// picture. Away from corners within some hundredths of a pixel of the drawn shape, plus the tolerance.
/// Throws Stopped. Nothing is found where no pixel reaches the level, or only specks do.
std::vector<Curve> findEdge(const Item& item, const Grid<std::uint8_t>& coverage, const EdgeOptions& options,
                            const std::stop_token& stop = {});

/// A coverage made coarse enough to find its level line anew while a slider moves.
struct EdgePreview {
    Grid<std::uint8_t> coverage;
    int factor = 1; ///< pixels of the picture a cell is wide
};

/// At most about a million cells. One pass over the coverage.
EdgePreview previewOf(const Grid<std::uint8_t>& coverage);

/// The level line of a preview as it is, in mm of the design: with the same loops as findEdge gives, but not
/// fitted, and within a cell of the preview instead of parts of a pixel.
std::vector<Loop> roughEdge(const Item& item, const EdgePreview& preview, const EdgeOptions& options);

/// Edges of several items as one: what overlaps is joined and fitted again. One edge alone stays as it is.
std::vector<Curve> joinEdges(const std::vector<std::shared_ptr<const std::vector<Curve>>>& edges,
                             double tolerance);

} // namespace hasami
