#include "edge/found_loops.h"

#include "geometry/fit_loops.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <map>
#include <unordered_map>

namespace hasami {

namespace {

/// Loops by the stretch of x that their boxes take up: each stands in one slot of a row of slots that are as
/// wide as itself, or up to twice as wide. A place has to look into two slots of each row.
class BySpan {
public:
    void add(std::size_t index, const Box& box) {
        const int row = int(std::ceil(std::log2(std::max(box.width(), finest))));
        rows_[row][slotOf(box.least.x, row)].push_back(index);
    }

    template <class Visit>
    void visitAround(double x, Visit visit) const {
        for (const auto& [row, slots] : rows_)
            for (const std::int64_t slot : {slotOf(x, row) - 1, slotOf(x, row)})
                if (const auto found = slots.find(slot); found != slots.end())
                    for (const std::size_t index : found->second)
                        visit(index);
    }

private:
    static constexpr double finest = 1e-4; // mm

    static std::int64_t slotOf(double x, int row) { return std::int64_t(std::floor(std::ldexp(x, -row))); }

    std::map<int, std::unordered_map<std::int64_t, std::vector<std::size_t>>> rows_;
};

/// In how many others each loop lies. The loops come by size, the largest first.
void countDepths(std::vector<FoundLoop>& loops) {
    BySpan larger;
    for (std::size_t i = 0; i < loops.size(); ++i) {
        const Point p = loops[i].loop.front();
        larger.visitAround(p.x, [&](std::size_t j) {
            const Box& box = loops[j].facts.box;
            if (p.x > box.least.x && p.x < box.most.x && p.y > box.least.y && p.y < box.most.y &&
                contains(loops[j].loop, p))
                ++loops[i].facts.depth;
        });
        larger.add(i, loops[i].facts.box);
    }
}

/// mm: what is thinner on average is a seam between two paints, which no knife can cut.
constexpr double thinnest = 0.01;

} // namespace

std::vector<FoundLoop> sifted(std::vector<Loop> loops, const EdgeOptions& options) {
    std::vector<FoundLoop> found;
    for (Loop& loop : loops) {
        const double loopArea = signedArea(loop);
        if (loopArea > 0 ? loopArea < options.leastSpeck : -loopArea < options.leastOpening)
            continue;
        if (2 * std::abs(loopArea) < thinnest * perimeter(loop))
            continue;
        const Box box = bounds(loop);
        found.push_back({std::move(loop), {loopArea, box, 0}});
    }
    std::stable_sort(found.begin(), found.end(), [](const FoundLoop& a, const FoundLoop& b) {
        return std::abs(a.facts.area) > std::abs(b.facts.area);
    });
    countDepths(found);
    return found;
}

std::vector<EdgeLoop> fittedLoops(std::vector<FoundLoop> found, std::span<const FitOptions> fits,
                                  const std::stop_token& stop) {
    std::vector<Loop> loops;
    loops.reserve(found.size());
    for (FoundLoop& one : found)
        loops.push_back(std::move(one.loop));
    std::vector<Curve> curves = fitLoops(loops, fits, stop);
    std::vector<EdgeLoop> fitted;
    for (std::size_t i = 0; i < found.size(); ++i)
        if (!curves[i].segments.empty())
            fitted.push_back({found[i].facts, std::move(curves[i]), {}, {}});
    return fitted;
}

} // namespace hasami
