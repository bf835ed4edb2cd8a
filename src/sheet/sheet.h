#pragma once

#include "base/shared.h"
#include "geometry/affine.h"
#include "geometry/region_operations.h"
#include "profile/profile.h"
#include "sheet/lead.h"
#include "sheet/marks.h"
#include "sheet/medium.h"
#include "sheet/piece_id.h"
#include "sticker/remark.h"
#include "sticker/sticker.h"

#include <memory>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// A box that a sheet of several stickers is cut out along as one piece. Lengths in mm.
struct SharedBox {
    LineKind kind = LineKind::die; ///< or perforated
    double margin = 5;             ///< from the pieces out to the line
    double radius = 3;             ///< of its corners
    TabRule tabs = {};             ///< of a perforated one

    friend bool operator==(const SharedBox&, const SharedBox&) = default;
};

/// Plain rows: pieces side by side across the medium, row after row along it, first the designs that reach
/// farthest along it. Others fill what a row leaves free beside it. Gaps in mm.
struct RowRules {
    std::optional<double> across = {}, along = {}; ///< between neighbours; none: the plan's gap
    int most = 0;                ///< at most this many pieces side by side; 0: as many as fit
    bool isStaggered = false;    ///< every second row is shifted by half a piece, and moved closer
    bool turnsAlternate = false; ///< every second piece is turned half round, and moved closer
    bool isCentred = false;      ///< each row in the middle of the medium

    friend bool operator==(const RowRules&, const RowRules&) = default;
    bool isPlain() const { return !isStaggered && !turnsAlternate; }
};

/// How pieces come to their places: by rules, or each by itself, by a nest or by hand.
enum class Packing { rows, nest };

/// A piece in the place that it was given, by a nest or by hand.
struct LaidPiece {
    std::string design;
    int sheet = 0;
    Point centre;          ///< where the middle of the design's footprint lies, mm of the sheet
    double turn = 0;       ///< degrees, clockwise on screen
    bool isPinned = false; ///< a nest leaves it where it is
    int copy = 0;          ///< of its design, see PieceId

    PieceId id() const { return {design, copy}; }
    friend bool operator==(const LaidPiece&, const LaidPiece&) = default;
};

/// Numbers those that have no number yet.
void numberCopies(std::vector<LaidPiece>& pieces);

struct SheetPlan {
    Medium medium;
    double gap = 3; ///< least distance between neighbours, and to what is kept free, mm
    std::optional<SharedBox> box = {};
    double margin = 0; ///< from the medium's edges to any piece, where the machine asks for less
    Packing packing = Packing::rows;
    RowRules rows = {};
    int sets = 1; ///< each design's count is that of one set
    Shared<std::vector<LaidPiece>> laid =
        {}; ///< where packing is a nest: of those not among them there are rows

    friend bool operator==(const SheetPlan&, const SheetPlan&) = default;
};

/// How a design's pieces may be turned in a nest.
struct Turning {
    enum class Kind { free, steps, none };
    Kind kind = Kind::free;
    double step = 90; ///< degrees

    friend bool operator==(const Turning&, const Turning&) = default;
};

/// One design to be laid out: how often, and what nothing else may enter.
struct Copies {
    std::string design; ///< its id
    Box footprint;      ///< mm of the design
    int count = 0;
    bool isMirrored = false; ///< laid left to right
    bool fills = false;      ///< as many as a sheet holds, of a roll one row
    Turning turning = {};
    std::shared_ptr<const Region> outline = {}; ///< mm of the design; none: the footprint
    std::string name = {};                      ///< that people know it by
};

struct Piece {
    std::string design;
    Affine place; ///< from mm of the design to mm of the sheet; mirrors where the design is to be
    bool isPinned = false;
    int copy = 0; ///< of its design, see PieceId

    PieceId id() const { return {design, copy}; }
};

/// One sheet, or the used length of a roll. x runs along the feed from the leading edge, y across from 0 to
/// the medium's width.
struct Sheet {
    std::vector<Piece> pieces;
    std::vector<CutLine> lines; ///< shared by its pieces, mm of the sheet
    std::vector<Mark> marks;
    std::vector<LeadMark> lead; ///< what is printed at its leading edge beside the marks
    Box work;                   ///< around all pieces, and the box that they share
    double usedLength =
        0; ///< from the leading edge, with the marks and the strip that the machine needs at the end
    double length = 0; ///< of the medium: a roll's is the used one
};

struct Unplaced {
    std::string design;
    int count = 0;
    std::string reason;
};

/// A piece that lies where it can't.
struct Conflict {
    enum class With { piece, edge, kept };
    std::size_t sheet = 0, piece = 0;
    With with = With::piece; ///< another piece is too close; it reaches out; it lies on what is kept free
    std::size_t other = 0;   ///< the other piece, or the number of what is kept free

    friend bool operator==(const Conflict&, const Conflict&) = default;
};

/// What could not be as asked for on a sheet: a sentence.
struct LayoutRemark {
    FindingCode code;
    std::string text;

    friend bool operator==(const LayoutRemark&, const LayoutRemark&) = default;
};

struct Layout {
    std::vector<Sheet> sheets;
    std::vector<Unplaced> unplaced;
    std::vector<LayoutRemark> remarks = {};
    std::vector<Conflict> conflicts = {}; ///< of pieces that were laid by hand or before a change

    std::size_t pieces() const;
    double usedLength() const; ///< all sheets but the last in whole, and the last one's used part
};

/// What is left of the medium beside strips that can't be used: those that the machine does not reach, and
/// the plan's margin. On a roll it ends where the longest roll that Hasami handles does.
Box usablePart(const SheetPlan& plan, const Profile& profile);

/// The area that work may cover on the medium: inside the reach and the margin, with room for the marks
/// around it, and before it for what is printed at the leading edge. May be empty. On a roll it ends where
/// the longest roll that Hasami handles does.
Box workArea(const SheetPlan& plan, const Profile& profile);

/// What pieces keep the gap to on a sheet: tracks, what was used before, and the lines between sections.
/// Clipped to the medium; on a roll they end with the longest one.
std::vector<Box> keptFree(const SheetPlan& plan, const Profile& profile, int sheet);

/// The map that lays a design's piece: its footprint's middle goes to `centre`, turned by degrees.
Affine placeOf(const Copies& copies, Point centre, double turn);

/// The outline of a piece on its sheet.
Region outlineOf(const Copies& copies, const Affine& place);

/// The pieces where the plan has laid them, all others in rows behind; on as many sheets as needed; with the
/// box that the pieces of a sheet share, and marks around the work of each. All pieces are numbered. Without
/// laid ones: rows by the plan's rules from the leading edge on. What fits nowhere is listed with the reason;
/// nothing is dropped silently. O(pieces · points), and of laid ones their neighbours. `checking`: whether
/// conflicts of laid pieces are looked for. Throws Stopped.
enum class Checking { no, yes };
Layout layOut(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile,
              Checking checking = Checking::yes, const std::stop_token& stop = {});

/// The box around a piece's outline on its sheet.
Box boundsOf(const Copies& copies, const Affine& place);

/// The same medium with plain rows: what a layout is measured against.
SheetPlan plainPlan(SheetPlan plan);

/// All pieces of a layout as they lie, sheet after sheet.
std::vector<LaidPiece> laidOf(const Layout& layout, const std::vector<Copies>& copies);

} // namespace hasami
