#include "geometry/fit_curves.h"

#include "geometry/find_arcs.h"
#include "geometry/find_corners.h"

#include <Eigen/Dense>

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

constexpr double tangentWindow = 6;       // in details to either side of a split
constexpr double cornerTangentWindow = 8; // in details from a corner into a side

/// The direction of the way at points[at], from a parabola over the arc length through all the points by
/// least squares: right on arcs, steady on noise.
Point directionAt(std::span<const Point> points, std::size_t at) {
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Matrix<double, 3, 2> right = Eigen::Matrix<double, 3, 2>::Zero();
    double total = 0;
    std::vector<double> along{0};
    for (std::size_t i = 1; i < points.size(); ++i)
        along.push_back(total += distance(points[i - 1], points[i]));
    if (total <= 0)
        return {};
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double t = (along[i] - along[at]) / total;
        const Eigen::Vector3d row(1, t, t * t);
        normal += row * row.transpose();
        right += row * Eigen::RowVector2d(points[i].x - points[at].x, points[i].y - points[at].y);
    }
    if (points.size() > 2 && normal.determinant() > 1e-12) {
        const Eigen::Matrix<double, 3, 2> solved = normal.ldlt().solve(right);
        const Point slope{solved(1, 0), solved(1, 1)};
        if (length(slope) > 0)
            return unit(slope);
    }
    return unit(points.back() - points.front());
}

/// Fits one run of points with given directions at its ends by as many cubics as it takes, joined smoothly.
class RunFit {
public:
    /// `isRound`: the run ends where it begins, and there is no corner.
    RunFit(std::span<const Point> points, const FitOptions& options, std::vector<CurveSegment>& out,
           bool isRound = false)
        : points_(points), options_(options), out_(out), isRound_(isRound) {}

    /// By arcs, and pieces that go on smoothly between them, if that takes no more pieces than without arcs
    /// (a free curve is no row of arcs).
    void fit(Point directionStart, Point directionEnd, const std::vector<ArcStretch>& arcs) {
        std::vector<CurveSegment> free, mixed;
        RunFit(points_, options_, free).layPieces(directionStart, directionEnd * -1);
        std::size_t ofArcs = 0;
        if (!arcs.empty())
            ofArcs = RunFit(points_, options_, mixed, isRound_).layMixed(directionStart, directionEnd, arcs);
        const bool takesArcs = !arcs.empty() && mixed.size() - ofArcs + arcs.size() <= free.size();
        const auto& taken = takesArcs ? mixed : free;
        out_.insert(out_.end(), taken.begin(), taken.end());
    }

    /// Gives back how many pieces are of arcs.
    std::size_t layMixed(Point directionStart, Point directionEnd, const std::vector<ArcStretch>& arcs) {
        std::vector<Point> points(points_.begin(), points_.end());
        for (const ArcStretch& arc : arcs) {
            onto(arc, arc.first, points);
            onto(arc, arc.last, points);
        }
        const std::vector<bool> isStraight = laySides(points, arcs);
        if (isRound_ && isStraight.front())
            directionEnd = unit(points[arcs.front().first] - points.front());
        if (isRound_ && isStraight.back())
            directionStart = unit(points.back() - points[arcs.back().last]);
        std::size_t ofArcs = 0, done = 0;
        Point tangent = directionStart;
        const auto layGap = [&](std::size_t gap, std::size_t end, Point direction) {
            if (isStraight[gap])
                out_.push_back(straightSegment(points[done], points[end]));
            else if (end > done)
                layBetween(points, done, end, tangent, direction);
        };
        for (std::size_t i = 0; i < arcs.size(); ++i) {
            const ArcStretch& arc = arcs[i];
            layGap(i, arc.first, arc.directionAt(points[arc.first]));
            const std::size_t before = out_.size();
            layArc(arc, points[arc.first], points[arc.last]);
            ofArcs += out_.size() - before;
            tangent = arc.directionAt(points[arc.last]);
            done = arc.last;
        }
        layGap(arcs.size(), points.size() - 1, directionEnd);
        return ofArcs;
    }

