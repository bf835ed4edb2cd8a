#pragma once

#include "geometry/curve.h"

#include <span>

namespace hasami {

struct FitOptions {
    /// How far the curve may lie from the course of the polygon, in mm. REQUIRES: > 0.
    double tolerance = 0.005;

    /// How far the polygon's points scatter around their true course, in mm. DEFAULT: exact points, each of
    /// which then lies within the tolerance of the curve. Otherwise the root mean square over each piece
    /// does, and single points up to four times the scatter farther off.
    double scatter = 0;

    /// The finest detail the polygon can be trusted with, in mm: a pixel for a line found in a picture.
    /// Corners are judged by the directions from one to six details away on either side, and put back where
    /// the two sides meet. REQUIRES: > 0.
    double detail = 0.02;

    /// How long a stretch is over which the scatter is alike, in mm: the mean over a piece of few such
    /// stretches may be larger by chance. DEFAULT: each point scatters by itself.
    double grain = 0;
};

/// A closed curve of few cubic pieces along a closed polygon: true corners kept sharp, everything between
/// them smooth, straight sides as lines. Runs in the polygon's direction. Points within a detail of a corner
/// are left out: they are taken as blunted. About O(n log n). Least squares after P. J. Schneider, "An
/// Algorithm for Automatically Fitting Digitized Curves", 1990. A polygon of fewer than three distinct points
/// gives a curve of no segments.
Curve fitCurve(std::span<const Point> polygon, const FitOptions& options);

/// The same for an open path: pieces from its first point to its last. REQUIRES: two
/// distinct points or more.
std::vector<CurveSegment> fitPath(std::span<const Point> path, const FitOptions& options);

/// Smooth pieces from the first point to the last, each point within the tolerance. They leave and arrive in
/// the directions given (of length 1), or as the points do where those are {}. REQUIRES: two distinct points
/// or more.
std::vector<CurveSegment> fitStretch(std::span<const Point> points, const FitOptions& options,
                                     Point directionStart, Point directionEnd);

} // namespace hasami
