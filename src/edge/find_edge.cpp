#include "edge/find_edge.h"

#include "base/error.h"
#include "edge/found_loops.h"
#include "edge/line_fits.h"
#include "edge/touch_up.h"
#include "geometry/crossings.h"
#include "geometry/fit_loops.h"
#include "geometry/region_operations.h"
#include "raster/level_lines.h"
#include "raster/reduce.h"

#include <algorithm>
#include <cmath>
#include <iterator>

namespace hasami {

namespace {

constexpr double finestTolerance = 0.005;  // mm; finer than any cutter can follow
constexpr double coarsestTolerance = 0.05; // mm; coarser could be felt along a weeded edge

/// The level line in mm of the design, without specks and openings that are too small. A cell of `coverage`
/// is `factor` pixels wide.
std::vector<FoundLoop> loopsAtLevel(const Item& item, const Grid<std::uint8_t>& coverage, int factor,
                                    double level, const EdgeOptions& options, const std::stop_token& stop) {
    const Affine toMillimetres = item.fromPixels() * Affine::scaling(factor, factor);
    std::vector<Loop> loops = levelLines(coverage, level * 255 / 100, stop);
    for (Loop& loop : loops)
        for (Point& p : loop)
            p = toMillimetres(p);
    return sifted(std::move(loops), options);
}

/// How many pixels an edge takes from nothing to full coverage: the median at places along the loop, in
/// pixels.
double widthOfEdge(const Grid<std::uint8_t>& coverage, std::span<const Point> loop, const Affine& toPixels) {
    constexpr std::size_t places = 64;
    std::vector<double> widths;
    for (std::size_t i = 0; i < loop.size(); i += std::max<std::size_t>(1, loop.size() / places)) {
        const Point p = toPixels(loop[i]);
        const int x = int(std::floor(p.x - 0.5)), y = int(std::floor(p.y - 0.5));
        if (x < 0 || y < 0 || x + 1 >= coverage.width() || y + 1 >= coverage.height())
            continue;
        const double a = coverage.at(x, y), b = coverage.at(x + 1, y), c = coverage.at(x, y + 1),
                     d = coverage.at(x + 1, y + 1);
        widths.push_back(510 / std::max(1.0, std::hypot(b + d - a - c, c + d - a - b)));
    }
    if (widths.empty())
        return 1;
    const auto middle = widths.begin() + std::ptrdiff_t(widths.size() / 2);
    std::nth_element(widths.begin(), middle, widths.end());
    return *middle;
}

/// Of lines that cross, the outline of the area that they enclose together.
std::vector<Curve> merged(const std::vector<Curve>& lines) {
    const Region area = enclosedByOuter(flatten(lines, flatteningTolerance));
    std::vector<Curve> outline = fitLoops(area.loops, {finestTolerance, 0, 2 * finestTolerance});
    std::erase_if(outline, [](const Curve& curve) { return curve.segments.empty(); });
    return outline;
}

} // namespace

double fitTolerance(const Item& item, const EdgeOptions& options) {
    const bool isExact =
        options.way == EdgeWay::automatic || options.way == EdgeWay::paint || options.way == EdgeWay::lines;
    if (item.isVector() && isExact)
        return options.tolerance.value_or(finestTolerance);
    const double pixel = std::min(item.place.width / item.pixelWidth, item.place.height / item.pixelHeight);
    return options.tolerance.value_or(std::clamp(0.1 * pixel, finestTolerance, coarsestTolerance));
}

std::vector<EdgeLoop> findLoops(const Item& item, const Coverage& coverage, const EdgeOptions& options,
                                const std::stop_token& stop) {
    const double pixel = std::max(item.place.width / item.pixelWidth, item.place.height / item.pixelHeight);
    std::vector<FoundLoop> found =
        loopsAtLevel(item, coverage.cells, 1, options.level.value_or(coverage.level), options, stop);
    std::vector<FoundLine> lines;
    lines.reserve(found.size());
    const Affine toPixels = inverse(item.fromPixels());
    for (const FoundLoop& loop : found)
        lines.push_back(
            {loop.loop, true, coverage.scatter, widthOfEdge(coverage.cells, loop.loop, toPixels)});
    const std::vector<FitOptions> fits = fitsFor(lines, pixel, fitTolerance(item, options), options);
    return fittedLoops(std::move(found), fits, stop);
}

std::vector<Curve> edgeOf(std::span<const EdgeLoop> loops, const EdgeOptions& options, const Box& artwork) {
    std::vector<LoopFacts> facts;
    facts.reserve(loops.size());
    for (const EdgeLoop& loop : loops)
        facts.push_back(loop.facts);
    const std::vector<bool> chosen = chooseLoops(facts, options, artwork);
    std::vector<Curve> edge;
    bool hasHandwork = false;
    for (std::size_t i = 0; i < loops.size(); ++i)
        if (chosen[i] && loops[i].byHand.empty())
            edge.push_back(loops[i].curve);
        else if (chosen[i]) {
            std::vector<Curve> parts = untangled(loops[i].curve, finestTolerance);
            edge.insert(edge.end(), parts.begin(), parts.end());
            hasHandwork = true;
        }
    return hasHandwork && !crossingsOf(edge).empty() ? merged(edge) : edge;
}

std::vector<Curve> findEdge(const Item& item, const Coverage& coverage, const EdgeOptions& options,
                            const std::stop_token& stop) {
    return edgeOf(findLoops(item, coverage, options, stop), options, bounds(item));
}

EdgePreview previewOf(const Coverage& coverage) {
    constexpr double mostCells = 1e6;
    const double cells = double(coverage.cells.width()) * coverage.cells.height();
    const int factor = std::max(1, int(std::ceil(std::sqrt(cells / mostCells))));
    return {reduced(coverage.cells, factor), factor, coverage.level, coverage.way};
}

std::vector<Loop> roughEdge(const Item& item, const EdgePreview& preview, const EdgeOptions& options) {
    std::vector<FoundLoop> found =
        loopsAtLevel(item, preview.cells, preview.factor, options.level.value_or(preview.level), options, {});
    std::vector<LoopFacts> facts;
    facts.reserve(found.size());
    for (const FoundLoop& l : found)
        facts.push_back(l.facts);
    const std::vector<bool> chosen = chooseLoops(facts, options, item.wholeBox());
    std::vector<Loop> loops;
    for (std::size_t i = 0; i < found.size(); ++i)
        if (chosen[i])
            loops.push_back(std::move(found[i].loop));
    return loops;
}

std::vector<Curve> joinEdges(std::vector<std::vector<Curve>> edges, double tolerance,
                             const std::stop_token& stop) {
    std::vector<Region> regions;
    std::vector<Box> boxes;
    for (const std::vector<Curve>& edge : edges) {
        regions.push_back(flatten(edge, flatteningTolerance));
        boxes.push_back(bounds(regions.back()));
    }
    std::vector<Curve> joined;
    std::vector<Region> meeting;
    for (std::size_t i = 0; i < edges.size(); ++i) {
        bool isAlone = true;
        for (std::size_t j = 0; j < edges.size(); ++j)
            isAlone = isAlone && (j == i || !boxes[i].meets(boxes[j]));
        if (isAlone)
            std::move(edges[i].begin(), edges[i].end(), std::back_inserter(joined));
        else
            meeting.push_back(std::move(regions[i]));
    }
    for (Curve& curve : fitLoops(unite(meeting).loops, {tolerance, 0, 2 * tolerance}, stop))
        if (!curve.segments.empty())
            joined.push_back(std::move(curve));
    return joined;
}

} // namespace hasami