    /// Which of the gaps before, between and behind arcs are straight sides. There the arcs' ends are put
    /// where the sides touch their circles.
    std::vector<bool> laySides(std::vector<Point>& points, const std::vector<ArcStretch>& arcs) const {
        const std::size_t last = points.size() - 1;
        const bool isClosed = points.front() == points.back() && arcs.back().last == last;
        std::vector<bool> isStraight(arcs.size() + 1, false);
        for (std::size_t gap = 0; gap <= arcs.size(); ++gap) {
            const ArcStretch* before = gap > 0 ? &arcs[gap - 1] : isClosed ? &arcs.back() : nullptr;
            const ArcStretch* behind = gap < arcs.size() ? &arcs[gap] : nullptr;
            const std::size_t begin = gap > 0 ? before->last : 0, end = behind ? behind->first : last;
            if (end < begin + 10)
                continue;
            const auto line = lineThrough(std::span(points).subspan(begin + 2, end - begin - 3), options_);
            if (!line)
                continue;
            const auto from = touchOf(*line, before, points[begin]), to = touchOf(*line, behind, points[end]);
            if (!from || !to || !goesOn(before, *from, *to, *from) || !goesOn(behind, *from, *to, *to))
                continue;
            isStraight[gap] = true;
            points[begin] = *from;
            points[end] = *to;
            if (begin == 0 && isClosed)
                points[last] = *from;
        }
        return isStraight;
    }

    /// Where a side touches an arc's circle, or, without an arc, the corner that it ends at.
    std::optional<Point> touchOf(const Line& line, const ArcStretch* arc, Point corner) const {
        if (!arc)
            return line.distanceTo(corner) <= options_.tolerance ? std::optional(corner) : std::nullopt;
        const Point foot = line.at + line.direction * dot(arc->centre - line.at, line.direction);
        if (std::abs(distance(foot, arc->centre) - arc->radius) > options_.tolerance)
            return {};
        return arc->centre + unit(foot - arc->centre) * arc->radius;
    }

    /// Whether an arc goes on into a side, or a side into an arc, in the same direction.
    static bool goesOn(const ArcStretch* arc, Point from, Point to, Point at) {
        constexpr double same = 0.99997; // the cosine of 0.45 degrees
        return !arc || dot(arc->directionAt(at), unit(to - from)) > same;
    }

    /// Those that begin at the point `begin` or behind it.
    std::vector<ArcStretch> arcs(std::size_t begin) const {
        // Strict, so that no free curve is taken for a row of arcs: what is left is scatter alone.
        const double scatter = options_.scatter, tolerance = options_.tolerance;
        const auto isFine = [=](double meanSquare, double largest, std::size_t count) {
            const double chance = 1 + 3 * std::sqrt(2.0 / double(count)); // of the mean of that many squares
            return meanSquare <= chance * scatter * scatter + tolerance * tolerance / 256 &&
                   largest <= tolerance / 4 + 4 * scatter;
        };
        std::vector<ArcStretch> found = findArcs(points_, isFine, 10 * (tolerance / 4 + scatter), begin);
        std::erase_if(found, [&](const ArcStretch& arc) { return isOfSides(arc); });
        return found;
    }

    /// Smooth pieces without arcs; directions that are {} come from the points.
    void fitFree(Point directionStart, Point directionEnd) {
        layPieces(directionStart == Point{} ? directionAtStart() : directionStart,
                  (directionEnd == Point{} ? directionAtEnd() : directionEnd) * -1);
    }

    /// Between two corners: the directions at the ends come from the sides themselves.
    void fit() { fit(directionAtStart(), directionAtEnd(), arcs(0)); }

    bool isStraight() const {
        ErrorSum sum;
        for (std::size_t i = 0; i < points_.size(); ++i)
            sum.add(distanceToSegment(points_[i], points_.front(), points_.back()), i);
        return isFine(sum);
    }

private:
    struct ErrorSum {
        double length = 0; // of the piece, about
        double squares = 0, largest = -1;
        std::size_t count = 0, worst = 0;

        void add(double error, std::size_t at) {
            squares += error * error;
            ++count;
            if (error > largest) {
                largest = error;
                worst = at;
            }
        }
    };

