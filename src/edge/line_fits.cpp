#include "edge/line_fits.h"

#include "geometry/scatter.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace hasami {

std::vector<FitOptions> fitsFor(std::span<const FoundLine> lines, double pixel, double tolerance,
                                const EdgeOptions& options) {
    constexpr double mostSeen = 0.29;  // pixels: as much as steps of a whole pixel
    constexpr double ofSeen = 1.08;    // some stretches scatter more than most
    constexpr double grainOfSeen = 5;  // pixels: it goes by how the line lies on the grid
    constexpr double drawnEdge = 2.1;  // pixels: as wide as edges are that were not enlarged or blurred
    constexpr double mostEnlarged = 2; // a faint hairline looks wider than it is
    const auto pixelAsDrawn = [&](const FoundLine& line) {
        return pixel * std::clamp(line.edgeWidth / drawnEdge, 1.0, mostEnlarged);
    };
    std::vector<std::optional<double>> seen;
    std::vector<double> all;
    for (const FoundLine& line : lines) {
        seen.push_back(scatterOf(line.points, line.isClosed, pixelAsDrawn(line)));
        if (seen.back())
            all.push_back(*seen.back());
    }
    std::sort(all.begin(), all.end());
    const double usual = all.empty() ? 0 : all[all.size() / 2]; // for those too short to show it
    std::vector<FitOptions> fits;
    fits.reserve(lines.size());
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const double expected = lines[i].expectedScatter;
        const double own = std::min(ofSeen * seen[i].value_or(usual) / pixel, mostSeen);
        const double scatter = std::max(expected, own);
        // Corners are judged from as far away as the scatter needs.
        fits.push_back({tolerance, std::hypot(scatter * pixel, scatterOfBumps * options.smoothing),
                        std::max({pixel, 2.5 * scatter * pixel, options.smoothing}),
                        own > expected ? grainOfSeen * pixelAsDrawn(lines[i]) : 0});
    }
    return fits;
}

} // namespace hasami
