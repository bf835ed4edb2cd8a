#include "geometry/touching_loops.h"

#include <algorithm>

namespace hasami {

namespace {

constexpr double gap = 0.001; // mm that each point moves: ten times the last digit of a file

struct Visit {
    Point at;
    std::size_t loop, vertex;
};

Point towardsPrevious(const Loop& loop, std::size_t vertex) {
    return unit(loop[(vertex + loop.size() - 1) % loop.size()] - loop[vertex]);
}

Point towardsNext(const Loop& loop, std::size_t vertex) {
    return unit(loop[(vertex + 1) % loop.size()] - loop[vertex]);
}

/// Into the angle between the sides at a vertex that does not hold the direction `other`.
Point awayFrom(Point other, Point previous, Point next) {
    const double turn = cross(previous, next);
    const Point middle = unit(previous + next);
    if (std::abs(turn) < 1e-9 && dot(previous, next) < 0) { // a straight side
        const Point across{-next.y, next.x};
        return dot(across, other) < 0 ? across : across * -1;
    }
    const bool isBetween = cross(previous, other) * turn > 0 && cross(other, next) * turn > 0;
    return isBetween ? middle * -1 : middle;
}

std::vector<Visit> sortedVisits(std::span<const Loop> loops) {
    std::vector<Visit> visits;
    for (std::size_t i = 0; i < loops.size(); ++i)
        for (std::size_t k = 0; k < loops[i].size(); ++k)
            visits.push_back({loops[i][k], i, k});
    std::sort(visits.begin(), visits.end(), [](const Visit& a, const Visit& b) {
        return a.at.x != b.at.x ? a.at.x < b.at.x : a.at.y < b.at.y;
    });
    return visits;
}

} // namespace

std::optional<std::vector<Loop>> parted(std::span<const Loop> loops) {
    const std::vector<Visit> visits = sortedVisits(loops);
    std::optional<std::vector<Loop>> moved;
    for (std::size_t i = 0; i < visits.size(); ++i) {
        const bool isShared = (i > 0 && visits[i - 1].at == visits[i].at) ||
                              (i + 1 < visits.size() && visits[i + 1].at == visits[i].at);
        if (!isShared)
            continue;
        const Visit& here = visits[i];
        const Visit& there = i > 0 && visits[i - 1].at == here.at ? visits[i - 1] : visits[i + 1];
        if (!moved)
            moved.emplace(loops.begin(), loops.end());
        const Point away = awayFrom(towardsPrevious(loops[there.loop], there.vertex),
                                    towardsPrevious(loops[here.loop], here.vertex),
                                    towardsNext(loops[here.loop], here.vertex));
        (*moved)[here.loop][here.vertex] = here.at + away * gap;
    }
    return moved;
}

} // namespace hasami