    bool isFine(const ErrorSum& errors) const {
        const double count = double(std::max<std::size_t>(errors.count, 1));
        const double stretches = options_.grain > 0 ? std::max(1.0, errors.length / options_.grain) : 0;
        const double chance = stretches > 0 ? 1 + std::sqrt(2 / stretches) : 1;
        return isFine(errors.squares / count / chance, errors.largest);
    }

    bool isFine(double meanSquare, double largest) const {
        return hasami::isFine(options_, meanSquare, largest);
    }

    /// Where an arc begins or ends: on its circle, but at the run's own ends where the run begins and ends.
    static Point onto(const ArcStretch& arc, std::size_t at, std::vector<Point>& points) {
        if (at == 0 || at + 1 == points.size())
            return points[at];
        points[at] = arc.centre + unit(points[at] - arc.centre) * arc.radius;
        return points[at];
    }

    /// The ends may lie off the circle, where the run ends there: the pieces beside them lead to it, the
    /// others lie on it. Through the ends alone, long arcs would be far too wide or narrow.
    void layArc(const ArcStretch& arc, Point from, Point to) {
        const auto onCircle = [&](Point p) { return arc.centre + unit(p - arc.centre) * arc.radius; };
        const Point a = onCircle(from), b = onCircle(to);
        // The sweep between the ends as they are; the whole turns are those found.
        const double part =
            std::atan2(cross(a - arc.centre, b - arc.centre), dot(a - arc.centre, b - arc.centre));
        constexpr double turn = 2 * std::numbers::pi;
        const double sweep = part + turn * std::round((arc.sweep - part) / turn);
        std::vector<CurveSegment> pieces = arcPieces(a, b, sweep, arc.centre);
        constexpr double same = 1e-6; // mm
        if (distance(a, from) > same) {
            pieces.front().control1 = pieces.front().control1 + (from - a);
            pieces.front().bulge = 0;
        }
        if (distance(b, to) > same) {
            pieces.back().control2 = pieces.back().control2 + (to - b);
            pieces.back().bulge = 0;
        }
        pieces.back().end = to;
        out_.insert(out_.end(), pieces.begin(), pieces.end());
    }

    void layBetween(const std::vector<Point>& points, std::size_t first, std::size_t last,
                    Point directionStart, Point directionEnd) {
        RunFit(std::span(points).subspan(first, last - first + 1), options_, out_)
            .layPieces(directionStart, directionEnd * -1);
    }

    Point directionAtStart() const {
        std::size_t end = 1;
        while (end + 1 < points_.size() &&
               (end < 3 || distance(points_[end], points_.front()) < cornerTangentWindow * options_.detail))
            ++end;
        return directionAt(points_.first(end + 1), 0);
    }

    Point directionAtEnd() const {
        std::size_t count = 2;
        while (count < points_.size() &&
               (count < 4 || distance(points_[points_.size() - count], points_.back()) <
                                 cornerTangentWindow * options_.detail))
            ++count;
        return directionAt(points_.last(count), count - 1);
    }

    /// One cubic from points[first] to points[last], if one does. Tangents point into the piece.
    std::optional<CurveSegment> onePiece(std::size_t first, std::size_t last, Point tangent1,
                                         Point tangent2) const {
        const Point from = points_[first], to = points_[last];
        if (last - first == 1) {
            const double third = distance(from, to) / 3;
            const CurveSegment s{from + tangent1 * third, to + tangent2 * third, to, false};
            return leavesChord(from, s, to) ? straightSegment(from, to) : s;
        }
        std::vector<double> u = chordParameters(first, last);
        constexpr int rounds = 6;
        constexpr double ofScatter = 0.9; // pieces grow until they are off; so much of that is their own
        for (int round = 0; round < rounds; ++round) {
            const CurveSegment s = leastSquares(first, last, u, tangent1, tangent2);
            ErrorSum errors = errorsOf(first, last, u, s);
            if (options_.grain > 0)
                errors.squares /= ofScatter * ofScatter;
            if (isFine(errors))
                return s;
            if (errors.largest > 6 * (options_.tolerance + 4 * options_.scatter))
                return {};
            reparametrise(first, u, from, s);
        }
        return {};
    }

