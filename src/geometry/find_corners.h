#pragma once

#include "geometry/course.h"
#include "geometry/fit_curves.h"

#include <optional>
#include <span>
#include <vector>

namespace hasami {

/// A true corner of a course.
struct Corner {
    double at = 0; ///< arc length of the vertex nearest to it
    Point place;   ///< where it is put back
};

/// Corners are where the direction turns by more than 30 degrees within a few details, and by little more a
/// few details farther on. Each is put where the lines along its two sides meet. In the course's order.
std::vector<Corner> findCorners(const Course& course, double detail);

/// Corners of straight sides, put where the whole sides meet rather than what is seen of them close by.
void sharpen(std::vector<Corner>& corners, const Course& course, const FitOptions& options);

/// The points of the run from one corner to the next that they have not blunted: a corner in a picture rounds
/// what lies within two pixels of it; a short side has no more than one to spare.
std::vector<Point> unbluntedPoints(const Course& course, const Corner& from, const Corner& to, double detail);

/// A straight line; the direction has length 1.
struct Line {
    Point at, direction;

    double distanceTo(Point p) const { return std::abs(cross(p - at, direction)); }
};

/// The line through points by least squares, if they are straight as far as the options ask for.
std::optional<Line> lineThrough(std::span<const Point> points, const FitOptions& options);

/// Whether deviations are as small as the options ask for.
bool isFine(const FitOptions& options, double meanSquare, double largest);

} // namespace hasami
