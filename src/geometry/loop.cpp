#include "geometry/loop.h"

namespace hasami {

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

} // namespace hasami
