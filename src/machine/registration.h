#pragma once

#include "machine/mark_shape.h"
#include "sheet/sheet.h"

#include <optional>
#include <span>
#include <stop_token>
#include <string_view>
#include <vector>

namespace hasami {

/// From where a sheet's plan has a place to where it was printed on the bed, mm: what the cutter makes of the
/// marks that it found.
class SheetMap {
public:
    Point operator()(Point sheet) const;

    /// A turn of the sheet's x axis here, radians.
    double turnAt(Point sheet) const;

    /// Affine, with a twist: q = affine(p) + twist (p.x - centre.x) (p.y - centre.y).
    struct Part {
        Affine affine;
        Point twist, centre;
    };
    /// One part, or parts one after the other along the feed, between `breaks`. REQUIRES: one part more than
    /// breaks.
    SheetMap() : parts_(1) {}
    SheetMap(std::vector<Part> parts, std::vector<double> breaks)
        : parts_(std::move(parts)), breaks_(std::move(breaks)) {}

private:
    std::vector<Part> parts_;
    std::vector<double> breaks_;
};

enum class MapModel { none, similarity, affine, bilinear, sections };

/// "none", "similarity", "affine", "bilinear", "sections".
std::string_view modelName(MapModel model);

/// A mark, and where it was found.
struct MarkReading {
    int id = 0;
    Point expected;             ///< its centre on the sheet
    std::optional<Point> found; ///< mm of the bed
    bool isDropped = false;     ///< it disagrees with the others, and is not used
    bool isByHand = false;      ///< it was placed by the operator
    double residual = 0;        ///< how far the map is off it, mm

    friend bool operator==(const MarkReading&, const MarkReading&) = default;
};

/// Why a sheet may not be cut as its marks were read.
enum class RunFault {
    none,
    tooFewMarks,   ///< found: of up to three all, of more at least three
    disagreement,  ///< of the marks, and it can't be said which of them is wrong
    scaled,        ///< the print is larger or smaller than any medium stretches
    wrongWayRound, ///< it was loaded with its trailing edge first
    mediumShort,   ///< the medium ends before the last marks
    wrongSheet,    ///< the code at its leading edge is another one
};

/// The map of a sheet that lies on the bed, and how far it can be trusted.
struct Registration {
    MapModel model = MapModel::none;
    SheetMap map;
    std::vector<MarkReading> marks;
    double residual = 0; ///< mm, root mean square over the marks used
    RunFault fault = RunFault::none;
    double scaleAlong = 1, scaleAcross = 1; ///< of the print, against the plan
    double turn = 0;                        ///< degrees, clockwise on screen
    Point shift;                            ///< of the marks' middle, mm

    std::size_t found() const;
    std::vector<int> dropped() const; ///< ids
};

/// Works out the map from the readings. Of two marks a similarity, of three an affine map, of more an affine
/// or bilinear one, or with at least three pairs along the feed one from pair to pair. Of five marks and more
/// those that disagree are dropped by the least median of squares (P. Rousseeuw, 1984), each among its
/// neighbours; of four the one without which the others lie as a print can.
Registration registrationOf(std::vector<MarkReading> readings);

/// How far around a place a mark is searched.
struct MarkSearch {
    double first = 15;             ///< mm: as the operator puts the head down
    double least = 2, part = 0.04; ///< of later ones: that, and a part of the way from one that was found
};

/// Lets the sensor look for the marks, each in a spiral around where those found before have it, and gives
/// the map. Of several shapes like it near a place the nearest is taken; one that disagrees with the rest is
/// searched again where they have it. Throws Stopped.
Registration registerSheet(std::span<const Mark> marks, const Sensor& sensor, const MarkSearch& search = {},
                           const std::stop_token& stop = {});

/// The same for a sheet of which more is known: whether it lies the wrong way round. By marks where they are
/// after half a turn of the medium (`width`: across the feed, mm), by what is printed at the leading edge, by
/// the corner without a mark, and by the margin before the first mark. And whether the medium ends too soon.
Registration registerSheet(const Sheet& sheet, double width, const Sensor& sensor,
                           const MarkSearch& search = {}, const std::stop_token& stop = {});

/// The text of the code at the leading edge, as the sensor reads it; nothing where there is none, or it can't
/// be read.
std::optional<std::string> codeRead(const Sheet& sheet, const Registration& registration,
                                    const Sensor& sensor);

} // namespace hasami
