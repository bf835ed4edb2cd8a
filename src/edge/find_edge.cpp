#include "edge/find_edge.h"

#include "base/error.h"
#include "geometry/fit_curves.h"
#include "geometry/region_operations.h"
#include "raster/level_lines.h"
#include "raster/reduce.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double finestTolerance = 0.005;  // mm; finer than any cutter can follow
constexpr double coarsestTolerance = 0.05; // mm; coarser could be felt along a weeded edge

bool contains(const Loop& loop, Point p) {
    bool inside = false;
    for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++) {
        const Point a = loop[i], b = loop[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x)
            inside = !inside;
    }
    return inside;
}

struct FoundLoop {
    Loop loop;
    double area;
    Box box;
};

/// Outer loops that lie in no other outer loop.
std::vector<FoundLoop> outermost(std::vector<FoundLoop> loops) {
    std::erase_if(loops, [](const FoundLoop& l) { return l.area < 0; });
    std::stable_sort(loops.begin(), loops.end(),
                     [](const FoundLoop& a, const FoundLoop& b) { return a.area > b.area; });
    std::vector<FoundLoop> kept;
    for (FoundLoop& l : loops) {
        const Point p = l.loop.front();
        const bool within = std::any_of(kept.begin(), kept.end(), [&](const FoundLoop& k) {
            return p.x > k.box.least.x && p.x < k.box.most.x && p.y > k.box.least.y && p.y < k.box.most.y &&
                   contains(k.loop, p);
        });
        if (!within)
            kept.push_back(std::move(l));
    }
    return kept;
}

/// The level line in mm of the design, without specks and openings that are too small. A cell of `coverage`
/// is `factor` pixels wide.
std::vector<FoundLoop> loopsAtLevel(const Item& item, const Grid<std::uint8_t>& coverage, int factor,
                                    double level, const EdgeOptions& options, const std::stop_token& stop) {
    const Affine toMillimetres = item.fromPixels() * Affine::scaling(factor, factor);
    std::vector<FoundLoop> found;
    for (Loop& loop : levelLines(coverage, level * 255 / 100, stop)) {
        for (Point& p : loop)
            p = toMillimetres(p);
        const double loopArea = signedArea(loop);
        if (loopArea > 0 ? loopArea >= options.leastSpeck : -loopArea >= options.leastOpening)
            found.push_back({std::move(loop), loopArea, {}});
    }
    for (FoundLoop& l : found)
        l.box = bounds(l.loop);
    return options.loops == LoopChoice::outer ? outermost(std::move(found)) : found;
}

} // namespace

double fitTolerance(const Item& item, const EdgeOptions& options) {
    const double pixel = std::min(item.place.width / item.pixelWidth, item.place.height / item.pixelHeight);
    return options.tolerance.value_or(std::clamp(0.1 * pixel, finestTolerance, coarsestTolerance));
}

std::vector<Curve> findEdge(const Item& item, const Coverage& coverage, const EdgeOptions& options,
                            const std::stop_token& stop) {
    const double pixel = std::max(item.place.width / item.pixelWidth, item.place.height / item.pixelHeight);
    // What is to be evened out is taken for scatter, and corners are judged from farther away.
    constexpr double scatterOfBumps = 0.35;
    const FitOptions fit{fitTolerance(item, options),
                         std::hypot(coverage.scatter * pixel, scatterOfBumps * options.smoothing),
                         std::max({pixel, 2.5 * coverage.scatter * pixel, options.smoothing})};
    std::vector<Curve> curves;
    for (const FoundLoop& l :
         loopsAtLevel(item, coverage.cells, 1, options.level.value_or(coverage.level), options, stop)) {
        throwIfStopped(stop);
        Curve curve = fitCurve(l.loop, fit);
        if (!curve.segments.empty())
            curves.push_back(std::move(curve));
    }
    return curves;
}

EdgePreview previewOf(const Coverage& coverage) {
    constexpr double mostCells = 1e6;
    const double cells = double(coverage.cells.width()) * coverage.cells.height();
    const int factor = std::max(1, int(std::ceil(std::sqrt(cells / mostCells))));
    return {reduced(coverage.cells, factor), factor, coverage.level, coverage.way};
}

std::vector<Loop> roughEdge(const Item& item, const EdgePreview& preview, const EdgeOptions& options) {
    std::vector<Loop> loops;
    for (FoundLoop& found : loopsAtLevel(item, preview.cells, preview.factor,
                                         options.level.value_or(preview.level), options, {}))
        loops.push_back(std::move(found.loop));
    return loops;
}

std::vector<Curve> joinEdges(const std::vector<std::shared_ptr<const std::vector<Curve>>>& edges,
                             double tolerance) {
    if (edges.size() == 1)
        return *edges.front();
    std::vector<Region> regions;
    regions.reserve(edges.size());
    for (const auto& edge : edges)
        regions.push_back(flatten(*edge, flatteningTolerance));
    std::vector<Curve> joined;
    for (const Loop& loop : unite(regions).loops)
        joined.push_back(fitCurve(loop, {tolerance, 0, 2 * tolerance}));
    return joined;
}

} // namespace hasami
