#include "support/nest_checker.h"

#include "geometry/affine.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <vector>

namespace hasami::test {

namespace {

constexpr double tolerance = 0.01, mostOverlap = 0.005; // mm

class NestChecker {
public:
    NestChecker(const nesting::Problem& problem, const nesting::Nest& nest) : problem_(problem) {
        for (const nesting::Placement& placement : nest.placements) {
            const nesting::Part& part = problem.parts.at(placement.part);
            bodies_.push_back({placement.sheet, mapped(part, placement.pose), part.id});
        }
        for (const nesting::Blocked& blocked : problem.blocked)
            bodies_.push_back({blocked.sheet, {blocked.outline}, "blocked"});
        placed_ = nest.placements.size();
        checkCounts(nest);
        checkRoom(nest);
        checkPairs();
    }

    const std::string& fault() const { return fault_; }

private:
    struct Body {
        int sheet;
        std::vector<Loop> loops;
        std::string name;
    };

    static std::vector<Loop> mapped(const nesting::Part& part, const nesting::Pose& pose) {
        const double c = std::cos(pose.rotation), s = std::sin(pose.rotation);
        std::vector<Loop> loops{part.outline};
        loops.insert(loops.end(), part.openings.begin(), part.openings.end());
        for (Loop& loop : loops)
            for (Point& p : loop) {
                const double x = pose.isMirrored ? -p.x : p.x;
                p = {pose.x + c * x - s * p.y, pose.y + s * x + c * p.y};
            }
        return loops;
    }

    void blame(const std::string& what) {
        if (fault_.empty())
            fault_ = what;
    }

    void checkCounts(const nesting::Nest& nest) {
        std::vector<int> seen(problem_.parts.size(), 0);
        for (const nesting::Placement& placement : nest.placements) {
            if (placement.copy != seen[placement.part]++)
                blame("copies are not counted one by one");
            const nesting::Part& part = problem_.parts[placement.part];
            if (placement.pose.isMirrored && !part.mayMirror && !isPinned(placement))
                blame(part.id + " is mirrored");
            if (part.rotations && !isPinned(placement)) {
                const auto isIt = [&](double turn) {
                    return std::abs(std::remainder(turn - placement.pose.rotation, 2 * std::numbers::pi)) <
                           1e-6;
                };
                if (std::none_of(part.rotations->begin(), part.rotations->end(), isIt))
                    blame(part.id + " is turned as it may not be");
            }
        }
        for (const nesting::NotPlaced& lost : nest.notPlaced)
            seen[lost.part] += lost.copies;
        for (std::size_t i = 0; i < seen.size(); ++i)
            if (seen[i] != problem_.parts[i].copies)
                blame("of " + problem_.parts[i].id + " there are " + std::to_string(seen[i]));
    }

    bool isPinned(const nesting::Placement& placement) const {
        return std::any_of(problem_.pinned.begin(), problem_.pinned.end(),
                           [&](const nesting::Pinned& pinned) {
                               return pinned.part == placement.part && pinned.pose == placement.pose;
                           });
    }

    void checkRoom(const nesting::Nest& nest) {
        double last = 0, area = 0;
        for (std::size_t i = 0; i < placed_; ++i) {
            const Body& body = bodies_[i];
            const Box box = bounds(body.loops.front());
            const double margin = problem_.margin - tolerance;
            if (box.least.x < margin || box.least.y < margin || box.most.y > problem_.media.width - margin ||
                (problem_.media.length && box.most.x > *problem_.media.length - margin))
                blame(body.name + " reaches out of the medium");
            if (body.sheet >= nest.sheets || (!problem_.media.length && body.sheet > 0))
                blame(body.name + " lies on no sheet");
            if (body.sheet + 1 == nest.sheets)
                last = std::max(last, box.most.x);
            area += std::abs(signedArea(body.loops.front()));
            for (std::size_t k = 1; k < body.loops.size(); ++k)
                area -= std::abs(signedArea(body.loops[k]));
        }
        if (placed_ == 0)
            return;
        if (std::abs(nest.usedLength - last - problem_.margin) > 1e-3)
            blame("the used length is " + std::to_string(last + problem_.margin));
        const double used =
            nest.usedLength + (nest.sheets > 1 ? (nest.sheets - 1) * problem_.media.length.value_or(0) : 0);
        if (std::abs(nest.density - area / (used * problem_.media.width)) > 1e-6)
            blame("the density is " + std::to_string(area / (used * problem_.media.width)));
    }

