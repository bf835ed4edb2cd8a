#pragma once

#include "artwork/artwork.h"
#include "artwork/paint_list.h"
#include "profile/profile.h"
#include "sticker/sticker.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// How a spot colour's name stands to those of the profile's kinds of line.
struct SpotMeaning {
    LineKind kind;
    bool isExact; ///< else it differs by case, spaces, dashes or underscores alone
};

std::optional<SpotMeaning> meaningOf(std::string_view spot, const Profile& profile);

/// Cut lines that a page of vector art brings: strokes in a spot colour whose name is that of a kind of line.
struct BroughtLines {
    /// Closed, in mm of the design, curve for curve as drawn, the largest first. Outer ones run clockwise,
    /// those in another of their kind the other way.
    std::vector<CutLine> lines;
    std::vector<std::string> spots; ///< the names that they are drawn in
    std::vector<std::string> alike; ///< names that are nearly right
    std::vector<CutLine> open;      ///< lines whose ends are farther apart than 0.05 mm: slits

    friend bool operator==(const BroughtLines&, const BroughtLines&) = default;
};

/// With `takesAlike`, names that are nearly right count too.
BroughtLines broughtLines(const Item& item, const PaintList& paint, const Profile& profile, bool takesAlike);

/// The names of all spot colours that strokes are in.
std::vector<std::string> strokeSpots(const PaintList& paint);

} // namespace hasami
