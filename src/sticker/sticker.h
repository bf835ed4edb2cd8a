#pragma once

#include "artwork/artwork.h"
#include "edge/find_edge.h"
#include "geometry/curve.h"
#include "geometry/region_operations.h"
#include "profile/profile.h"
#include "sticker/remark.h"
#include "sticker/tabs.h"

#include <algorithm>
#include <array>
#include <limits>
#include <optional>
#include <stop_token>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// A band printed around the artwork. Lengths in mm.
struct Border {
    double width = 0; ///< as seen once cut; 0: none
    PaintColour colour = blackInk();
    bool onOpenings = true; ///< around openings too, or on the outside alone

    friend bool operator==(const Border&, const Border&) = default;
};

/// What a cut line runs along.
enum class LineCourse {
    edge,  ///< the edge, or the border's rim, moved by the offset
    shape, ///< a plain shape around the artwork's edge
    fold,  ///< straight across the sticker, open at both ends
    drawn, ///< as it was drawn, open at both ends: a slit
};

/// A small ear on a line, to peel from. Lengths in mm.
struct LiftTab {
    double size = 0; ///< how wide it is; 0: none
    double at = 45;  ///< where it stands, in degrees clockwise on screen from the right

    friend bool operator==(const LiftTab&, const LiftTab&) = default;
};

/// How far each side of a plain shape's box is drawn out beyond its margin, mm.
struct Stretch {
    double left = 0, top = 0, right = 0, bottom = 0;

    friend bool operator==(const Stretch&, const Stretch&) = default;
};

/// A straight fold through the sticker.
struct Fold {
    bool isAcross = false; ///< from side to side; else from top to bottom
    double at = 50;        ///< percent of the way through the sticker

    friend bool operator==(const Fold&, const Fold&) = default;
};

/// An open line that was drawn by hand, as fractions of an artwork's longer side from its top left, in the
/// item's own frame: moving, turning and sizing the artwork takes it along.
struct DrawnCourse {
    std::vector<Point> points = {}; ///< ends and corners
    int item = 0;                   ///< of the artwork, counted from behind

    bool isThere() const { return points.size() > 1; }
    friend bool operator==(const DrawnCourse&, const DrawnCourse&) = default;
};

/// How a cut line follows from the edge.
struct LineRecipe {
    LineKind kind = LineKind::kiss;
    double offset = 2; ///< from the edge out, or from the border's rim; inward where negative
    OffsetCorners corners;
    bool isCut = true; ///< else it is kept, and left out of everything
    LineCourse course = LineCourse::edge;
    PlainShape shape = {PlainShapeKind::rounded, 3, 3};
    Stretch stretch = {};
    Fold fold = {};
    DrawnCourse drawn = {};
    LiftTab liftTab = {};
    TabRule tabs = {}; ///< of perforated lines

    friend bool operator==(const LineRecipe&, const LineRecipe&) = default;
};

/// Where bleed of the artwork's own colours takes them from.
enum class BleedSource {
    edge,    ///< the artwork's edge
    cutLine, ///< the line that is peeled: all outside of it is printed over
};

/// Ink past the cut line, so that a cut that is a little off shows no white.
struct BleedRecipe {
    double amount = 1;                      ///< mm past the line; 0: none
    std::optional<PaintColour> colour = {}; ///< one colour; none: the artwork's own
    bool trims = true;                      ///< artwork that reaches farther is left out there
    BleedSource source = BleedSource::edge;

    friend bool operator==(const BleedRecipe&, const BleedRecipe&) = default;
};

/// Where a special ink is printed.
enum class InkArea {
    silhouette, ///< all that the artwork and its border cover
    notWhite,   ///< all of it that is not white
    colours,    ///< what has one of some colours
    coverage,   ///< as dense as the artwork covers, pixel by pixel
    brought,    ///< what the artwork brings under the ink's name: a spot colour, a channel, a layer
};

/// A special ink on a layer of its own.
struct InkLayer {
    InkKind ink = InkKind::white;
    InkArea area = InkArea::silhouette;
    double choke = 0.2;             ///< mm inside the rim of the print, so that none of it shows beside it
    double threshold = 5;           ///< of notWhite: how far from white a colour is, percent, to count
    std::vector<Rgba> colours = {}; ///< of colours

    friend bool operator==(const InkLayer&, const InkLayer&) = default;
};

/// What the work is for. It chose the recipe's start values, and does nothing else.
enum class StickerUse {
    stickers,   ///< on paper or vinyl
    labels,     ///< printed and cut in sheets or on rolls
    popOut,     ///< held by tabs until they are popped out of the backing
    lightCloth, ///< a transfer that is printed mirrored
    darkCloth,  ///< a transfer that is not
    window,     ///< read through glass
    magnet,
    wall, ///< large
};

inline constexpr std::array stickerUses{StickerUse::stickers,   StickerUse::labels,    StickerUse::popOut,
                                        StickerUse::lightCloth, StickerUse::darkCloth, StickerUse::window,
                                        StickerUse::magnet,     StickerUse::wall};