    void checkPairs() {
        std::vector<Box> boxes;
        for (const Body& body : bodies_)
            boxes.push_back(bounds(body.loops.front()).grownBy(problem_.gap / 2 + 1e-9));
        for (std::size_t i = 0; i < placed_; ++i)
            for (std::size_t j = i + 1; j < bodies_.size(); ++j)
                if (bodies_[i].sheet == bodies_[j].sheet && boxes[i].meets(boxes[j]))
                    checkPair(bodies_[i], bodies_[j]);
    }

    void checkPair(const Body& a, const Body& b) {
        if (problem_.gap > tolerance) {
            if (const double apart = distanceBetween(a.loops, b.loops); apart < problem_.gap - tolerance)
                blame(a.name + " and " + b.name + " are " + std::to_string(apart) + " apart");
            if (covers(a.loops, b.loops.front().front()) || covers(b.loops, a.loops.front().front()))
                blame(a.name + " and " + b.name + " lie upon each other");
            return;
        }
        if (const double depth = std::max(depthOf(a.loops, b.loops), depthOf(b.loops, a.loops));
            depth > mostOverlap)
            blame(a.name + " and " + b.name + " overlap by " + std::to_string(depth));
    }

    static bool covers(const std::vector<Loop>& loops, Point p) {
        bool isInside = false;
        for (const Loop& loop : loops)
            isInside = isInside != contains(loop, p);
        return isInside;
    }

    static double rimDistance(const std::vector<Loop>& loops, Point p) {
        double least = 1e300;
        for (const Loop& loop : loops)
            for (std::size_t i = 0; i < loop.size(); ++i)
                least = std::min(least, distanceToSegment(p, loop[i], loop[(i + 1) % loop.size()]));
        return least;
    }

    /// How far points along the first one's rim lie inside the other.
    static double depthOf(const std::vector<Loop>& a, const std::vector<Loop>& b) {
        double deepest = 0;
        for (const Loop& loop : a)
            for (std::size_t i = 0; i < loop.size(); ++i)
                for (int k = 0; k < 8; ++k) {
                    const Point p = between(loop[i], loop[(i + 1) % loop.size()], k / 8.0);
                    if (covers(b, p))
                        deepest = std::max(deepest, rimDistance(b, p));
                }
        return deepest;
    }

    static double distanceBetween(const std::vector<Loop>& a, const std::vector<Loop>& b) {
        double least = 1e300;
        for (const Loop& one : a)
            for (std::size_t i = 0; i < one.size(); ++i)
                for (const Loop& other : b)
                    for (std::size_t j = 0; j < other.size(); ++j)
                        least = std::min(least, distanceOfSides(one[i], one[(i + 1) % one.size()], other[j],
                                                                other[(j + 1) % other.size()]));
        return least;
    }

    static double distanceOfSides(Point a, Point b, Point c, Point d) {
        const auto side = [](Point p, Point q, Point r) { return cross(q - p, r - p) > 0; };
        if (side(a, b, c) != side(a, b, d) && side(c, d, a) != side(c, d, b))
            return 0;
        return std::min({distanceToSegment(a, c, d), distanceToSegment(b, c, d), distanceToSegment(c, a, b),
                         distanceToSegment(d, a, b)});
    }

    const nesting::Problem& problem_;
    std::vector<Body> bodies_;
    std::size_t placed_ = 0;
    std::string fault_;
};

} // namespace

std::string faultOf(const nesting::Problem& problem, const nesting::Nest& nest) {
    return NestChecker(problem, nest).fault();
}

} // namespace hasami::test
