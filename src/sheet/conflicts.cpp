#include "sheet/conflicts.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

namespace hasami {

namespace {

Box areaOf(const SheetPlan& plan, const Profile& profile) {
    return workArea(plan, profile).grownBy((plan.box ? -plan.box->margin : 0) + conflictTolerance);
}

const Copies& copiesOf(const std::vector<Copies>& copies, std::string_view design) {
    return *std::find_if(copies.begin(), copies.end(), [&](const Copies& c) { return c.design == design; });
}

Body bodyOf(const Box& box) {
    return Body({{{box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}}});
}

std::vector<Body> bodiesOf(const Sheet& sheet, const std::vector<Copies>& copies) {
    std::vector<Body> bodies;
    bodies.reserve(sheet.pieces.size());
    for (const Piece& piece : sheet.pieces)
        bodies.emplace_back(outlineOf(copiesOf(copies, piece.design), piece.place));
    return bodies;
}

class ConflictSearch {
public:
    ConflictSearch(const SheetPlan& plan, const Profile& profile, const std::stop_token& stop)
        : plan_(plan), profile_(profile), area_(areaOf(plan, profile)), stop_(stop) {}

    void add(std::size_t sheet, const std::vector<Body>& bodies, std::vector<Conflict>& conflicts) const {
        std::vector<Body> kept;
        for (const Box& box : keptFree(plan_, profile_, int(sheet)))
            kept.push_back(bodyOf(box));
        std::vector<std::size_t> order(bodies.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return bodies[a].box.least.x < bodies[b].box.least.x;
        });
        std::vector<std::size_t> open;
        for (const std::size_t i : order) {
            throwIfStopped(stop_);
            if (!area_.holds(bodies[i].box))
                conflicts.push_back({sheet, i, Conflict::With::edge, 0});
            for (std::size_t k = 0; k < kept.size(); ++k)
                if (comesTooClose(bodies[i], kept[k], plan_.gap))
                    conflicts.push_back({sheet, i, Conflict::With::kept, k});
            std::erase_if(open, [&](std::size_t other) {
                return bodies[other].box.most.x + plan_.gap < bodies[i].box.least.x;
            });
            for (const std::size_t other : open)
                if (comesTooClose(bodies[i], bodies[other], plan_.gap))
                    conflicts.push_back(
                        {sheet, std::min(i, other), Conflict::With::piece, std::max(i, other)});
            open.push_back(i);
        }
    }

private:
    const SheetPlan& plan_;
    const Profile& profile_;
    Box area_;
    std::stop_token stop_;
};

} // namespace

std::vector<Conflict> findConflicts(const Layout& layout, const std::vector<Copies>& copies,
                                    const SheetPlan& plan, const Profile& profile,
                                    const std::stop_token& stop) {
    std::vector<Conflict> conflicts;
    const ConflictSearch search(plan, profile, stop);
    for (std::size_t i = 0; i < layout.sheets.size(); ++i)
        search.add(i, bodiesOf(layout.sheets[i], copies), conflicts);
    return conflicts;
}

std::vector<std::size_t> misplaced(const Layout& layout) {
    std::vector<std::size_t> firsts{0};
    for (const Sheet& sheet : layout.sheets)
        firsts.push_back(firsts.back() + sheet.pieces.size());
    std::vector<std::size_t> numbers;
    for (const Conflict& conflict : layout.conflicts) {
        numbers.push_back(firsts[conflict.sheet] + conflict.piece);
        if (conflict.with == Conflict::With::piece)
            numbers.push_back(firsts[conflict.sheet] + conflict.other);
    }
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    return numbers;
}

Body bodyOf(const LaidPiece& piece, const std::vector<Copies>& copies) {
    const Copies& c = copiesOf(copies, piece.design);
    return Body(outlineOf(c, placeOf(c, piece.centre, piece.turn)));
}

Surroundings::Surroundings(const std::vector<LaidPiece>& laid, const std::vector<Copies>& copies,
                           const SheetPlan& plan, const Profile& profile, int sheet,
                           const std::vector<std::size_t>& moved)
    : area_(areaOf(plan, profile)), gap_(plan.gap) {
    for (std::size_t i = 0; i < laid.size(); ++i)
        if (laid[i].sheet == sheet && !std::binary_search(moved.begin(), moved.end(), i)) {
            bodies_.push_back(bodyOf(laid[i], copies));
            numbers_.push_back(i);
        }
    for (const Box& box : keptFree(plan, profile, sheet))
        bodies_.push_back(bodyOf(box));
}

bool Surroundings::isFree(const Body& body, Point by) const {
    return area_.holds(body.box.movedBy(by)) &&
           std::none_of(bodies_.begin(), bodies_.end(),
                        [&](const Body& b) { return comesTooClose(b, body, gap_, by); });
}

bool Surroundings::areFree(const std::vector<Body>& bodies, Point by) const {
    return std::all_of(bodies.begin(), bodies.end(), [&](const Body& body) { return isFree(body, by); });
}

std::vector<std::size_t> Surroundings::tooClose(const Body& body) const {
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < numbers_.size(); ++i)
        if (comesTooClose(bodies_[i], body, gap_))
            found.push_back(numbers_[i]);
    return found;
}

/// Rings of places around where they are, each a little wider; what is found is drawn back in.
std::optional<Point> Surroundings::nearestFree(const std::vector<Body>& bodies) const {
    if (areFree(bodies, {}))
        return Point{};
    Box all;
    for (const Body& body : bodies)
        all.add(body.box);
    const Point middle = all.centre();
    double farthest = 0; // from a place to the farthest corner that anything lies at
    Box known = all;
    for (const Body& body : bodies_)
        known.add(body.box);
    known = {{std::max(known.least.x, area_.least.x), std::max(known.least.y, area_.least.y)},
             {std::min(known.most.x, area_.most.x), std::min(known.most.y, area_.most.y)}};
    for (const Point corner :
         {known.least, known.most, Point{known.least.x, known.most.y}, Point{known.most.x, known.least.y}})
        farthest = std::max(farthest, distance(corner, middle));
    farthest += all.width() + all.height() + 2 * gap_;
    constexpr double finest = 0.5, widening = 1.04; // mm
    constexpr int mostWays = 96;
    double radius = 0;
    while (radius < farthest) {
        radius = std::max(radius + finest, radius * widening);
        const int ways = std::clamp(int(2 * std::numbers::pi * radius / finest), 16, mostWays);
        for (int i = 0; i < ways; ++i) {
            const double angle = 2 * std::numbers::pi * i / ways;
            const Point way{std::cos(angle), std::sin(angle)};
            if (!areFree(bodies, way * radius))
                continue;
            double hindered = std::max(0.0, radius / widening - finest), free = radius;
            while (free - hindered > 0.005) {
                const double half = (free + hindered) / 2;
                (areFree(bodies, way * half) ? free : hindered) = half;
            }
            return way * free;
        }
    }
    return {};
}

std::vector<ShortestWay> Surroundings::waysToNearest(const Body& body, std::size_t most, double reach) const {
    std::vector<ShortestWay> ways;
    for (const Body& other : bodies_)
        if (body.box.grownBy(reach).meets(other.box))
            if (const ShortestWay way = shortestWay(body, other); way.length <= reach)
                ways.push_back(way);
    std::sort(ways.begin(), ways.end(),
              [](const ShortestWay& a, const ShortestWay& b) { return a.length < b.length; });
    ways.resize(std::min(ways.size(), most));
    return ways;
}

} // namespace hasami
