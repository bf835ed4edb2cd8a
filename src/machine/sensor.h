#pragma once

#include "machine/printed_sheet.h"
#include "raster/grid.h"

#include <functional>

namespace hasami {

/// What a cutter's sensor sees at once: light, from 0 (none) to 1 (bright paper), in a small window.
struct SensorView {
    Grid<float> light;
    Point first; ///< the middle of the first pixel, mm of the bed
    double pixelsPerMillimetre = 1;

    Point placeOf(double column, double row) const {
        return first + Point{column, row} * (1 / pixelsPerMillimetre);
    }
    /// Between pixels as a bilinear surface; beyond the window as at its rim.
    double at(Point bed) const;
};

/// Looks at a square window of the bed. mm.
using Sensor = std::function<SensorView(Point centre, double side)>;

/// What a simulated sensor adds to what it sees.
struct SensorFaults {
    double blur = 0.06; ///< mm, the standard deviation of a point's image
    double noise = 1;   ///< of a pixel, percent of full contrast
    std::uint32_t seed = 1;
};

/// A sensor over a simulated sheet, which sees nothing but pixels of its picture. REQUIRES: the sheet
/// outlives it.
Sensor simulatedSensor(const PrintedSheet& sheet, const SensorFaults& faults = {});

} // namespace hasami
