#pragma once

#include "artwork/artwork.h"
#include "edge/find_edge.h"
#include "geometry/curve.h"
#include "geometry/region_operations.h"

#include <string_view>
#include <vector>

namespace hasami {

/// The steps that turn artwork into a sticker. Lengths in mm.
struct Recipe {
    EdgeOptions edge;
    double kissOffset = 2; ///< from the edge out; inward where negative
    OffsetCorners corners; ///< of the kiss line
    double bridge = 0;     ///< parts of the artwork that come closer than this become one sticker

    friend bool operator==(const Recipe&, const Recipe&) = default;
};

enum class LineKind { kiss };
enum class LineRole { outer, opening };

/// "kiss"; "outer" or "opening".
std::string_view kindName(LineKind kind);
std::string_view roleName(LineRole role);

/// A closed line for the knife, in mm of the design.
struct CutLine {
    LineKind kind = LineKind::kiss;
    LineRole role = LineRole::outer;
    Curve curve;
};

/// What a recipe makes of artwork, all in mm of the design (x right, y down).
struct Sticker {
    Box artwork;
    std::vector<Curve> edge; ///< the artwork's silhouette
    std::vector<CutLine> lines;
    Box footprint; ///< around all that is printed or cut

    bool isEmpty() const { return lines.empty(); }
    std::size_t points() const;
};

/// The cut lines from the artwork's edge: moved out by the offset with round corners, joined where they run
/// together, fitted again within `tolerance`. Without a line left (an inward offset that eats everything),
/// the sticker is empty.
Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    double tolerance);

} // namespace hasami
