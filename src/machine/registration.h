#pragma once

#include "machine/sheet_map.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

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
    std::string code;                       ///< that was read of a wrong sheet

    std::size_t found() const;
    std::vector<int> dropped() const; ///< ids
};

/// Works out the map from the readings. Of two marks a similarity, of three an affine map, of more an affine
/// or bilinear one, or with at least three pairs along the feed one from pair to pair. Of five marks and more
/// those that disagree are dropped by the least median of squares (P. Rousseeuw, 1984), each among its
/// neighbours; of four the one without which the others lie as a print can.
Registration registrationOf(std::vector<MarkReading> readings);

/// The marks that are used, with where they were found.
std::vector<PointPair> usedOf(const std::vector<MarkReading>& marks);

} // namespace hasami
