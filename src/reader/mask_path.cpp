#include "reader/mask_path.h"

#include "geometry/fit_curves.h"
#include "raster/level_lines.h"

namespace hasami {

namespace {

/// Whether coverage goes from nothing to all within two pixels or so nearly everywhere.
bool isCrisp(const Grid<std::uint8_t>& mask) {
    std::size_t partial = 0, crossings = 0;
    for (int y = 0; y < mask.height(); ++y)
        for (int x = 0; x < mask.width(); ++x) {
            const int here = mask.at(x, y);
            partial += here > 12 && here < 243;
            crossings += x > 0 && (mask.at(x - 1, y) < 128) != (here < 128);
            crossings += y > 0 && (mask.at(x, y - 1) < 128) != (here < 128);
        }
    return 2 * partial <= 5 * crossings;
}

} // namespace

Path maskPath(const Grid<std::uint8_t>& mask) {
    constexpr double half = 127.5, twentieth = 12.75;
    const bool crisp = isCrisp(mask);
    FitOptions inPixels;
    inPixels.tolerance = crisp ? 0.1 : 0.3;
    inPixels.scatter = crisp ? 0.02 : 0.2; // a faint rim's level wanders with each pixel's rounding
    inPixels.detail = crisp ? 1 : 3;
    const Affine toUnitSquare{1.0 / mask.width(), 0, 0, -1.0 / mask.height(), 0, 1};
    Path path;
    for (const Loop& loop : levelLines(mask, crisp ? half : twentieth)) {
        Curve curve = map(fitCurve(loop, inPixels), toUnitSquare);
        if (!curve.segments.empty())
            path.push_back({curve.start, std::move(curve.segments), true});
    }
    return path;
}

} // namespace hasami
