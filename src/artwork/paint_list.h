#pragma once

#include "artwork/picture.h"
#include "geometry/stroke.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// An area given by a path: filled, or stroked as a line.
struct PaintShape {
    Path path; ///< in mm of the page; of a stroke in its own units
    FillRule rule = FillRule::nonZero;
    struct Stroke {
        StrokeStyle style;
        Affine toPage; ///< from the path's units to mm of the page
        friend bool operator==(const Stroke&, const Stroke&) = default;
    };
    std::optional<Stroke> stroke;

    friend bool operator==(const PaintShape&, const PaintShape&) = default;
};

/// Paint shows only within the shape and within the parent's, if there is one.
struct PaintClip {
    int parent = -1; ///< index of a clip before this one
    PaintShape shape;

    friend bool operator==(const PaintClip&, const PaintClip&) = default;
};

/// One thing that a page paints.
struct PaintItem {
    enum class Kind {
        plain,   ///< one colour
        shading, ///< a gradient, a pattern's cell
        picture, ///< a raster picture; the shape is all that it covers
    } kind = Kind::plain;
    int clip = -1; ///< index, or none
    double opacity = 1;
    bool isMasked =
        false;        ///< by a soft mask, or by the picture's own transparency: less than the shape shows
    Rgba colour;      ///< of plain paint, as sRGB
    std::string spot; ///< name of the spot colour, if it is one
    PaintShape shape;

    friend bool operator==(const PaintItem&, const PaintItem&) = default;
};

/// All that a page of vector art paints, from behind to front, in mm from its top left, y down.
struct PaintList {
    double width = 0, height = 0; ///< of the page, mm
    std::vector<PaintClip> clips;
    std::vector<PaintItem> items;
    bool hasNoBackdrop = false; ///< it is known to have none: it was drawn in the program
    bool isGrey = false;        ///< its colours are greys, printed in black alone
    bool hasInks = false;       ///< some of its colours are CMYK or spot colours
    bool isTagged = false;      ///< all have ICC profiles, of inks all or of none

    friend bool operator==(const PaintList&, const PaintList&) = default;
};

/// How many bytes of memory it takes, about.
std::size_t bytesOf(const PaintList& list);

/// As text, one item or clip a line: what hasami-reader answers with.
std::string paintListText(const PaintList& list);

/// Reads what paintListText gives. Throws InputError where it is something else, or holds what can't be:
/// numbers that are not finite or beyond 100 m, clips that don't exist, more than 20 million pieces.
PaintList parsePaintList(std::string_view text);

} // namespace hasami
