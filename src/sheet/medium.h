#pragma once

#include "artwork/picture.h"
#include "geometry/point.h"
#include "profile/profile.h"

#include <array>
#include <optional>
#include <vector>

namespace hasami {

/// A part of a sheet (or of the roll, which is sheet 0) that was used before.
struct UsedArea {
    int sheet = 0;
    Box box; ///< mm of the sheet

    friend bool operator==(const UsedArea&, const UsedArea&) = default;
};

/// What is printed on. Across is the way across the feed, along the way it is fed. Lengths in mm.
struct Medium {
    double width = 600;           ///< across
    std::optional<double> length; ///< along; a roll has none: it is used as far as needed

    std::optional<double> rollLength = {}; ///< of a roll: the length left on it; then comes another one
    double start = 0;                      ///< what lies before is used up already
    double end = 0;                        ///< left over behind the work, beyond what the machine needs
    double firstSide = 0, lastSide = 0;    ///< strips along its sides that can't be used
    std::vector<Track> tracks = {};
    std::vector<UsedArea> used = {};
    std::optional<Rgba> colour = {}; ///< none: white
    bool isClear = false;            ///< film that what is behind it shows through, tinted by its colour
    double price = 0;                ///< of a metre of the roll, or of one sheet; 0: not known

    friend bool operator==(const Medium&, const Medium&) = default;
    bool isRoll() const { return !length.has_value(); }
    /// How long one of them is; none: as long as needed.
    std::optional<double> whole() const { return length ? length : rollLength; }
    bool isAsLarge(double w, double l) const { return width == w && length == l; }
};

/// A size of sheets that people know by its name; upright.
struct NamedSheet {
    const char* name;
    double width, length;
};

inline constexpr std::array<NamedSheet, 9> namedSheets{{{"A5", 148, 210},
                                                        {"A4", 210, 297},
                                                        {"A3", 297, 420},
                                                        {"A3+", 329, 483},
                                                        {"SRA3", 320, 450},
                                                        {"Letter", 215.9, 279.4},
                                                        {"Legal", 215.9, 355.6},
                                                        {"Tabloid", 279.4, 431.8},
                                                        {"12 in square", 304.8, 304.8}}};

inline Medium sheetOf(double width, double length) {
    Medium medium;
    medium.width = width;
    medium.length = length;
    return medium;
}

inline const Medium a4Sheet = sheetOf(210, 297);
inline const Medium letterSheet = sheetOf(215.9, 279.4);

} // namespace hasami
