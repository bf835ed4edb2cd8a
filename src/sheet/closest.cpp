#include "sheet/closest.h"

#include "geometry/region_operations.h"

#include <algorithm>
#include <limits>

namespace hasami {

namespace {

struct Side {
    Point a, b;
    Box box;
};

std::vector<Side> sidesNear(const Body& body, const Box& near, Point by) {
    std::vector<Side> sides;
    for (const Loop& loop : body.outline.loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            Side side{loop[i] + by, loop[i + 1 < loop.size() ? i + 1 : 0] + by, {}};
            side.box.add(side.a);
            side.box.add(side.b);
            if (side.box.meets(near))
                sides.push_back(side);
        }
    return sides;
}

bool cross(const Side& p, const Side& q) {
    const double a = hasami::cross(p.b - p.a, q.a - p.a), b = hasami::cross(p.b - p.a, q.b - p.a);
    const double c = hasami::cross(q.b - q.a, p.a - q.a), d = hasami::cross(q.b - q.a, p.b - q.a);
    return ((a > 0) != (b > 0)) && ((c > 0) != (d > 0));
}

/// The nearest point of a side.
Point nearest(Point p, const Side& side) {
    const Point way = side.b - side.a;
    const double squared = dot(way, way);
    return side.a + way * (squared > 0 ? std::clamp(dot(p - side.a, way) / squared, 0.0, 1.0) : 0);
}

bool holds(const Body& body, Point p) {
    bool isInside = false;
    for (const Loop& loop : body.outline.loops)
        isInside ^= contains(loop, p);
    return isInside;
}

bool sidesComeClose(const std::vector<Side>& mine, const std::vector<Side>& others, double least) {
    for (const Side& p : mine) {
        const Box around = p.box.grownBy(least);
        for (const Side& q : others) {
            if (!around.meets(q.box))
                continue;
            if (cross(p, q))
                return true;
            for (const auto& [point, side] : {std::pair(p.a, &q), {p.b, &q}, {q.a, &p}, {q.b, &p}})
                if (distance(point, nearest(point, *side)) < least)
                    return true;
        }
    }
    return false;
}

} // namespace

bool comesTooClose(const Body& a, const Body& b, double gap, Point by) {
    const Box second = b.box.movedBy(by);
    if (a.box.isEmpty() || b.box.isEmpty() || !a.box.grownBy(gap).meets(second))
        return false;
    const double least = gap - conflictTolerance;
    if (least <= 0) { // they may touch: one of them is shrunk by the tolerance
        const Body inner(offset(a.outline, least));
        return !inner.box.isEmpty() &&
               (sidesComeClose(sidesNear(inner, second, {}), sidesNear(b, inner.box, by), 0) ||
                holds(inner, b.outline.loops.front().front() + by) ||
                holds(b, inner.outline.loops.front().front() - by));
    }
    return sidesComeClose(sidesNear(a, second.grownBy(least), {}), sidesNear(b, a.box.grownBy(least), by),
                          least) ||
           holds(a, b.outline.loops.front().front() + by) || holds(b, a.outline.loops.front().front() - by);
}

ShortestWay shortestWay(const Body& a, const Body& b) {
    ShortestWay best{std::numeric_limits<double>::infinity(), {}, {}};
    const Box all{{-1e9, -1e9}, {1e9, 1e9}};
    const std::vector<Side> mine = sidesNear(a, all, {}), others = sidesNear(b, all, {});
    for (const Side& p : mine)
        for (const Side& q : others) {
            if (!p.box.grownBy(best.length).meets(q.box))
                continue;
            if (cross(p, q))
                return {0, p.a, p.a};
            for (const Point own : {p.a, p.b})
                if (const Point at = nearest(own, q); distance(own, at) < best.length)
                    best = {distance(own, at), own, at};
            for (const Point other : {q.a, q.b})
                if (const Point at = nearest(other, p); distance(other, at) < best.length)
                    best = {distance(other, at), at, other};
        }
    return best;
}

} // namespace hasami