/// The steps that turn artwork into a sticker. Lengths in mm.
struct Recipe {
    EdgeOptions edge;
    double bridge = 0; ///< parts of the artwork that come closer than this become one sticker
    Border border;
    std::vector<LineRecipe> lines{LineRecipe{}}; ///< at least one
    BleedRecipe bleed;
    std::vector<InkLayer> inks = {}; ///< one of each ink at most
    StickerUse use = StickerUse::stickers;
    bool isMirrored = false; ///< artwork and lines are printed and cut left to right

    friend bool operator==(const Recipe&, const Recipe&) = default;
};

/// The recipe's start for lines found by colours: all of them, where they run.
void cutEveryDetail(Recipe& recipe);

/// The recipe with the start values of a use: bleed, inks, mirroring and kinds of line, for work of this size
/// (its longest side, mm). What the edge and the border are stays.
Recipe startingFor(StickerUse use, Recipe recipe, double longestSide);

/// How far beyond its width the border is printed: as much as the farthest inward line takes of it.
double hiddenBorder(const Recipe& recipe);

enum class LineRole { outer, opening };

/// "outer" or "opening".
std::string_view roleName(LineRole role);

/// Stands for the recipe's line where a file brings it.
inline constexpr std::size_t ofFile = std::numeric_limits<std::size_t>::max();

/// A line for the knife, in mm of the design.
struct CutLine {
    LineKind kind = LineKind::kiss;
    LineRole role = LineRole::outer;
    Curve curve;
    bool isOpen = false;        ///< its last piece does not lead back to its start
    std::vector<Tab> tabs = {}; ///< of a perforated one, in order
    std::size_t recipe = 0;     ///< which of the recipe's lines it follows from, or `ofFile`

    /// The whole line as it runs, without a thought of tabs.
    Subpath whole() const { return {curve.start, curve.segments, !isOpen}; }
    /// What the knife cuts: what the tabs leave.
    std::vector<Subpath> cut() const { return betweenTabs(curve, tabs, isOpen); }

    friend bool operator==(const CutLine&, const CutLine&) = default;
};

/// How much of the line is cut, mm: its length less its tabs.
double cutLength(const CutLine& line);

/// A line as files hold it: whole where the machine makes its tabs by itself, else what is cut of it.
Path strokesOf(const CutLine& line, const Profile& profile);

/// The border as it is printed: areas by the even-odd rule. What lies under the artwork's rim fills its
/// half-covered pixels, what lies over it covers what the artwork shows beyond its edge.
struct PrintedBorder {
    PaintColour colour;
    std::vector<Curve> under, over;
};

/// Where ink goes on past the artwork's edge, by the even-odd rule: up to the bleed beyond the cut line, and
/// a little way under (or over) the artwork's rim.
struct PrintedBleed {
    std::vector<Curve> area;
    bool isOver = false;            ///< on top of the artwork, which shows a backdrop beyond its edge
    std::vector<Curve> source = {}; ///< inside which its colours are taken; none: what is printed
};

/// What a recipe makes of artwork, all in mm of the design (x right, y down).
struct Sticker {
    Box artwork;
    std::vector<Curve> edge;    ///< the artwork's silhouette
    std::vector<Curve> printed; ///< where the artwork shows anything; outer ones and openings
    std::optional<PrintedBorder> border;
    std::optional<PrintedBleed> bleed; ///< where the cut line comes closer to the print's edge than the bleed
    std::vector<Curve> within;         ///< the artwork is printed within these alone; none: all of it
    std::vector<Remark> remarks;       ///< on its lines and its bleed
    std::vector<CutLine> lines;        ///< by kind, in the order of the work
    std::vector<CutLine> leftOut;      ///< lines of the recipe that are not cut
    Box footprint;                     ///< around all that is printed or cut
    Box peeledBox;                     ///< around what comes off the backing: the finished size
    double peeledArea = 0;             ///< of what comes off the backing, mm²

    /// What comes off the backing: the kiss lines, or where there are none those through both.
    std::vector<CutLine> peeled() const;

    bool isEmpty() const { return lines.empty(); }
    bool has(LineKind kind) const;
    std::vector<LineKind> kinds() const; ///< of its lines, in the order of the work
    std::size_t points() const;
};

/// What is to be known of the artwork beside its edge.
struct ArtworkFacts {
    double tolerance = 0.005;   ///< of the fit, mm: a tenth of a pixel
    bool showsBackdrop = false; ///< beyond its edge it shows what is not to be printed
    bool rimIsMixed = false;    ///< that shines through its rim, as in a picture
    /// Lines that it brings: closed ones stand in place of the recipe's, open ones beside them.
    std::vector<CutLine> brought{};
    std::optional<std::vector<Curve>>
        printed{}; ///< where it shows anything, where the edge does not show that

    bool bringsAllLines() const {
        return std::any_of(brought.begin(), brought.end(), [](const CutLine& line) { return !line.isOpen; });
    }
};

/// The border, the cut lines and the bleed from the artwork's edge: each line moved out by its offset, joined
/// where they run together, fitted again within the tolerance. With a border, lines are moved from its rim;
/// an inward one stays on the rim, and the border is printed wider by as much. Where a line has nothing left
/// (an inward offset that eats everything), the sticker is empty. Throws Stopped.
Sticker makeSticker(const Artwork& artwork, const std::vector<Curve>& edge, const Recipe& recipe,
                    const ArtworkFacts& facts, const std::stop_token& stop = {});

} // namespace hasami
