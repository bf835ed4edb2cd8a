#pragma once

#include "geometry/curve.h"

#include <span>
#include <vector>

namespace hasami {

/// One run of a path, open or closed: pieces from `start` on.
struct Subpath {
    Point start;
    std::vector<CurveSegment> segments;
    bool isClosed =
        false; ///< the last piece leads back to `start`, by a straight line where it ends elsewhere

    friend bool operator==(const Subpath&, const Subpath&) = default;
};

using Path = std::vector<Subpath>;

/// Its pieces without a last straight one that closing it draws.
std::span<const CurveSegment> drawnSegments(const Subpath& run);

enum class FillRule { nonZero, evenOdd };

/// The run's points, nowhere farther than `tolerance` from it; the first is not repeated at the end of a
/// closed one, and no point stands twice in a row.
std::vector<Point> flatten(const Subpath& run, double tolerance);

Path map(const Path& path, const Affine& by);

} // namespace hasami
