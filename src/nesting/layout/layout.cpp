#include "nesting/layout/layout.h"

#include <algorithm>
#include <cmath>

namespace hasami::nesting {

namespace {

double usedOn(const Ground& ground, const std::vector<std::size_t>& copies, const Spots& spots, int sheet) {
    double most = ground.room.least.x;
    for (std::size_t i = 0; i < copies.size(); ++i)
        if (spots.at[i].sheet == sheet) {
            const Pose& pose = spots.at[i].pose;
            const Shape& shape = ground.items[copies[i]].shapes[pose.isMirrored ? 1 : 0];
            most = std::max(most, turnedBox(shape, pose.rotation).most.x + pose.x);
        }
    return most;
}

} // namespace

void closeOff(const Ground& ground, Start& start) {
    int last = 0;
    for (const Spot& spot : start.spots.at)
        last = std::max(last, spot.sheet);
    start.spots.sheets = last + 1;
    start.spots.length = usedOn(ground, start.copies, start.spots, last) - ground.room.least.x;
}

double reachOf(const Ground& ground, const Spots& spots) {
    return (spots.sheets - 1) * (ground.isRoll() ? 0 : ground.fullLength()) + spots.length;
}

double middlingSize(const Ground& ground, std::span<const std::size_t> copies) {
    double sizes = 0;
    for (const std::size_t item : copies)
        sizes += ground.items[item].shapes.front().spread;
    return sizes / double(std::max<std::size_t>(copies.size(), 1));
}

} // namespace hasami::nesting
