#include "sheet/closeness.h"

#include "geometry/region_operations.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hasami {

namespace {

constexpr double never = -std::numeric_limits<double>::infinity();
constexpr double roundings = 0.01; // mm; arcs of a grown outline may lie inside by half of that
constexpr double finest = 1e4;     // steps a mm that distinguish places aside

/// A point as the axis sees it: along it, and aside of it.
struct Seen {
    double along, aside;
};

Seen seen(Point p, Closeness::Axis axis) {
    return axis == Closeness::Axis::along ? Seen{p.x, p.y} : Seen{p.y, p.x};
}

/// How far the shape reaches at a place aside, forwards (sign 1) or backwards (-1); never where it is not.
double reachAt(const Region& shape, double aside, Closeness::Axis axis, double sign) {
    double most = never;
    for (const Loop& loop : shape.loops)
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Seen a = seen(loop[i], axis), b = seen(loop[(i + 1) % loop.size()], axis);
            if (std::min(a.aside, b.aside) > aside || std::max(a.aside, b.aside) < aside)
                continue;
            const double across = b.aside - a.aside;
            const double at = across == 0
                                  ? std::max(a.along * sign, b.along * sign)
                                  : (a.along + (b.along - a.along) * (aside - a.aside) / across) * sign;
            most = std::max(most, at);
        }
    return most;
}

} // namespace

Closeness::Closeness(std::vector<Region> shapes, double gapAlong, double gapAcross, bool byBoxes)
    : shapes_(std::move(shapes)), gapAlong_(gapAlong), gapAcross_(gapAcross), byBoxes_(byBoxes) {
    for (const Region& shape : shapes_) {
        boxes_.push_back(bounds(shape));
        if (byBoxes)
            continue;
        grownAlong_.push_back(offset(shape, gapAlong + roundings));
        grownAcross_.push_back(offset(shape, gapAcross + roundings));
    }
}

double Closeness::leastWay(std::size_t first, std::size_t later, double aside, Axis axis) {
    const Box &a = boxes_[first], &b = boxes_[later];
    const bool isAlong = axis == Axis::along;
    const double gap = isAlong ? gapAlong_ : gapAcross_;
    constexpr double slack = 1e-6; // mm
    const bool passes =
        isAlong ? b.least.y + aside > a.most.y + gap - slack || b.most.y + aside < a.least.y - gap + slack
                : b.least.x + aside > a.most.x + gap - slack || b.most.x + aside < a.least.x - gap + slack;
    if (passes)
        return never;
    if (byBoxes_)
        return isAlong ? a.most.x + gap - b.least.x : a.most.y + gap - b.least.y;
    const auto [known, isNew] = known_.try_emplace({first, later, std::llround(aside * finest), axis}, 0);
    if (isNew)
        known->second = outlineWay(first, later, aside, axis);
    return known->second;
}

/// The difference of two piecewise linear profiles is largest at a corner of one of them.
double Closeness::outlineWay(std::size_t first, std::size_t later, double aside, Axis axis) const {
    const Region& a = (axis == Axis::along ? grownAlong_ : grownAcross_)[first];
    const Region& b = shapes_[later];
    double most = never;
    for (const Loop& loop : a.loops)
        for (const Point p : loop) {
            const Seen corner = seen(p, axis);
            most = std::max(most, corner.along + reachAt(b, corner.aside - aside, axis, -1));
        }
    for (const Loop& loop : b.loops)
        for (const Point p : loop) {
            const Seen corner = seen(p, axis);
            most = std::max(most, reachAt(a, corner.aside + aside, axis, 1) - corner.along);
        }
    return most;
}

} // namespace hasami
