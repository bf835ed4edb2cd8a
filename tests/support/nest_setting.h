#pragma once

#include "nesting/layout/layout.h"
#include "nesting/search/bed.h"
#include "nesting/shape/prepare.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>
#include <string>
#include <utility>
#include <vector>

namespace hasami::test {

inline nesting::Part partOf(std::string id, Loop outline, int copies = 1) {
    nesting::Part part;
    part.id = std::move(id);
    part.outline = std::move(outline);
    part.copies = copies;
    return part;
}

/// With sharp tips.
inline Loop starOf(double radius, int tips, double waist) {
    Loop loop;
    for (int i = 0; i < 2 * tips; ++i)
        loop.push_back(Point{std::cos(std::numbers::pi * i / tips), std::sin(std::numbers::pi * i / tips)} *
                       (i % 2 == 0 ? radius : radius * waist));
    return loop;
}

/// Points where it stops twice and more, points on the way, and an end that may be its start again.
inline Loop withIdlePoints(const Loop& loop, std::mt19937& random) {
    std::uniform_int_distribution<int> howMany(0, 3);
    std::uniform_real_distribution<double> part(0.1, 0.9);
    Loop idle;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Point a = loop[i], b = loop[(i + 1) % loop.size()];
        idle.insert(idle.end(), std::size_t(1 + howMany(random)), a);
        std::vector<double> parts(std::size_t(howMany(random)));
        for (double& t : parts)
            t = part(random);
        std::sort(parts.begin(), parts.end());
        for (const double t : parts)
            idle.push_back(between(a, b, t));
    }
    std::rotate(idle.begin(), idle.begin() + 1, idle.end());
    return idle;
}

/// All that a search begins with, of a problem that outlives it.
struct Setting {
    explicit Setting(const nesting::Problem& problem)
        : items(nesting::prepared(problem)),
          blocked(nesting::obstacles(problem, items)), ground{problem, items, blocked,
                                                              nesting::room(problem)} {}

    nesting::Bed bed(const nesting::Start& start) const {
        return {items, start.copies, blocked, ground.room, ground.isRoll()};
    }

    std::vector<nesting::Item> items;
    std::vector<nesting::Obstacle> blocked;
    nesting::Ground ground;
};

} // namespace hasami::test
