#pragma once

#include "geometry/curve.h"

#include <optional>
#include <vector>

namespace hasami {

/// How the edge of artwork is found.
enum class EdgeWay {
    automatic,    ///< as the picture asks for
    transparency, ///< where the picture is opaque
    backdrop,     ///< what differs from the backdrop that reaches the picture's rim
    brightness,   ///< what is dark on light, or light on dark
    colours,      ///< every area of one colour, with borders shared by neighbours
    shape,        ///< a plain shape around the artwork
    paint,        ///< all that vector art paints, exactly
    lines,        ///< cut lines that the file brings
};

enum class PlainShapeKind { box, rounded, ellipse, circle, polygon };

/// A shape around the artwork's box that ignores what the artwork shows. Lengths in mm.
struct PlainShape {
    PlainShapeKind kind = PlainShapeKind::rounded;
    double margin = 0; ///< from the artwork's box out; inward where negative
    double radius = 3; ///< of a rounded box's corners
    int sides = 6;     ///< of a regular polygon, one corner on top

    /// By its own size, its middle on the artwork's, in place of a margin. A circle's and a polygon's is the
    /// width alone: from corner to opposite corner, all round.
    bool bySize = false;
    double width = 50, height = 50;

    int shared = 0; ///< designs of the same number above 0 have one shape together

    friend bool operator==(const PlainShape&, const PlainShape&) = default;
};

/// Which of the loops found become the edge.
enum class LoopChoice {
    outer,    ///< the outermost lines alone
    openings, ///< and the openings in them
    all,      ///< and what lies in the openings, and so on
};

/// A loop that was switched by hand, identified by its place and size as fractions of the artwork's longer
/// side, so that it is found again when the size or the level changes. Places are given in the item's own
/// frame, of the whole picture: moving, turning, mirroring and cropping it change nothing.
struct LoopSwitch {
    Point centre;    ///< of the box around it, from the artwork's top left
    double size = 0; ///< the root of its area
    bool isOpening = false;
    bool isCut = false;
    int item = 0; ///< of the artwork, counted from behind

    friend bool operator==(const LoopSwitch&, const LoopSwitch&) = default;
};

/// A stretch of a line that was changed by hand, as fractions of the artwork's longer side from its top
/// left, in the item's own frame, so that it follows when size or level change.
struct TouchUp {
    Point from, to;                 ///< on the line as found; the same place: all the way round
    std::vector<Point> beneath;     ///< the course of the line as found, evenly spaced between
    std::vector<CurveSegment> path; ///< what runs from `from` to `to` in its place
    int item = 0;                   ///< of the artwork, counted from behind

    friend bool operator==(const TouchUp&, const TouchUp&) = default;
};

struct EdgeOptions {
    EdgeWay way = EdgeWay::automatic;

    /// The coverage at which the line runs, in percent: low takes in faint pixels, high leaves them out.
    /// DEFAULT: the level suggested for the picture, where the line is crispest.
    std::optional<double> level;

    /// By colours: how many; 0: as many as differ plainly.
    int colours = 0;

    /// By the backdrop: how much of a soft shadow on it is taken in, in percent.
    double shadow = 0;

    /// By paint: whether a plain paint that fills the whole page, behind all else, counts.
    bool takesBackdrop = false;

    /// Bumps and dents smaller than this, in mm, are evened out; true corners stay.
    double smoothing = 0;

    /// Loose bits smaller than this, in mm², leave no line.
    double leastSpeck = 1;

    /// Openings smaller than this, in mm², are closed even where openings are cut.
    double leastOpening = 1;

    LoopChoice loops = LoopChoice::outer;

    /// Loops that are cut, or not, whatever the choice says.
    std::vector<LoopSwitch> switches;

    /// What was changed by hand. Not of way `shape`.
    std::vector<TouchUp> touchUps;

    /// Of way `shape`.
    PlainShape shape;

    /// How far the fitted line may lie from the level line, in mm. DEFAULT: a tenth of a pixel, held between
    /// 0.005 and 0.05 mm.
    std::optional<double> tolerance;

    friend bool operator==(const EdgeOptions&, const EdgeOptions&) = default;
};

/// The options with the switches and touch-ups of one item alone.
EdgeOptions forItem(EdgeOptions options, std::size_t item);

} // namespace hasami
