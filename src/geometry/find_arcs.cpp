#include "geometry/find_arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

constexpr double leastSweep = 60 * std::numbers::pi / 180;
constexpr double widestStep = 50 * std::numbers::pi / 180; // between two points in a row
constexpr std::size_t fewestPoints = 6;

struct Circle {
    Point centre;
    double radius = 0;
};

/// By least squares of the squared distances (I. Kåsa, 1976), from the stretch's own middle on, so that
/// little is lost far from the origin.
std::optional<Circle> circleThrough(std::span<const Point> points) {
    Point middle;
    for (const Point p : points)
        middle = middle + p;
    middle = middle * (1.0 / double(points.size()));
    double xx = 0, xy = 0, yy = 0, xz = 0, yz = 0, zz = 0;
    for (const Point p : points) {
        const Point d = p - middle;
        const double z = dot(d, d);
        xx += d.x * d.x;
        xy += d.x * d.y;
        yy += d.y * d.y;
        xz += d.x * z;
        yz += d.y * z;
        zz += z;
    }
    const double determinant = xx * yy - xy * xy;
    if (determinant <= 1e-12 * xx * yy || determinant <= 0)
        return {};
    const Point centre{(xz * yy - yz * xy) / (2 * determinant), (yz * xx - xz * xy) / (2 * determinant)};
    return Circle{middle + centre, std::sqrt(dot(centre, centre) + zz / double(points.size()))};
}

class ArcFinder {
public:
    ArcFinder(std::span<const Point> path, const FineTest& isFine, double leastRise)
        : path_(path), isFine_(isFine), leastRise_(leastRise) {}

    std::vector<ArcStretch> find(std::size_t begin) {
        std::vector<ArcStretch> arcs;
        for (std::size_t first = begin; first + fewestPoints <= path_.size();) {
            const std::size_t last = farthestFrom(first);
            const auto arc = last > first ? arcOf(first, last) : std::nullopt;
            if (!arc) {
                first += std::max<std::size_t>(1, (last - first) / 4);
                continue;
            }
            const ArcStretch longest = extended(*arc, arcs.empty() ? begin : arcs.back().last + 2);
            arcs.push_back(longest);
            first = longest.last + 2;
        }
        return arcs;
    }

private:
    std::span<const Point> stretch(std::size_t first, std::size_t last) const {
        return path_.subspan(first, last - first + 1);
    }

    bool lieOn(const Circle& circle, std::size_t first, std::size_t last) const {
        double squares = 0, largest = 0;
        for (const Point p : stretch(first, last)) {
            const double off = std::abs(distance(p, circle.centre) - circle.radius);
            squares += off * off;
            largest = std::max(largest, off);
        }
        return isFine_(squares / double(last - first + 1), largest, last - first + 1);
    }

    bool isArc(std::size_t first, std::size_t last) const {
        const auto circle = circleThrough(stretch(first, last));
        return circle && lieOn(*circle, first, last);
    }

    /// The last point up to which one circle goes: by doubling, then by halving.
    std::size_t farthestFrom(std::size_t first) const {
        const std::size_t end = path_.size() - 1;
        std::size_t good = first, bad = first;
        for (std::size_t step = fewestPoints - 1;; step *= 2) {
            const std::size_t last = std::min(first + step, end);
            if (!isArc(first, last)) {
                bad = last;
                break;
            }
            good = last;
            if (last == end)
                return end;
        }
        while (good > first && bad - good > 1 + (good - first) / 16) {
            const std::size_t middle = (good + bad) / 2;
            (isArc(first, middle) ? good : bad) = middle;
        }
        return good;
    }

