#pragma once

#include "artwork/artwork.h"
#include "edge/find_edge.h"
#include "geometry/curve.h"
#include "geometry/region_operations.h"
#include "profile/profile.h"

#include <optional>
#include <string_view>
#include <vector>

namespace hasami {

/// A band printed around the artwork. Lengths in mm.
struct Border {
    double width = 0; ///< as seen once cut; 0: none
    Rgba colour{0, 0, 0, 255};
    bool onOpenings = true; ///< around openings too, or on the outside alone

    friend bool operator==(const Border&, const Border&) = default;
};

/// How a cut line follows from the edge.
struct LineRecipe {
    LineKind kind = LineKind::kiss;
    double offset = 2; ///< from the edge out, or from the border's rim; inward where negative
    OffsetCorners corners;

    friend bool operator==(const LineRecipe&, const LineRecipe&) = default;
};

/// The steps that turn artwork into a sticker. Lengths in mm.
struct Recipe {
    EdgeOptions edge;
    double bridge = 0; ///< parts of the artwork that come closer than this become one sticker
    Border border;
    std::vector<LineRecipe> lines{LineRecipe{}}; ///< at least one

    friend bool operator==(const Recipe&, const Recipe&) = default;
};

/// The recipe's start for lines found by colours: all of them, where they run.
void cutEveryDetail(Recipe& recipe);

/// How far beyond its width the border is printed: as much as the farthest inward line takes of it.
double hiddenBorder(const Recipe& recipe);

enum class LineRole { outer, opening };

/// "outer" or "opening".
std::string_view roleName(LineRole role);

/// A closed line for the knife, in mm of the design.
struct CutLine {
    LineKind kind = LineKind::kiss;
    LineRole role = LineRole::outer;
    Curve curve;

    friend bool operator==(const CutLine&, const CutLine&) = default;
};

/// The border as it is printed: areas by the even-odd rule. What lies under the artwork's rim fills its
/// half-covered pixels, what lies over it covers what the artwork shows beyond its edge.
struct PrintedBorder {
    Rgba colour;
    std::vector<Curve> under, over;
};

/// What a recipe makes of artwork, all in mm of the design (x right, y down).
struct Sticker {
    Box artwork;
    std::vector<Curve> edge; ///< the artwork's silhouette
    std::optional<PrintedBorder> border;
    std::vector<CutLine> lines; ///< by kind, in the order of the work
    Box footprint;              ///< around all that is printed or cut
    Box peeledBox;              ///< around what comes off the backing: the finished size

    /// What comes off the backing: the kiss lines, or all where there are none.
    std::vector<CutLine> peeled() const;

    bool isEmpty() const { return lines.empty(); }
    bool has(LineKind kind) const;
    std::size_t points() const;
};

/// The border and the cut lines from the artwork's edge: each moved out by its offset, joined where they run
/// together, fitted again within `tolerance`. With a border, lines are moved from its rim; an inward one
/// stays on the rim, and the border is printed wider by as much. Where a line has nothing left (an inward
/// offset that eats everything), the sticker is empty. Lines that the artwork brings stand in place of the
/// recipe's.
Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    double tolerance, const std::vector<CutLine>& brought = {});

} // namespace hasami
