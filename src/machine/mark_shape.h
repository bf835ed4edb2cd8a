#pragma once

#include "machine/sensor.h"
#include "sheet/marks.h"

#include <optional>
#include <vector>

namespace hasami {

/// A printed shape as a sensor has seen it.
struct Sighting {
    Point place;         ///< of the shape's reference point, mm of the bed
    double turn = 0;     ///< radians, against how it stands on the sheet; of a dot what was expected
    double residual = 0; ///< mm, root mean square of its edges off the shape's
    double support = 0;  ///< which part of its outline has an edge, 0 to 1
};

/// A shape that is looked for: of a registration mark, or anything else printed in one piece of ink. Its
/// outline is compared with edges in a sensor's view.
class MarkShapeModel {
public:
    /// `ink`: mm of the sheet, outers and holes in their own directions; `reference`: the point of it that
    /// sightings give.
    MarkShapeModel(const std::vector<Curve>& ink, Point reference);

    /// The longer side of the box around it, mm.
    double size() const { return std::max(box_.width(), box_.height()); }

    /// The middle of that box from the reference point, when it stands turned by radians.
    Point middle(double turn) const;

    /// Every place in the view where dark areas have this shape and size and lie in it as a whole. `turn`:
    /// radians, how it is expected to stand. To 0.05 mm at 300 dots an inch. O(pixels).
    std::vector<Sighting> findIn(const SensorView& view, double turn) const;

    /// The shape near a place that is known to half a millimetre; nothing where there is no such one.
    std::optional<Sighting> fitAt(const SensorView& view, Point place, double turn) const;

private:
    struct EdgeSample {
        Point at, out; ///< of the reference point; the unit normal away from the ink
    };
    struct Levels {
        double ink = 0, paper = 1;
    };
    std::optional<Levels> levelsAt(const SensorView& view, Point place, double turn) const;
    std::optional<double> edgeAlong(const SensorView& view, Point at, Point out, double level) const;

    std::vector<EdgeSample> samples_;
    Box box_;          ///< of the reference point
    double area_ = 0;  ///< mm²
    double depth_ = 0; ///< how far inside its rim there is ink for certain, mm
    bool isRound_ = false;
};

} // namespace hasami
