#include "geometry/fit_curves.h"

#include <Eigen/Dense>

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

constexpr double leastTurn = 30 * std::numbers::pi / 180; // gentler bends are drawn as curves
constexpr double nearWindowBegin = 1, nearWindowEnd = 4;  // in details from the vertex
constexpr double farWindowBegin = 3, farWindowEnd = 6;
constexpr double tangentWindow = 6;       // in details to either side of a split
constexpr double cornerTangentWindow = 8; // in details from a corner into a side

// An edge this many times as long as those around it, or this long in mm, is a straight side rather than a
// chord of a flattened curve. Points are put on it so that a curve can't bulge between its ends.
constexpr double sideInChords = 4, longestChord = 5;
constexpr int mostOnSide = 64;

/// A closed polygon that can be asked for the point at an arc length (which wraps around).
class Course {
public:
    explicit Course(std::span<const Point> polygon) {
        for (const Point p : polygon)
            if (points_.empty() || distance(points_.back(), p) > 1e-9)
                points_.push_back(p);
        while (points_.size() > 1 && distance(points_.front(), points_.back()) <= 1e-9)
            points_.pop_back();
        at_.push_back(0);
        for (std::size_t i = 0; i < points_.size(); ++i)
            at_.push_back(at_.back() + distance(points_[i], points_[(i + 1) % points_.size()]));
    }

    std::size_t size() const { return points_.size(); }
    double length() const { return at_.back(); }
    double lengthAt(std::size_t vertex) const { return at_[vertex]; }

    Point pointAt(double s) const {
        s = std::fmod(s, length());
        if (s < 0)
            s += length();
        const std::size_t i = edgeAt(s);
        const double span = edgeLength(i);
        return between(points_[i], points_[(i + 1) % points_.size()], span > 0 ? (s - at_[i]) / span : 0);
    }

    Point direction(double from, double to) const { return unit(pointAt(to) - pointAt(from)); }

    /// Vertices strictly inside (from, to), `to` at most one turn beyond `from`, and points along straight
    /// sides.
    std::vector<Point> pointsBetween(double from, double to) const {
        std::vector<Point> found;
        double turns = std::floor(from / length()) * length();
        for (std::size_t edge = edgeAt(from - turns); turns + at_[edge] < to;) {
            const int parts = partsOf(edge);
            for (int k = 0; k < parts; ++k) {
                const double t = double(k) / parts;
                const double s = turns + at_[edge] + edgeLength(edge) * t;
                if (s > from && s < to)
                    found.push_back(between(points_[edge], points_[(edge + 1) % size()], t));
            }
            if (++edge == size()) {
                edge = 0;
                turns += length();
            }
        }
        return found;
    }

private:
    std::size_t edgeAt(double s) const {
        const auto after = std::upper_bound(at_.begin(), at_.end(), s);
        return std::min(std::size_t(after - at_.begin()), points_.size()) - 1;
    }

    double edgeLength(std::size_t edge) const { return at_[edge + 1] - at_[edge]; }

    int partsOf(std::size_t edge) const {
        const std::size_t n = size();
        std::array around{edgeLength((edge + n - 1) % n), edgeLength((edge + n - 2) % n),
                          edgeLength((edge + 1) % n), edgeLength((edge + 2) % n)};
        std::sort(around.begin(), around.end());
        const double usual = std::min(around[1], longestChord); // the shortest may be the rest of an arc
        const double own = edgeLength(edge);
        if (own <= sideInChords * usual && own <= longestChord)
            return 1;
        return std::clamp(static_cast<int>(own / usual), 4, mostOnSide);
    }

    std::vector<Point> points_;
    std::vector<double> at_;
};

struct Corner {
    double at = 0; // arc length
    Point place;
};

double turnBetween(Point in, Point out) {
    return std::abs(std::atan2(cross(in, out), dot(in, out)));
}

/// Where the lines along the two sides meet, if that is close to the blunted vertex.
std::optional<Point> meetingPoint(Point a, Point directionA, Point b, Point directionB, Point near,
                                  double reach) {
    const double across = cross(directionA, directionB);
    if (std::abs(across) < 0.05)
        return {};
    const Point meeting = a + directionA * (cross(b - a, directionB) / across);
    return distance(meeting, near) <= reach ? std::optional(meeting) : std::nullopt;
}

