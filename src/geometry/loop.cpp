#include "geometry/loop.h"

namespace hasami {

namespace {

/// What lies on the inner side of a line, where `depth` is at least zero.
template <typename Depth>
Loop cutAt(const Loop& loop, const Depth& depth) {
    Loop cut;
    cut.reserve(loop.size() + 4);
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Point from = loop[i], to = loop[i + 1 < loop.size() ? i + 1 : 0];
        const double before = depth(from), after = depth(to);
        if (before >= 0)
            cut.push_back(from);
        if ((before >= 0) != (after >= 0))
            cut.push_back(from + (to - from) * (before / (before - after)));
    }
    return cut;
}

} // namespace

double signedArea(std::span<const Point> loop) {
    if (loop.size() < 3)
        return 0;
    // Relative to the first point, so that a small loop far from the origin keeps its digits.
    const Point origin = loop.front();
    double twice = 0;
    for (std::size_t i = 1; i + 1 < loop.size(); ++i)
        twice += cross(loop[i] - origin, loop[i + 1] - origin);
    return twice / 2;
}

double perimeter(std::span<const Point> loop) {
    double sum = 0;
    for (std::size_t i = 0; i < loop.size(); ++i)
        sum += distance(loop[i], loop[i + 1 < loop.size() ? i + 1 : 0]);
    return sum;
}

Box bounds(std::span<const Point> points) {
    Box box;
    for (const Point p : points)
        box.add(p);
    return box;
}

Loop cutTo(const Loop& loop, const Box& box) {
    if (box.holds(bounds(loop)))
        return loop;
    Loop cut = cutAt(loop, [&](Point p) { return p.x - box.least.x; });
    cut = cutAt(cut, [&](Point p) { return box.most.x - p.x; });
    cut = cutAt(cut, [&](Point p) { return p.y - box.least.y; });
    return cutAt(cut, [&](Point p) { return box.most.y - p.y; });
}

double area(const Region& region) {
    double sum = 0;
    for (const Loop& loop : region.loops)
        sum += signedArea(loop);
    return sum;
}

Box bounds(const Region& region) {
    Box box;
    for (const Loop& loop : region.loops)
        box.add(bounds(loop));
    return box;
}

bool contains(std::span<const Point> loop, Point p) {
    bool inside = false;
    for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++) {
        const Point a = loop[i], b = loop[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x)
            inside = !inside;
    }
    return inside;
}

Region regionOf(const Box& box) {
    if (box.isEmpty())
        return {};
    return {{{box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}}};
}

} // namespace hasami