    /// Lays pieces from the first point on, each as long as one cubic goes: found by doubling, then by
    /// halving.
    void layPieces(Point tangent, Point lastTangent) {
        const std::size_t last = points_.size() - 1;
        std::size_t first = 0, guess = 16;
        while (first < last) {
            const auto endTangent = [&](std::size_t end) {
                return end == last ? lastTangent : centreDirection(end) * -1;
            };
            std::size_t good = first + 1, bad = last + 1;
            std::optional<CurveSegment> piece = onePiece(first, good, tangent, endTangent(good));
            for (std::size_t end = std::min(first + guess, last); good < bad - 1;) {
                if (auto longer =
                        end > good ? onePiece(first, end, tangent, endTangent(end)) : std::nullopt) {
                    piece = longer;
                    good = end;
                } else {
                    bad = std::max(end, good + 1);
                }
                if (bad <= last && bad - good <= (good - first) / 32 + 1)
                    break; // what is left to gain is not worth another fit
                end = bad > last ? std::min(first + 2 * (good - first), last) : (good + bad) / 2;
                if (good == last)
                    break;
            }
            out_.push_back(*piece);
            guess = std::max<std::size_t>(good - first, 4);
            tangent = endTangent(good) * -1;
            first = good;
        }
    }

    std::vector<double> chordParameters(std::size_t first, std::size_t last) const {
        std::vector<double> u(last - first + 1, 0.0);
        for (std::size_t i = 1; i < u.size(); ++i)
            u[i] = u[i - 1] + distance(points_[first + i - 1], points_[first + i]);
        for (double& value : u)
            value /= u.back();
        return u;
    }

    CurveSegment leastSquares(std::size_t first, std::size_t last, const std::vector<double>& u,
                              Point tangent1, Point tangent2) const {
        const Point from = points_[first], to = points_[last];
        double c11 = 0, c12 = 0, c22 = 0, x1 = 0, x2 = 0;
        for (std::size_t i = 0; i < u.size(); ++i) {
            const double t = u[i], v = 1 - t;
            const double b0 = v * v * v, b1 = 3 * v * v * t, b2 = 3 * v * t * t, b3 = t * t * t;
            const Point a1 = tangent1 * b1, a2 = tangent2 * b2;
            const Point rest = points_[first + i] - from * (b0 + b1) - to * (b2 + b3);
            c11 += dot(a1, a1);
            c12 += dot(a1, a2);
            c22 += dot(a2, a2);
            x1 += dot(a1, rest);
            x2 += dot(a2, rest);
        }
        const double determinant = c11 * c22 - c12 * c12;
        const double chord = distance(from, to);
        double reach1 = 0, reach2 = 0;
        if (std::abs(determinant) > 1e-12 * c11 * c22) {
            reach1 = (x1 * c22 - x2 * c12) / determinant;
            reach2 = (c11 * x2 - c12 * x1) / determinant;
        }
        // Controls behind their ends, or so far out that the piece would loop, mean a bad fit: split it.
        if (reach1 < 1e-3 * chord || reach2 < 1e-3 * chord || reach1 + reach2 > 3 * chord)
            reach1 = reach2 = chord / 3;
        return {from + tangent1 * reach1, to + tangent2 * reach2, to, false};
    }

    /// At the points; at the middles of exact sides too, which a flattening may lie off the course.
    ErrorSum errorsOf(std::size_t first, std::size_t last, const std::vector<double>& u,
                      const CurveSegment& s) const {
        ErrorSum errors;
        errors.length = distance(points_[first], points_[last]);
        for (std::size_t i = first + 1; i < last; ++i)
            errors.add(distance(points_[i], hasami::pointAt(points_[first], s, u[i - first])), i);
        for (std::size_t i = first; i < last && options_.scatter == 0; ++i) {
            const double middle = (u[i - first] + u[i - first + 1]) / 2;
            const double off =
                distanceToSegment(hasami::pointAt(points_[first], s, middle), points_[i], points_[i + 1]);
            errors.largest = std::max(errors.largest, off - flatteningTolerance);
        }
        return errors;
    }

    /// Whether exact points are a polygon's corners on a circle rather than places on an arc.
    bool isOfSides(const ArcStretch& arc) const {
        for (std::size_t i = arc.first; i < arc.last && options_.scatter == 0; ++i) {
            const double side = distance(points_[i], points_[i + 1]);
            if (side * side > 8 * arc.radius * (options_.tolerance + flatteningTolerance))
                return true;
        }
        return false;
    }

