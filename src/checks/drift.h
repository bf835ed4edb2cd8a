#pragma once

#include "geometry/affine.h"
#include "geometry/rim_grid.h"
#include "sheet/sheet.h"
#include "sticker/sticker.h"

#include <array>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// How a sheet's cut lies off its print: everything that is cut is stretched and turned about `centre`, then
/// shifted. mm of the sheet.
struct CutDrift {
    Point shift;
    double turn = 0;                            ///< degrees, clockwise on screen
    double stretchAlong = 0, stretchAcross = 0; ///< parts of a length, along and across the feed

    friend bool operator==(const CutDrift&, const CutDrift&) = default;

    Affine about(Point centre) const;
};

/// What a cut that is off does to a sticker first.
enum class DriftFault {
    whiteShows, ///< the medium shows at the line, where the print reached it
    artworkCut, ///< artwork that had a margin is cut
};

/// How far a cut may be off in one direction.
struct DriftLimit {
    double reach = 0; ///< mm, up to SafeDrift::most
    DriftFault fault = DriftFault::whiteShows;
    Point spot;            ///< where the fault shows first, mm of the design
    std::size_t piece = 0; ///< of a sheet, on which it does
};

/// How far a cut may be off in every direction: a closed curve around what is safe.
struct SafeDrift {
    static constexpr std::size_t directions = 72; ///< clockwise on screen, from the right
    static constexpr double most = 5;             ///< mm: farther is not looked at

    std::array<DriftLimit, directions> limits;

    static Point direction(std::size_t number); ///< of length 1
    const DriftLimit& least() const;
    /// Between directions as a straight line from limit to limit.
    double reachTowards(Point shift) const;
    bool holds(Point shift) const { return length(shift) <= reachTowards(shift) * (1 + 1e-9); }
};

/// What of a sticker shows when its cut is off: places on its cut line that have ink under them, and the rims
/// of artwork that lies inside the line with a margin all round. Artwork that the line cuts is trimmed in any
/// case. Immutable; for any thread.
class DriftRims {
public:
    /// Throws Stopped.
    explicit DriftRims(const Sticker& sticker, const std::stop_token& stop = {});

    /// Lowers the limits of a sheet (or of the design alone, where `place` is none) to this piece's.
    /// `drift`: stretched and turned so before the shift, without a shift of its own. O(places near the
    /// limits), each a ray through few cells.
    void lower(SafeDrift& limits, const Affine& place, const Affine& drift, std::size_t piece) const;

    /// The first fault of a cut that lies so; nothing where it is safe.
    std::optional<DriftLimit> faultOf(const Affine& place, const Affine& drift) const;

private:
    struct Watched {
        Point place;
        double clearance = 0; ///< to the rim that it may not meet
    };
    struct Side {
        RimGrid rim;                  ///< moved out by `hair`
        std::vector<Watched> watched; ///< nearest first
        DriftFault fault;
        bool movesBack;                               ///< the rim moves, not the place
        std::optional<RimGrid> shown = {}, bare = {}; ///< what is peeled, and the line without ink under it
    };
    static bool isMeant(const Side& side, Point beyond);
    static void watch(Side& side, const std::vector<Point>& places, const std::stop_token& stop);
    static void lower(const Side& side, SafeDrift& limits, const Affine& inDesign, const Affine& fromSheet,
                      std::size_t piece);

    std::vector<Side> sides_;
};

/// How far the cut of one sticker may be off by a shift alone.
SafeDrift safeDrift(const DriftRims& rims);

/// The same for all pieces of a sheet, whose cut is turned and stretched about the middle of the work first.
/// `rims`: by design. Throws Stopped.
SafeDrift safeDrift(const Sheet& sheet, const std::map<std::string, std::shared_ptr<const DriftRims>>& rims,
                    const CutDrift& drift, const std::stop_token& stop = {});

} // namespace hasami
