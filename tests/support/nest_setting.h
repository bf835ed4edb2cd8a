#pragma once

#include "nesting/prepare.h"
#include "nesting/start.h"

#include <cmath>
#include <numbers>
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
