#pragma once

#include "geometry/point.h"

#include <algorithm>
#include <limits>
#include <vector>

namespace hasami::test {

/// Prim's: the least length that joins all points.
inline double spanningTree(const std::vector<Point>& points) {
    std::vector<double> away(points.size(), std::numeric_limits<double>::infinity());
    std::vector<bool> isIn(points.size(), false);
    away[0] = 0;
    double sum = 0;
    for (std::size_t n = 0; n < points.size(); ++n) {
        std::size_t next = points.size();
        for (std::size_t i = 0; i < points.size(); ++i)
            if (!isIn[i] && (next == points.size() || away[i] < away[next]))
                next = i;
        isIn[next] = true;
        sum += away[next];
        for (std::size_t i = 0; i < points.size(); ++i)
            away[i] = std::min(away[i], distance(points[i], points[next]));
    }
    return sum;
}

} // namespace hasami::test
