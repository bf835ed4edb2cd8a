#pragma once

#include "geometry/affine.h"
#include "profile/profile.h"
#include "sticker/sticker.h"

#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// What is printed on. Across is the way across the feed, length the way along it.
struct Medium {
    double width = 600;           ///< mm across
    std::optional<double> length; ///< mm; a roll has none: it is used as far as needed

    friend bool operator==(const Medium&, const Medium&) = default;
    bool isRoll() const { return !length.has_value(); }
};

inline constexpr Medium a4Sheet{210, 297};
inline constexpr Medium letterSheet{215.9, 279.4};

/// A box that a sheet of several stickers is cut out along as one piece. Lengths in mm.
struct SharedBox {
    LineKind kind = LineKind::die; ///< or perforated
    double margin = 5;             ///< from the pieces out to the line
    double radius = 3;             ///< of its corners
    TabRule tabs = {};             ///< of a perforated one

    friend bool operator==(const SharedBox&, const SharedBox&) = default;
};

struct SheetPlan {
    Medium medium;
    double gap = 3; ///< least distance between neighbours, mm
    std::optional<SharedBox> box = {};

    friend bool operator==(const SheetPlan&, const SheetPlan&) = default;
};

/// One design to be laid out: how often, and the box that nothing else may enter.
struct Copies {
    std::string design; ///< its id
    Box footprint;      ///< mm of the design
    int count = 0;
    bool isMirrored = false; ///< laid left to right
};

struct Piece {
    std::string design;
    Affine place; ///< from mm of the design to mm of the sheet; mirrors where the design is to be
};

/// A registration mark: a filled dot.
struct Mark {
    Point centre;
    double radius = 0, quietRadius = 0;
};

/// One sheet, or the used length of a roll. x runs along the feed from the leading edge, y across from 0 to
/// the medium's width.
struct Sheet {
    std::vector<Piece> pieces;
    std::vector<CutLine> lines; ///< shared by its pieces, mm of the sheet
    std::vector<Mark> marks;
    Box work; ///< around all pieces, and the box that they share
    double usedLength =
        0; ///< from the leading edge, with the marks and the strip that the machine needs at the end
    double length = 0; ///< of the medium: a roll's is the used one
};

struct Unplaced {
    std::string design;
    int count = 0;
    std::string reason;
};

struct Layout {
    std::vector<Sheet> sheets;
    std::vector<Unplaced> unplaced;
    std::vector<std::string> remarks = {}; ///< sentences on what could not be as asked for

    std::size_t pieces() const;
    double usedLength() const; ///< all sheets but the last in whole, and the last one's used part
};

/// The area that work may cover on the medium: inside the reach, with room for the marks around it. May be
/// empty. On a roll it ends where the longest roll that Hasami handles does.
Box workArea(const Medium& medium, const Profile& profile);

/// Plain rows across the medium, from the leading edge on, design after design, on as many sheets as needed,
/// the box that the pieces of a sheet share, and four marks around the work of each. What fits nowhere is
/// listed with the reason; nothing is dropped silently. O(pieces).
Layout layOutRows(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile);

} // namespace hasami
