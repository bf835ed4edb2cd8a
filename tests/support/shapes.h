#pragma once

#include "artwork/picture.h"
#include "geometry/curve.h"
#include "geometry/loop.h"
#include "raster/grid.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numbers>
#include <random>
#include <utility>

namespace hasami::test {

/// The share of a cell inside, of `samples` x `samples` places.
template <class Inside>
double shareInside(int column, int row, int samples, const Inside& inside) {
    int hits = 0;
    for (int i = 0; i < samples * samples; ++i)
        hits += inside(column + (i % samples + 0.5) / samples, row + (i / samples + 0.5) / samples);
    return double(hits) / (samples * samples);
}

/// A grid of coverage, `inside(x, y)` with x and y in cells: each cell from 4 x 4 samples, from 16 x 16 where
/// those differ.
template <class Inside>
Grid<std::uint8_t> drawn(int width, int height, const Inside& inside) {
    Grid<std::uint8_t> grid(width, height);
    for (int row = 0; row < height; ++row)
        for (int column = 0; column < width; ++column) {
            double share = shareInside(column, row, 4, inside);
            if (share > 0 && share < 1)
                share = shareInside(column, row, 16, inside);
            grid.at(column, row) = static_cast<std::uint8_t>(std::lround(255 * share));
        }
    return grid;
}

inline auto disc(Point centre, double radius) {
    return [=](double x, double y) { return distance({x, y}, centre) <= radius; };
}

inline auto box(double left, double top, double right, double bottom) {
    return [=](double x, double y) { return x >= left && x < right && y >= top && y < bottom; };
}

/// The letter F: unlike its image under any reflection or turn. Drawn 40 wide, 60 high, from (0, 0).
inline bool insideF(double x, double y) {
    const bool stem = x >= 0 && x < 12 && y >= 0 && y < 60;
    const bool top = x >= 0 && x < 40 && y >= 0 && y < 12;
    const bool middle = x >= 0 && x < 28 && y >= 24 && y < 36;
    return stem || top || middle;
}
inline constexpr double areaOfF = 12 * 60 + 28 * 12 + 16 * 12;

/// One colour with the coverage given.
inline Picture pictureOf(const Grid<std::uint8_t>& coverage, Rgba colour = {200, 120, 20, 255}) {
    Picture picture;
    picture.pixels = Grid<Rgba>(coverage.width(), coverage.height(), colour);
    for (std::size_t i = 0; i < coverage.cells().size(); ++i)
        picture.pixels.cells()[i].coverage = coverage.cells()[i];
    picture.hasCoverage = true;
    return picture;
}

/// A star-shaped loop with a wavy outline, about `radius` from the centre.
inline Loop randomBlob(std::mt19937& random, Point centre, double radius) {
    std::uniform_real_distribution<double> amplitude(-0.12, 0.12), phase(0, 2 * std::numbers::pi);
    double a[4], p[4];
    for (int k = 0; k < 4; ++k) {
        a[k] = amplitude(random);
        p[k] = phase(random);
    }
    Loop loop;
    constexpr int points = 400;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * std::numbers::pi * i / points;
        double r = 1;
        for (int k = 0; k < 4; ++k)
            r += a[k] * std::cos((k + 2) * angle + p[k]);
        loop.push_back(centre + Point{std::cos(angle), std::sin(angle)} * (radius * r));
    }
    return loop;
}

inline double distanceToLoop(Point p, const Loop& loop) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < loop.size(); ++i)
        least = std::min(least, distanceToSegment(p, loop[i], loop[(i + 1) % loop.size()]));
    return least;
}

inline double farthestFrom(const Loop& points, const Loop& loop) {
    double most = 0;
    for (const Point p : points)
        most = std::max(most, distanceToLoop(p, loop));
    return most;
}

inline bool segmentsCross(Point a, Point b, Point c, Point d) {
    const double d1 = cross(b - a, c - a), d2 = cross(b - a, d - a);
    const double d3 = cross(d - c, a - c), d4 = cross(d - c, b - c);
    return d1 * d2 < 0 && d3 * d4 < 0;
}

/// No two edges cross. O(n²).
inline bool isSimple(const Loop& loop) {
    for (std::size_t i = 0; i < loop.size(); ++i)
        for (std::size_t j = i + 1; j < loop.size(); ++j)
            if (segmentsCross(loop[i], loop[(i + 1) % loop.size()], loop[j], loop[(j + 1) % loop.size()]))
                return false;
    return true;
}

} // namespace hasami::test