std::vector<Corner> findCorners(const Course& course, double detail) {
    struct Candidate {
        double at, turn;
    };
    std::vector<Candidate> candidates;
    if (course.length() < 4 * farWindowEnd * detail)
        return {}; // too small to tell a corner from a round end
    for (std::size_t i = 0; i < course.size(); ++i) {
        const double s = course.lengthAt(i);
        const auto turnSeen = [&](double begin, double end) {
            return turnBetween(course.direction(s - end * detail, s - begin * detail),
                               course.direction(s + begin * detail, s + end * detail));
        };
        const double near = turnSeen(nearWindowBegin, nearWindowEnd);
        // On an arc the turn grows with the distance of the windows, at a corner it does not.
        if (near > leastTurn && near > 0.75 * turnSeen(farWindowBegin, farWindowEnd))
            candidates.push_back({s, near});
    }
    std::stable_sort(candidates.begin(), candidates.end(),
                     [](const Candidate& a, const Candidate& b) { return a.turn > b.turn; });

    std::vector<Corner> corners;
    const auto apart = [&](double a, double b) {
        const double d = std::abs(a - b);
        return std::min(d, course.length() - d);
    };
    for (const Candidate& c : candidates) {
        const bool taken = std::any_of(corners.begin(), corners.end(), [&](const Corner& k) {
            return apart(k.at, c.at) < nearWindowEnd * detail;
        });
        if (taken)
            continue;
        Corner corner;
        corner.at = c.at;
        const double begin = nearWindowBegin * detail, end = nearWindowEnd * detail;
        const Point vertex = course.pointAt(c.at);
        corner.place = meetingPoint(course.pointAt(c.at - begin), course.direction(c.at - end, c.at - begin),
                                    course.pointAt(c.at + begin), course.direction(c.at + begin, c.at + end),
                                    vertex, 2 * detail)
                           .value_or(vertex);
        corners.push_back(corner);
    }
    std::sort(corners.begin(), corners.end(), [](const Corner& a, const Corner& b) { return a.at < b.at; });
    return corners;
}

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
    RunFit(std::span<const Point> points, const FitOptions& options, std::vector<CurveSegment>& out)
        : points_(points), options_(options), out_(out) {}

    void fit(Point directionStart, Point directionEnd) { layPieces(directionStart, directionEnd * -1); }

    /// Between two corners: the directions at the ends come from the sides themselves.
    void fit() { fit(directionAtStart(), directionAtEnd()); }

    bool isStraight() const {
        ErrorSum sum;
        for (std::size_t i = 0; i < points_.size(); ++i)
            sum.add(distanceToSegment(points_[i], points_.front(), points_.back()), i);
        return isFine(sum);
    }

private:
    struct ErrorSum {
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
        if (options_.scatter == 0)
            return errors.largest <= options_.tolerance;
        const double meanSquare = errors.squares / double(std::max<std::size_t>(errors.count, 1));
        // What the scatter alone would give, and a quarter of the tolerance for the curve's own deviation.
        const double allowed =
            options_.scatter * options_.scatter + options_.tolerance * options_.tolerance / 16;
        return meanSquare <= allowed && errors.largest <= options_.tolerance + 4 * options_.scatter;
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
            return CurveSegment{from + tangent1 * third, to + tangent2 * third, to, false};
        }
        std::vector<double> u = chordParameters(first, last);
        constexpr int rounds = 6;
        for (int round = 0; round < rounds; ++round) {
            const CurveSegment s = leastSquares(first, last, u, tangent1, tangent2);
            const ErrorSum errors = errorsOf(first, last, u, s);
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

    ErrorSum errorsOf(std::size_t first, std::size_t last, const std::vector<double>& u,
                      const CurveSegment& s) const {
        ErrorSum errors;
        for (std::size_t i = first + 1; i < last; ++i)
            errors.add(distance(points_[i], hasami::pointAt(points_[first], s, u[i - first])), i);
        return errors;
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
};

/// The run from one corner to the next (or round to the same one).
void fitBetweenCorners(const Course& course, const Corner& from, const Corner& to, const FitOptions& options,
                       std::vector<CurveSegment>& out) {
    const double end = to.at > from.at ? to.at : to.at + course.length();
    std::vector<Point> points{from.place};
    if (end - from.at > 2 * options.detail) {
        const auto inner = course.pointsBetween(from.at + options.detail, end - options.detail);
        points.insert(points.end(), inner.begin(), inner.end());
    }
    points.push_back(to.place);
    RunFit run(points, options, out);
    if (run.isStraight())
        out.push_back(straightSegment(from.place, to.place));
    else
        run.fit();
}

Curve fitSmooth(const Course& course, const FitOptions& options) {
    const Point start = course.pointAt(0);
    std::vector<Point> points{start};
    const auto inner = course.pointsBetween(0, course.length());
    points.insert(points.end(), inner.begin(), inner.end());
    points.push_back(start);

    // The direction at the start, from the points on both sides of it.
    const std::size_t most = (points.size() - 1) / 2;
    const double reach = tangentWindow * options.detail;
    std::size_t before = 1, after = 1;
    while (before < most && (before < 2 || distance(points[points.size() - 1 - before], start) < reach))
        ++before;
    while (after < most && (after < 2 || distance(points[after], start) < reach))
        ++after;
    std::vector<Point> around(points.end() - 1 - std::ptrdiff_t(before), points.end() - 1);
    around.insert(around.end(), points.begin(), points.begin() + std::ptrdiff_t(after) + 1);
    const Point direction = directionAt(around, before);

    Curve curve{start, {}};
    RunFit(points, options, curve.segments).fit(direction, direction);
    return curve;
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
        return corner.at < options.detail || corner.at > half - options.detail;
    });
    corners.insert(corners.begin(), {0, points.front()});
    corners.push_back({half, points.back()});
    for (std::size_t i = 0; i + 1 < corners.size(); ++i)
        fitBetweenCorners(course, corners[i], corners[i + 1], options, pieces);
    return pieces;
}

Curve fitCurve(std::span<const Point> polygon, const FitOptions& options) {
    assert(options.tolerance > 0 && options.detail > 0);
    const Course course(polygon);
    if (course.size() < 3)
        return {};
    const std::vector<Corner> corners = findCorners(course, options.detail);
    if (corners.empty())
        return fitSmooth(course, options);
    Curve curve{corners.front().place, {}};
    for (std::size_t i = 0; i < corners.size(); ++i)
        fitBetweenCorners(course, corners[i], corners[(i + 1) % corners.size()], options, curve.segments);
    return curve;
}

} // namespace hasami
