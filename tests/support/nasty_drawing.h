#pragma once

#include "geometry/loop.h"
#include "support/shapes.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <random>
#include <vector>

namespace hasami::test {

/// Small and nasty: hair, specks, stairs, thin necks, parts that touch.
inline Grid<std::uint8_t> nastyDrawing(std::mt19937& random) {
    std::uniform_int_distribution<int> size(40, 110), kind(0, 3);
    const int width = size(random), height = size(random);
    std::uniform_real_distribution<double> x(3, width - 3), y(3, height - 3), radius(1, 14), thick(0.4, 3);
    struct Stroke {
        Point a, b;
        double half;
    };
    std::vector<Stroke> strokes;
    const int count = 3 + int(random() % 14);
    for (int i = 0; i < count; ++i) {
        const Point a{x(random), y(random)};
        if (kind(random) == 0)
            strokes.push_back({a, a, radius(random)});
        else
            strokes.push_back({a, {x(random), y(random)}, thick(random) / 2});
    }
    Grid<std::uint8_t> grid(width, height);
    std::vector<Stroke> close; // that a cell's share depends on
    for (int row = 0; row < height; ++row)
        for (int column = 0; column < width; ++column) {
            constexpr double ofCell = 0.71; // from its middle to its corners
            close.clear();
            double deepest = -1;
            for (const Stroke& s : strokes) {
                const double depth = s.half - distanceToSegment({column + 0.5, row + 0.5}, s.a, s.b);
                deepest = std::max(deepest, depth);
                if (depth > -ofCell)
                    close.push_back(s);
            }
            const double share =
                deepest >= ofCell ? 1
                : close.empty()   ? 0
                                  : shareInside(column, row, 16, [&](double px, double py) {
                                      return std::any_of(close.begin(), close.end(), [&](const Stroke& s) {
                                          return distanceToSegment({px, py}, s.a, s.b) < s.half;
                                      });
                                  });
            grid.at(column, row) = static_cast<std::uint8_t>(std::lround(255 * share));
        }
    if (random() % 3 == 0) // stair-stepped
        for (std::uint8_t& cell : grid.cells())
            cell = cell > 127 ? 255 : 0;
    return grid;
}

} // namespace hasami::test
