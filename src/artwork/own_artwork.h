#pragma once

#include "artwork/paint_colour.h"
#include "artwork/placement.h"
#include "geometry/curve.h"

#include <compare>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace hasami {

// Artwork that is made in the program: lettering, shapes and codes. Lengths in mm of the item's own frame.

/// Colours that run into each other across the item's box.
struct Gradient {
    bool isRadial = false; ///< from the middle to the corners; else from side to side
    double angle = 0;      ///< degrees clockwise of a linear one; 0: from left to right
    PaintColour from, to = {{255, 255, 255, 255}};

    friend bool operator==(const Gradient&, const Gradient&) = default;
};

/// A file's picture or page that is shown inside the item only.
struct PictureFill {
    FileContent file;
    bool isVector = false; ///< a page of vector art
    Placement place;       ///< in the item's frame
    bool isFitted = true;  ///< it is as large as covers the item, and in its middle, whenever that changes

    friend bool operator==(const PictureFill&, const PictureFill&) = default;
};

/// What an area is filled with; the first: nothing.
using Fill = std::variant<std::monostate, PaintColour, Gradient, PictureFill>;

/// The names of the spot colours that it is of itself.
inline std::vector<std::string> spotsOf(const Fill& fill) {
    std::vector<std::string> spots;
    const auto add = [&](const PaintColour& colour) {
        if (!colour.spot.empty())
            spots.push_back(colour.spot);
    };
    if (const auto* colour = std::get_if<PaintColour>(&fill)) {
        add(*colour);
    } else if (const auto* gradient = std::get_if<Gradient>(&fill)) {
        add(gradient->from);
        add(gradient->to);
    }
    return spots;
}

/// A font that lettering is set in.
struct FontChoice {
    std::string family, style;
    std::string asset = {}; ///< of the job that holds its bytes; empty: its licence does not allow that

    /// Which font of the file, as fontconfig counts: a collection's fonts from 0, and 65,536 times the named
    /// instance of a variable font, from 1.
    int face = 0;

    friend bool operator==(const FontChoice&, const FontChoice&) = default;
};

enum class TextAlignment { left, middle, right };

/// One of a letter's openings.
struct Counter {
    int letter = 0; ///< where the letter begins in the text, in bytes
    int number = 0; ///< of its openings, in the font's order

    friend auto operator<=>(const Counter&, const Counter&) = default;
};

/// Text as areas.
struct Lettering {
    std::string text;              ///< UTF-8; lines are separated by "\n"
    std::vector<FontChoice> fonts; ///< the chosen one, then those for letters that it lacks
    double capHeight = 10;         ///< height of a capital H
    double letterSpace = 0;        ///< added between letters
    double lineSpace = 1.6;        ///< from baseline to baseline, in cap heights
    TextAlignment alignment = TextAlignment::middle;

    /// How close neighbours of a line stand by their outlines: 0 as the font has it, 1 touching, up to 2
    /// overlapping by 15 % of the cap height.
    double closeness = 0;
    bool isWelded = false; ///< overlapping and touching letters become one outline
    bool keepsCounters = true;
    std::vector<Counter> switched = {}; ///< counters that are the other way, by hand

    double weight = 0;   ///< letters are grown by this on all sides; thinner where negative
    double slant = 0;    ///< degrees to the right
    double fitWidth = 0; ///< the letters are scaled until they are this wide; 0: as their cap height says

    /// Baseline on a circle of this radius; positive: outside of it, upright at its top, negative: inside,
    /// upright at its bottom; 0: straight.
    double arcRadius = 0;
    double arcSpread = 0; ///< degrees that the longest line takes of the circle; 0: as the letters stand

    /// The outlines last made, where the job may not hold the font.
    std::vector<Curve> outlines = {};

    friend bool operator==(const Lettering&, const Lettering&) = default;
};

enum class FigureKind {
    rectangle,
    ellipse,
    polygon,
    star,
    ring,
    arrow,
    bubble,
    ribbon,
    leaf,
    heart,
    outline ///< of other artwork
};

/// A plain figure of exact size.
struct Figure {
    FigureKind kind = FigureKind::rectangle;
    double width = 40, height = 30;
    double radius = 0;  ///< of a rectangle's corners
    int points = 5;     ///< of a polygon or star
    double inner = 0.5; ///< of a star: its inner corners, of a ring: its opening, 0 to 1 of the outer
    double hole = 0;    ///< diameter of a round hole; 0: none
    Point holeAt = {};  ///< its middle from the figure's middle
    std::vector<Curve> outline = {}; ///< of kind `outline`, in the unit square

    friend bool operator==(const Figure&, const Figure&) = default;
};

enum class CodeKind;

/// A code that machines read.
struct CodeArtwork {
    CodeKind kind = {};
    std::string text;
    double width = 25;     ///< with the quiet zone
    double height = 15;    ///< of a code of bars, with its text; others are square
    int correction = 1;    ///< error correction of a QR code: 0 low, 1 medium, 2 high, 3 highest
    bool showsText = true; ///< of a code of bars: also in letters
    bool hasGround = true; ///< white, as far as the quiet zone reaches

    friend bool operator==(const CodeArtwork&, const CodeArtwork&) = default;
};

struct Drawing;
struct Asset;

/// An item made in the program, and how it is painted.
struct OwnArtwork {
    std::variant<Lettering, Figure, CodeArtwork> what;
    Fill fill = blackInk();
    double lineWidth = 0; ///< printed around letters, inside a figure's outline; 0: none
    PaintColour lineColour = {{255, 255, 255, 255}};

    /// What it looks like, drawn when it was changed last. Its id follows from the rest.
    std::shared_ptr<const Asset> drawing = {};

    friend bool operator==(const OwnArtwork& one, const OwnArtwork& other) {
        return one.what == other.what && one.fill == other.fill && one.lineWidth == other.lineWidth &&
               one.lineColour == other.lineColour;
    }
};

/// An area that is painted.
struct DrawnArea {
    std::vector<Curve> rims; ///< outer ones and openings in their own directions; nonzero rule
    Fill fill;
};

/// Own artwork as it is painted, in mm from the top left of its frame.
struct Drawing {
    double width = 0, height = 0;
    std::vector<DrawnArea> areas;                       ///< from behind to front
    std::vector<std::shared_ptr<const Asset>> pictures; ///< that its fills show
    /// What stays in its place when the content changes: of lettering the first baseline's start, middle or
    /// end by its alignment, or the circle's middle; of anything else its top left.
    Point anchor;
    std::string lacking;                     ///< letters that no font has
    std::optional<FontChoice> lostFont = {}; ///< it is not to be found: the outlines are those last made
};

} // namespace hasami