    /// Whether a piece from one exact point to the next runs too far from the side between them.
    bool leavesChord(Point from, const CurveSegment& s, Point to) const {
        return options_.scatter == 0 && std::ranges::any_of(std::array{0.25, 0.5, 0.75}, [&](double t) {
                   return distanceToSegment(hasami::pointAt(from, s, t), from, to) >
                          options_.tolerance + flatteningTolerance;
               });
    }

    /// One Newton step towards the nearest parameter of each point.
    void reparametrise(std::size_t first, std::vector<double>& u, Point from, const CurveSegment& s) const {
        for (std::size_t i = 0; i < u.size(); ++i) {
            const double t = u[i], v = 1 - t;
            const Point off = hasami::pointAt(from, s, t) - points_[first + i];
            const Point d1 = ((s.control1 - from) * (v * v) + (s.control2 - s.control1) * (2 * v * t) +
                              (s.end - s.control2) * (t * t)) *
                             3;
            const Point d2 =
                ((s.control2 - s.control1 * 2 + from) * v + (s.end - s.control2 * 2 + s.control1) * t) * 6;
            const double slope = dot(d1, d1) + dot(off, d2);
            if (slope > 0)
                u[i] = std::clamp(t - dot(off, d1) / slope, 0.0, 1.0);
        }
    }

    /// Direction at a split, over the points around it.
    Point centreDirection(std::size_t at) const {
        const double reach = tangentWindow * options_.detail;
        const std::size_t last = points_.size() - 1;
        std::size_t before = at, after = at;
        do
            --before;
        while (before > 0 && (at - before < 2 || distance(points_[before], points_[at]) < reach));
        do
            ++after;
        while (after < last && (after - at < 2 || distance(points_[after], points_[at]) < reach));
        return directionAt(points_.subspan(before, after - before + 1), at - before);
    }

    std::span<const Point> points_;
    FitOptions options_;
    std::vector<CurveSegment>& out_;
    bool isRound_;
};

/// The run from one corner to the next (or round to the same one).
void fitBetweenCorners(const Course& course, const Corner& from, const Corner& to, const FitOptions& options,
                       std::vector<CurveSegment>& out) {
    std::vector<Point> points{from.place};
    const auto inner = unbluntedPoints(course, from, to, options.detail);
    points.insert(points.end(), inner.begin(), inner.end());
    points.push_back(to.place);
    RunFit run(points, options, out);
    if (run.isStraight())
        out.push_back(straightSegment(from.place, to.place));
    else
        run.fit();
}

/// The direction at the start of a closed way, whose last point is its first, from the points on both sides.
Point directionAtSeam(const std::vector<Point>& points, double reach) {
    const Point start = points.front();
    const std::size_t most = (points.size() - 1) / 2;
    std::size_t before = 1, after = 1;
    while (before < most && (before < 2 || distance(points[points.size() - 1 - before], start) < reach))
        ++before;
    while (after < most && (after < 2 || distance(points[after], start) < reach))
        ++after;
    std::vector<Point> around(points.end() - 1 - std::ptrdiff_t(before), points.end() - 1);
    around.insert(around.end(), points.begin(), points.begin() + std::ptrdiff_t(after) + 1);
    return directionAt(around, before);
}

bool isWhole(const ArcStretch& arc, std::size_t points) {
    return arc.first == 0 && arc.last + 1 == points &&
           std::abs(std::abs(arc.sweep) - 2 * std::numbers::pi) < 0.1;
}

