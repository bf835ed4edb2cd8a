#include "geometry/find_corners.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace hasami {

namespace {

constexpr double leastTurn = 30 * std::numbers::pi / 180; // gentler bends are drawn as curves
constexpr double nearWindowBegin = 1, nearWindowEnd = 4;  // in details from the vertex
constexpr double farWindowBegin = 3, farWindowEnd = 6;
// Of the turn seen from afar, what a corner shows close by: a wave's bend of two details' radius shows 0.75,
// a right angle between sides that bend with ten details' radius 0.84, straight ones all of it.
constexpr double leastNearShare = 0.82;

// Sides that come this close to running back along each other say nothing about a tip from what little is
// seen of them close by: it would be a needle. Straight sides, seen as a whole, do.
constexpr double needleTurn = 150 * std::numbers::pi / 180;

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

} // namespace

bool isFine(const FitOptions& options, double meanSquare, double largest) {
    if (options.scatter == 0)
        return largest <= options.tolerance;
    // What the scatter alone would give, and a quarter of the tolerance for the curve's own deviation.
    const double allowed = options.scatter * options.scatter + options.tolerance * options.tolerance / 16;
    return meanSquare <= allowed && largest <= options.tolerance + 4 * options.scatter;
}

std::optional<Line> lineThrough(std::span<const Point> points, const FitOptions& options) {
    if (points.size() < 6)
        return {};
    Line line;
    for (const Point p : points)
        line.at = line.at + p;
    line.at = line.at * (1.0 / double(points.size()));
    double xx = 0, xy = 0, yy = 0;
    for (const Point p : points) {
        const Point d = p - line.at;
        xx += d.x * d.x;
        xy += d.x * d.y;
        yy += d.y * d.y;
    }
    const double angle = std::atan2(2 * xy, xx - yy) / 2; // of the longer axis
    line.direction = {std::cos(angle), std::sin(angle)};
    double squares = 0, largest = 0;
    for (const Point p : points) {
        const double off = line.distanceTo(p);
        squares += off * off;
        largest = std::max(largest, off);
    }
    if (!isFine(options, squares / double(points.size()), largest))
        return {};
    return line;
}

std::vector<Corner> findCorners(const Course& course, double detail) {
    struct Candidate {
        double at, turn;
    };
    std::vector<Candidate> candidates;
    if (course.length() < 4 * farWindowEnd * detail)
        return {}; // too small to distinguish a corner from a round end
    for (std::size_t i = 0; i < course.size(); ++i) {
        const double s = course.lengthAt(i);
        const auto turnSeen = [&](double begin, double end) {
            return turnBetween(course.direction(s - end * detail, s - begin * detail),
                               course.direction(s + begin * detail, s + end * detail));
        };
        const double near = turnSeen(nearWindowBegin, nearWindowEnd);
        // On an arc the turn grows with the distance of the windows, at a corner it does not.
        if (near > leastTurn && near > leastNearShare * turnSeen(farWindowBegin, farWindowEnd))
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
        const double reach = c.turn > needleTurn ? 0.5 * detail : 2 * detail;
        corner.place = meetingPoint(course.pointAt(c.at - begin), course.direction(c.at - end, c.at - begin),
                                    course.pointAt(c.at + begin), course.direction(c.at + begin, c.at + end),
                                    vertex, reach)
                           .value_or(vertex);
        corners.push_back(corner);
    }
    std::sort(corners.begin(), corners.end(), [](const Corner& a, const Corner& b) { return a.at < b.at; });
    return corners;
}

std::vector<Point> unbluntedPoints(const Course& course, const Corner& from, const Corner& to,
                                   double detail) {
    const double end = to.at > from.at ? to.at : to.at + course.length();
    const double blunted = end - from.at > 12 * detail ? 2 * detail : detail;
    if (end - from.at <= 2 * detail)
        return {};
    return course.pointsBetween(from.at + blunted, end - blunted);
}

void sharpen(std::vector<Corner>& corners, const Course& course, const FitOptions& options) {
    const std::size_t n = corners.size();
    std::vector<std::optional<Line>> sides;
    sides.reserve(n);
    for (std::size_t i = 0; i < n; ++i)
        sides.push_back(
            lineThrough(unbluntedPoints(course, corners[i], corners[(i + 1) % n], options.detail), options));
    for (std::size_t i = 0; i < n; ++i) {
        const auto &before = sides[(i + n - 1) % n], &behind = sides[i];
        Point& place = corners[i].place;
        if (before && behind)
            place = meetingPoint(before->at, before->direction, behind->at, behind->direction, place,
                                 2 * options.detail)
                        .value_or(place);
        else if (const auto& side = before ? before : behind; side)
            place = side->at + side->direction * dot(place - side->at, side->direction);
    }
}

} // namespace hasami
