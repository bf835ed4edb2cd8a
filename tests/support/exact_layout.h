#pragma once

#include "sheet/nest_sheet.h"
#include "support/nest_checker.h"
#include "workshop/make_all.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <string>
#include <vector>

namespace hasami::test {

/// What is wrong with a layout of laid pieces, found by brute force from the pieces as they lie; empty where
/// nothing is.
inline std::string faultOf(const Job& job, const Made& made) {
    const std::vector<Copies> copies = copiesOf(job, made.designs);
    const SheetNest task(copies, made.layout, job.plan, job.profile);
    if (!task.trouble().empty())
        return task.trouble();
    nesting::Problem problem = task.problem();
    const Point origin =
        workArea(job.plan, job.profile).grownBy(job.plan.box ? -job.plan.box->margin : 0).least;
    nesting::Nest nest;
    double area = 0;
    std::map<std::size_t, int> seen;
    for (const LaidPiece& piece : laidOf(made.layout, copies)) {
        std::size_t part = 0;
        while (problem.parts.at(part).id != job.find(piece.design)->name)
            ++part;
        const double turn = piece.turn * std::numbers::pi / 180;
        nest.placements.push_back({part,
                                   seen[part]++,
                                   piece.sheet,
                                   {piece.centre.x - origin.x, piece.centre.y - origin.y, turn, false}});
        nest.sheets = std::max(nest.sheets, piece.sheet + 1);
    }
    std::stable_sort(nest.placements.begin(), nest.placements.end(),
                     [](const auto& a, const auto& b) { return a.part < b.part; });
    for (std::size_t i = 0; i < problem.parts.size(); ++i) {
        problem.parts[i].copies = seen[i];
        problem.parts[i].rotations = {}; // by hand any is allowed
    }
    problem.pinned.clear();
    for (const nesting::Placement& placement : nest.placements) {
        const nesting::Part& part = problem.parts[placement.part];
        area += std::abs(signedArea(part.outline));
        for (const Loop& opening : part.openings)
            area -= std::abs(signedArea(opening));
        const double c = std::cos(placement.pose.rotation), s = std::sin(placement.pose.rotation);
        if (placement.sheet + 1 == nest.sheets)
            for (const Point p : part.outline)
                nest.usedLength = std::max(nest.usedLength, placement.pose.x + c * p.x - s * p.y);
    }
    const double used = nest.usedLength + (nest.sheets - 1) * problem.media.length.value_or(0);
    nest.density = used > 0 ? area / (used * problem.media.width) : 0;
    return faultOf(problem, nest);
}

} // namespace hasami::test
