#include "nesting/shape/outline.h"

#include "base/error.h"
#include "base/translation.h"
#include "geometry/region_operations.h"
#include "nesting/shape/side_grid.h"

#include <queue>

#include <algorithm>
#include <cmath>

namespace hasami::nesting {

namespace {

constexpr double hair = 1e-7;             // mm: points closer than this are one
constexpr double farthestOffset = 80'000; // mm: well within what areas are computed in

/// Each place once, however often the loop stops there; its end is not its start again.
Loop withoutRepeats(const Loop& loop) {
    Loop kept;
    for (const Point p : loop)
        if (kept.empty() || distance(kept.back(), p) > hair)
            kept.push_back(p);
    while (kept.size() > 1 && distance(kept.back(), kept.front()) <= hair)
        kept.pop_back();
    return kept;
}

/// Points that say nothing, left out until none is left.
Loop withoutIdlePoints(const Loop& loop, bool& hasSpike) {
    const auto isIdle = [&](Point a, Point b, Point c) {
        if (std::abs(cross(b - a, c - b)) > hair * std::max(distance(a, c), hair))
            return false;
        if (dot(b - a, c - b) < 0) {
            hasSpike = true;
            return false;
        }
        return true;
    };
    for (Loop now = withoutRepeats(loop);;) {
        hasSpike = false;
        Loop kept;
        for (std::size_t i = 0; i < now.size(); ++i) {
            const Point before = kept.empty() ? now.back() : kept.back();
            if (!isIdle(before, now[i], now[(i + 1) % now.size()]))
                kept.push_back(now[i]);
        }
        if (kept.size() == now.size() || kept.size() < 3)
            return kept;
        now = withoutRepeats(kept);
    }
}

struct Side {
    Point a, b;
    double least, most; // x
};

int turn(Point a, Point b, Point c) {
    const double area = cross(b - a, c - a);
    const double rounding =
        1e-12 * (std::abs(b.x - a.x) + std::abs(b.y - a.y)) * (std::abs(c.x - a.x) + std::abs(c.y - a.y));
    return area > rounding ? 1 : area < -rounding ? -1 : 0;
}

bool cross(const Side& one, const Side& other) {
    return turn(one.a, one.b, other.a) * turn(one.a, one.b, other.b) < 0 &&
           turn(other.a, other.b, one.a) * turn(other.a, other.b, one.b) < 0;
}

} // namespace

bool sidesCross(const std::vector<Loop>& loops) {
    std::vector<Side> sides;
    for (const Loop& loop : loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point a = loop[i], b = loop[(i + 1) % loop.size()];
            sides.push_back({a, b, std::min(a.x, b.x), std::max(a.x, b.x)});
        }
    std::sort(sides.begin(), sides.end(), [](const Side& a, const Side& b) { return a.least < b.least; });
    std::vector<const Side*> open;
    for (const Side& side : sides) {
        std::erase_if(open, [&](const Side* other) { return other->most < side.least; });
        const auto [low, high] = std::minmax(side.a.y, side.b.y);
        for (const Side* other : open)
            if (std::max(other->a.y, other->b.y) >= low && std::min(other->a.y, other->b.y) <= high &&
                cross(side, *other))
                return true;
        open.push_back(&side);
    }
    return false;
}

Loop cleaned(const Loop& loop, bool isOpening, const std::string& name) {
    bool hasSpike = false;
    Loop kept = withoutIdlePoints(loop, hasSpike);
    if (kept.size() < 3)
        throw InputError(sentence("%1 has no area", name));
    if (sidesCross({kept}))
        throw InputError(sentence("%1 crosses itself", name));
    if (std::abs(signedArea(kept)) < 1e-9)
        throw InputError(sentence("%1 has no area", name));
    if (hasSpike)
        throw InputError(sentence("%1 has a spike of no width", name));
    const double own = std::abs(signedArea(kept));
    const double enclosedArea = area(enclosed({{kept}}, FillRule::evenOdd));
    if (std::abs(enclosedArea - own) > 1e-3 * own + 1e-3 * perimeter(kept))
        throw InputError(sentence("%1 crosses itself", name));
    if ((signedArea(kept) < 0) != isOpening)
        std::reverse(kept.begin(), kept.end());
    return kept;
}

std::vector<Loop> cornersMoved(const std::vector<Loop>& loops, double by) {
    constexpr double farthest = 1.5;
    std::vector<Loop> moved = loops;
    for (std::size_t k = 0; k < loops.size(); ++k) {
        const Loop& loop = loops[k];
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Point in = unit(loop[i] - loop[(i + loop.size() - 1) % loop.size()]);
            const Point out = unit(loop[(i + 1) % loop.size()] - loop[i]);
            const Point outward{in.y + out.y, -in.x - out.x};
            const double half = length(outward) / 2; // cosine of half the turn
            const Point way = unit(outward);
            moved[k][i] = loop[i] + way * (by * std::min(farthest, half > 0 ? 1 / half : farthest));
        }
    }
    return moved;
}

