#include "machine/sheet_map.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace hasami {

Point SheetMap::operator()(Point sheet) const {
    const auto part = std::ranges::upper_bound(breaks_, sheet.x) - breaks_.begin();
    return mapped(parts_[std::size_t(part)], sheet);
}

double SheetMap::turnAt(Point sheet) const {
    const Point along = (*this)(sheet + Point{0.5, 0}) - (*this)(sheet - Point{0.5, 0});
    return std::atan2(along.y, along.x);
}

Point middleOf(std::span<const PointPair> pairs) {
    Point sum;
    for (const PointPair& pair : pairs)
        sum = sum + pair.from;
    return sum * (1.0 / double(pairs.size()));
}

SheetMap::Part fitted(std::span<const PointPair> pairs, bool withTwist) {
    const Point centre = middleOf(pairs);
    Eigen::MatrixXd left(pairs.size(), withTwist ? 4 : 3);
    Eigen::MatrixXd right(pairs.size(), 2);
    for (Eigen::Index i = 0; i < left.rows(); ++i) {
        const Point p = pairs[std::size_t(i)].from - centre;
        left(i, 0) = 1;
        left(i, 1) = p.x;
        left(i, 2) = p.y;
        if (withTwist)
            left(i, 3) = p.x * p.y;
        right(i, 0) = pairs[std::size_t(i)].to.x;
        right(i, 1) = pairs[std::size_t(i)].to.y;
    }
    const Eigen::MatrixXd s = left.colPivHouseholderQr().solve(right);
    SheetMap::Part part;
    part.centre = centre;
    part.affine =
        Affine{s(1, 0), s(1, 1), s(2, 0), s(2, 1), s(0, 0), s(0, 1)} * Affine::translation(centre * -1);
    if (withTwist)
        part.twist = {s(3, 0), s(3, 1)};
    return part;
}

Affine similarityOf(const PointPair& a, const PointPair& b) {
    const Point from = b.from - a.from, to = b.to - a.to;
    const double squared = dot(from, from);
    const double c = dot(from, to) / squared, s = cross(from, to) / squared;
    return Affine::translation(a.to) * Affine{c, s, -s, c, 0, 0} * Affine::translation(a.from * -1);
}

Point mapped(const SheetMap::Part& part, Point p) {
    const Point d = p - part.centre;
    return part.affine(p) + part.twist * (d.x * d.y);
}

double residualOf(const SheetMap::Part& part, std::span<const PointPair> pairs) {
    double squares = 0;
    for (const PointPair& pair : pairs)
        squares += dot(mapped(part, pair.from) - pair.to, mapped(part, pair.from) - pair.to);
    return std::sqrt(squares / double(pairs.size()));
}

MapShape shapeOf(const Affine& map) {
    const Point x{map.a, map.b}, y{map.c, map.d};
    return {length(x), length(y), dot(x, y) / (length(x) * length(y))};
}

bool isPlausible(const Affine& map) {
    const MapShape shape = shapeOf(map);
    return std::abs(shape.along - 1) <= MapShape::mostScale &&
           std::abs(shape.across - 1) <= MapShape::mostScale &&
           std::abs(shape.shear) <= MapShape::mostShear && map.determinant() > 0;
}

bool spanPlane(Point a, Point b, Point c) {
    const double longest = std::max({distance(a, b), distance(b, c), distance(a, c)});
    return std::abs(cross(b - a, c - a)) > 0.02 * longest * longest;
}

std::vector<PointPair> nearestTo(Point place, std::vector<PointPair> pairs, std::size_t count) {
    std::ranges::sort(pairs, {}, [&](const PointPair& pair) { return distance(place, pair.from); });
    pairs.resize(std::min(count, pairs.size()));
    return pairs;
}

} // namespace hasami