    std::optional<ArcStretch> arcOf(std::size_t first, std::size_t last) const {
        const auto circle = circleThrough(stretch(first, last));
        if (!circle || !lieOn(*circle, first, last))
            return {};
        double sweep = 0;
        for (std::size_t i = first; i < last; ++i) {
            const Point a = path_[i] - circle->centre, b = path_[i + 1] - circle->centre;
            const double step = std::atan2(cross(a, b), dot(a, b));
            if (std::abs(step) > widestStep)
                return {};
            sweep += step;
        }
        const double rise = circle->radius * (1 - std::cos(std::min(std::abs(sweep), std::numbers::pi) / 2));
        if (std::abs(sweep) < leastSweep || rise < leastRise_)
            return {};
        return ArcStretch{first, last, circle->centre, circle->radius, sweep};
    }

    /// As far both ways as the circle goes, and no farther: a greedy search overshoots where the path leaves
    /// the circle slowly, and begins late.
    ArcStretch extended(const ArcStretch& arc, std::size_t least) const {
        // The inner part determines the circle.
        const std::size_t inset = (arc.last - arc.first) / 8;
        const auto inner = circleThrough(stretch(arc.first + inset, arc.last - inset));
        if (!inner)
            return arc;
        // The last three leave it: the path does, and not its scatter.
        const auto follows = [&](std::size_t i, std::size_t begin) {
            double mean = 0;
            for (std::size_t k = begin; k < begin + 3; ++k)
                mean += (distance(path_[k], inner->centre) - inner->radius) / 3;
            const double own = std::abs(distance(path_[i], inner->centre) - inner->radius);
            return isFine_(mean * mean, std::max(std::abs(mean), own), 3);
        };
        std::size_t first = arc.first + inset, last = arc.last - inset;
        while (first > least && follows(first - 1, first - 1))
            --first;
        while (last + 1 < path_.size() && follows(last + 1, last - 1))
            ++last;
        const auto refined = arcOf(first, last);
        return refined ? *refined : arc;
    }

    std::span<const Point> path_;
    const FineTest& isFine_;
    double leastRise_;
};

} // namespace

Point ArcStretch::directionAt(Point p) const {
    const Point out = unit(p - centre);
    return sweep > 0 ? Point{-out.y, out.x} : Point{out.y, -out.x};
}

std::vector<ArcStretch> findArcs(std::span<const Point> path, const FineTest& isFine, double leastRise,
                                 std::size_t begin) {
    return ArcFinder(path, isFine, leastRise).find(begin);
}

std::vector<CurveSegment> arcPieces(Point from, Point to, double sweep) {
    // The centre lies off the chord's middle, by the sweep.
    const Point chord = to - from;
    return arcPieces(from, to, sweep,
                     between(from, to, 0.5) + Point{-chord.y, chord.x} * (0.5 / std::tan(sweep / 2)));
}

std::vector<CurveSegment> arcPieces(Point from, Point to, double sweep, Point centre) {
    constexpr double widest = std::numbers::pi / 3;
    const int count = std::max(1, int(std::ceil(std::abs(sweep) / widest - 1e-9)));
    const double step = sweep / count;
    const double reach = 4.0 / 3 * std::tan(step / 4);
    const auto turned = [](Point p) { return Point{-p.y, p.x}; };
    std::vector<CurveSegment> pieces;
    Point at = from;
    for (int i = 1; i <= count; ++i) {
        const double angle = step * i;
        const Point out = from - centre;
        const Point end = i == count ? to
                                     : centre + Point{out.x * std::cos(angle) - out.y * std::sin(angle),
                                                      out.x * std::sin(angle) + out.y * std::cos(angle)};
        pieces.push_back({at + turned(at - centre) * reach, end - turned(end - centre) * reach, end, false,
                          std::tan(step / 4)});
        at = end;
    }
    return pieces;
}

std::vector<CurveSegment> circlePieces(Point from, Point centre, bool clockwise) {
    const Point opposite = centre - (from - centre);
    const double half = clockwise ? std::numbers::pi : -std::numbers::pi;
    std::vector<CurveSegment> pieces = arcPieces(from, opposite, half);
    for (const CurveSegment& s : arcPieces(opposite, from, half))
        pieces.push_back(s);
    return pieces;
}

} // namespace hasami