namespace {

/// Smaller by so much at the place farthest from the origin: no corner moves more, however sharp it is.
std::vector<Loop> scaled(std::vector<Loop> loops, double by) {
    double farthest = 0;
    for (const Loop& loop : loops)
        for (const Point p : loop)
            farthest = std::max(farthest, length(p));
    for (Loop& loop : loops)
        for (Point& p : loop)
            p = p * std::max(0.5, 1 + by / farthest);
    return loops;
}

} // namespace

std::vector<Loop> grown(const std::vector<Loop>& loops, double distance) {
    if (distance == 0)
        return loops;
    if (distance < 0) {
        std::vector<Loop> moved = cornersMoved(loops, distance);
        return sidesCross(moved) ? scaled(loops, distance) : moved;
    }
    // About their middle and magnified, so that arcs are right to 5 µm of what is offset.
    Region large{loops};
    const Box box = bounds(large);
    const double finer = std::clamp(farthestOffset / std::max({box.width(), box.height(), 1e-9}), 1.0, 8.0);
    for (Loop& loop : large.loops)
        for (Point& p : loop)
            p = (p - box.centre()) * finer;
    Region moved = grownSimple(large, distance * finer);
    for (Loop& loop : moved.loops)
        for (Point& p : loop)
            p = box.centre() + p * (1 / finer);
    return std::move(moved.loops);
}

namespace {

/// Loops whose points are taken away one by one, those first that add the least area.
class Simplifier {
public:
    Simplifier(const std::vector<Loop>& loops, const Coarseness& coarseness)
        : grid_(gridFor(loops)), wanted_(coarseness.points), mayBeOff_(coarseness.off) {
        for (const Loop& loop : loops) {
            const auto first = nodes_.size();
            for (std::size_t i = 0; i < loop.size(); ++i)
                nodes_.push_back(
                    {loop[i], first + (i + loop.size() - 1) % loop.size(), first + (i + 1) % loop.size()});
            whole_ += signedArea(loop);
        }
        for (std::size_t i = 0; i < nodes_.size(); ++i)
            addSide(i);
        whole_ = std::abs(whole_);
        left_ = nodes_.size();
        mayAdd_ = coarseness.extra * whole_;
    }

    std::vector<Loop> simplify() {
        constexpr int mostDoublings =
            10; // a rough outline is simplified farther rather than kept in too many points
        takeWhatIsCheap();
        for (int i = 0; i < mostDoublings && left_ > wanted_; ++i) {
            mayBeOff_ *= 2;
            takeWhatIsCheap();
        }
        return loops();
    }

private:
    struct Node {
        Point at;
        std::size_t before, after;
        double off = 0; ///< that it and the sides at it lie from the outline, at most
        unsigned stamp = 0;
        bool isThere = true;
    };
    struct Offer {
        double area, off;
        std::size_t node; ///< a bay's bottom that goes, or the first end of a side that does
        unsigned stamp;
        bool isSide;
        Point meets;
        bool operator<(const Offer& other) const { return area > other.area; }
    };

    static SideGrid gridFor(const std::vector<Loop>& loops) {
        std::size_t sides = 0;
        double length = 0;
        for (const Loop& loop : loops) {
            sides += loop.size();
            length += perimeter(loop);
        }
        return {bounds(Region{loops}), sides, length};
    }

    Point at(std::size_t i) const { return nodes_[i].at; }

    /// The side from a node on: computed again whenever one of its ends is another.
    void addSide(std::size_t i) { grid_.add(at(i), at(nodes_[i].after), std::uint32_t(i)); }

    void takeWhatIsCheap() {
        for (std::size_t i = 0; i < nodes_.size(); ++i)
            if (nodes_[i].isThere)
                offer(i);
        while (!offers_.empty()) {
            const Offer best = offers_.top();
            offers_.pop();
            const Node& node = nodes_[best.node];
            if (!node.isThere || node.stamp != best.stamp)
                continue;
            const bool isFree = best.area <= 1e-7 * whole_;
            const bool isCheap = added_ + best.area <= mayAdd_ && left_ > wanted_ / 4;
            const bool isNeeded = left_ > wanted_ && added_ + best.area <= 10 * mayAdd_;
            if (isFree || isCheap || isNeeded)
                take(best);
        }
    }