/// A closed way without corners. It begins where an arc ends, if it has one, so that no arc is cut in two.
Curve fitSmooth(const Course& course, const FitOptions& options) {
    std::vector<Point> points{course.pointAt(0)};
    const auto inner = course.pointsBetween(0, course.length());
    points.insert(points.end(), inner.begin(), inner.end());
    points.push_back(points.front());
    Curve curve;
    std::vector<ArcStretch> arcs = RunFit(points, options, curve.segments).arcs(0);
    if (arcs.size() == 1 && isWhole(arcs[0], points.size())) {
        const ArcStretch& arc = arcs[0];
        curve.start = arc.centre + unit(points.front() - arc.centre) * arc.radius;
        curve.segments = circlePieces(curve.start, arc.centre, arc.sweep > 0);
        return curve;
    }
    Point direction = directionAtSeam(points, tangentWindow * options.detail);
    if (!arcs.empty()) {
        points.pop_back();
        std::rotate(points.begin(), points.begin() + std::ptrdiff_t(arcs.front().last % points.size()),
                    points.end());
        points.push_back(points.front());
        arcs =
            RunFit(points, options, curve.segments).arcs(2); // the seam's direction comes from its other side
        direction = directionAtSeam(points, tangentWindow * options.detail);
        if (!arcs.empty() && arcs.back().last + 1 == points.size()) {
            const ArcStretch& last = arcs.back();
            points.front() = points.back() = last.centre + unit(points.back() - last.centre) * last.radius;
            direction = last.directionAt(points.back());
        }
    }
    curve.start = points.front();
    RunFit(points, options, curve.segments, true).fit(direction, direction, arcs);
    curve.start = curve.segments.back().end; // an arc there may have moved it
    return curve;
}

/// Of the vertices within a detail of a place, the one with the sharpest turn.
Point sharpestVertex(const Course& course, double at, double detail) {
    const std::vector<Point> points = course.pointsBetween(at - 2 * detail, at + 2 * detail);
    const Point middle = course.pointAt(at);
    Point best = middle;
    double least = 2; // the cosine of the turn
    for (std::size_t i = 1; i + 1 < points.size(); ++i) {
        const double turn = dot(unit(points[i] - points[i - 1]), unit(points[i + 1] - points[i]));
        if (distance(points[i], middle) <= detail && turn < least) {
            least = turn;
            best = points[i];
        }
    }
    return best;
}

} // namespace

std::vector<CurveSegment> fitPath(std::span<const Point> path, const FitOptions& options) {
    std::vector<Point> points;
    for (const Point p : path)
        if (points.empty() || distance(points.back(), p) > 1e-9)
            points.push_back(p);
    assert(points.size() > 1);
    // There and back again, the path is closed and its ends are corners like any other.
    const std::size_t there = points.size() - 1;
    std::vector<Point> thereAndBack = points;
    for (std::size_t i = there; i-- > 1;)
        thereAndBack.push_back(points[i]);
    std::vector<CurveSegment> pieces;
    const Course course(thereAndBack);
    std::vector<Corner> corners = findCorners(course, options.detail);
    const double half = course.lengthAt(there);
    std::erase_if(corners, [&](const Corner& corner) {
        constexpr double fromEnds = 4; // details: closer ones are the ends themselves
        return corner.at < fromEnds * options.detail || corner.at > half - fromEnds * options.detail;
    });
    corners.insert(corners.begin(), {0, points.front()});
    corners.push_back({half, points.back()});
    for (std::size_t i = 0; i + 1 < corners.size(); ++i)
        fitBetweenCorners(course, corners[i], corners[i + 1], options, pieces);
    return pieces;
}

std::vector<CurveSegment> fitStretch(std::span<const Point> points, const FitOptions& options,
                                     Point directionStart, Point directionEnd) {
    std::vector<CurveSegment> pieces;
    RunFit(points, options, pieces).fitFree(directionStart, directionEnd);
    return pieces;
}

Curve fitCurve(std::span<const Point> polygon, const FitOptions& options) {
    assert(options.tolerance > 0 && options.detail > 0);
    const Course course(polygon);
    if (course.size() < 3)
        return {};
    std::vector<Corner> corners = findCorners(course, options.detail);
    if (corners.empty())
        return fitSmooth(course, options);
    if (options.scatter > 0)
        sharpen(corners, course, options);
    else
        for (Corner& corner : corners) // exact points blunt no corner
            corner.place = sharpestVertex(course, corner.at, options.detail);
    Curve curve{corners.front().place, {}};
    for (std::size_t i = 0; i < corners.size(); ++i)
        fitBetweenCorners(course, corners[i], corners[(i + 1) % corners.size()], options, curve.segments);
    return curve;
}

} // namespace hasami