    void offer(std::size_t i) {
        const Node& node = nodes_[i];
        const std::size_t before = node.before, after = node.after, beyond = nodes_[after].after;
        if (nodes_[beyond].after == i || beyond == i || after == before)
            return; // a triangle
        const Point a = at(before), b = at(i), c = at(after), d = at(beyond);
        const double here = cross(b - a, c - b), there = cross(c - b, d - c);
        if (here <= 0) {
            const double off =
                distanceToSegment(b, a, c) + std::max({nodes_[before].off, node.off, nodes_[after].off});
            if (off <= mayBeOff_)
                offers_.push({-here / 2, off, i, node.stamp, false, {}});
        } else if (there > 0) {
            // The sides before and after go on until they meet.
            const double along = cross(b - a, d - c);
            if (along <= 1e-12)
                return;
            const Point q = b + (b - a) * (cross(c - b, d - c) / along);
            const double off = distanceToSegment(q, b, c) + std::max(node.off, nodes_[after].off);
            if (off <= mayBeOff_)
                offers_.push({std::abs(cross(c - b, q - b)) / 2, off, i, node.stamp, true, q});
        }
    }

    void take(const Offer& offer) {
        Node& node = nodes_[offer.node];
        const std::size_t before = node.before, after = node.after;
        if (offer.isSide) {
            if (meetsOther(at(offer.node), offer.meets, offer.node) ||
                meetsOther(offer.meets, at(after), offer.node))
                return;
            node.at = offer.meets;
            node.off = offer.off;
            node.after = nodes_[after].after;
            nodes_[node.after].before = offer.node;
            nodes_[after].isThere = false;
            addSide(before);
            addSide(offer.node);
            renew(offer.node);
        } else {
            if (meetsOther(at(before), at(after), offer.node))
                return;
            nodes_[before].after = after;
            nodes_[after].before = before;
            node.isThere = false;
            addSide(before);
            nodes_[before].off = std::max(nodes_[before].off, offer.off);
            nodes_[after].off = std::max(nodes_[after].off, offer.off);
            renew(before);
        }
        added_ += offer.area;
        --left_;
    }

    void renew(std::size_t i) {
        std::size_t from = nodes_[nodes_[i].before].before;
        for (int k = 0; k < 6; ++k, from = nodes_[from].after) {
            ++nodes_[from].stamp;
            offer(from);
        }
    }

    /// Whether a new side would run into others than its neighbours.
    bool meetsOther(Point a, Point b, std::size_t near) const {
        const Side fresh{a, b, std::min(a.x, b.x), std::max(a.x, b.x)};
        return grid_.any(a, b, [&](std::uint32_t i) {
            const Node& node = nodes_[i];
            if (!node.isThere)
                return false;
            const Point c = node.at, d = at(node.after);
            if (std::max(c.x, d.x) < fresh.least || std::min(c.x, d.x) > fresh.most ||
                std::max(c.y, d.y) < std::min(a.y, b.y) || std::min(c.y, d.y) > std::max(a.y, b.y))
                return false;
            const bool isNeighbour = i == near || node.after == near || i == nodes_[near].after ||
                                     node.after == nodes_[near].before;
            return isNeighbour ? cross(fresh, {c, d, 0, 0})
                               : turn(a, b, c) * turn(a, b, d) <= 0 && turn(c, d, a) * turn(c, d, b) <= 0;
        });
    }

    std::vector<Loop> loops() const {
        std::vector<Loop> loops;
        std::vector<bool> isDone(nodes_.size(), false);
        for (std::size_t i = 0; i < nodes_.size(); ++i) {
            if (!nodes_[i].isThere || isDone[i])
                continue;
            Loop& loop = loops.emplace_back();
            for (std::size_t j = i; !isDone[j]; j = nodes_[j].after) {
                isDone[j] = true;
                loop.push_back(nodes_[j].at);
            }
        }
        return loops;
    }

    std::vector<Node> nodes_;
    SideGrid grid_;
    std::priority_queue<Offer> offers_;
    std::size_t wanted_, left_ = 0;
    double whole_ = 0, added_ = 0, mayAdd_ = 0, mayBeOff_;
};

} // namespace

std::vector<Loop> simplifiedOutward(const std::vector<Loop>& loops, const Coarseness& coarseness) {
    return Simplifier(loops, coarseness).simplify();
}

Loop hullOf(const std::vector<Loop>& loops) {
    Loop all;
    for (const Loop& loop : loops)
        all.insert(all.end(), loop.begin(), loop.end());
    std::sort(all.begin(), all.end(),
              [](Point a, Point b) { return a.x < b.x || (a.x == b.x && a.y < b.y); });
    Loop hull;
    for (int half = 0; half < 2; ++half) {
        const std::size_t first = hull.size();
        for (const Point p : all) {
            while (hull.size() >= first + 2 &&
                   hasami::cross(hull.back() - hull[hull.size() - 2], p - hull.back()) <= 0)
                hull.pop_back();
            hull.push_back(p);
        }
        hull.pop_back();
        std::reverse(all.begin(), all.end());
    }
    return hull;
}

} // namespace hasami::nesting
