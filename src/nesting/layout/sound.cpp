#include "nesting/layout/sound.h"

#include "nesting/shape/placed.h"

#include <algorithm>
#include <vector>

namespace hasami::nesting {

bool isSound(const Ground& ground, std::span<const std::size_t> copies, const Spots& spots) {
    struct Entry {
        int sheet;
        std::size_t number;
        double left;
    };
    std::vector<Placed> placed;
    std::vector<Entry> order;
    const auto add = [&](int sheet, Placed here) {
        order.push_back({sheet, placed.size(), here.box().least.x});
        placed.push_back(std::move(here));
    };
    for (std::size_t i = 0; i < copies.size(); ++i) {
        const Spot& spot = spots.at[i];
        Placed here(ground.items[copies[i]].shapes[spot.pose.isMirrored ? 1 : 0].exact, {});
        here.place(spot.pose);
        if (!ground.room.grownBy(slack).holds(here.box()))
            return false;
        add(spot.sheet, std::move(here));
    }
    const std::size_t own = placed.size();
    for (const Obstacle& obstacle : ground.obstacles) {
        Placed here(obstacle.loops, {});
        here.place({});
        add(obstacle.sheet, std::move(here));
    }
    std::sort(order.begin(), order.end(), [](const Entry& a, const Entry& b) {
        return a.sheet < b.sheet || (a.sheet == b.sheet && a.left < b.left);
    });
    std::vector<std::size_t> open;
    int sheet = -1;
    for (const Entry& entry : order) {
        if (entry.sheet != sheet)
            open.clear();
        sheet = entry.sheet;
        std::erase_if(open, [&](std::size_t other) { return placed[other].box().most.x < entry.left; });
        for (const std::size_t other : open)
            if ((other < own || entry.number < own) && placed[entry.number].touches(placed[other]))
                return false;
        open.push_back(entry.number);
    }
    return true;
}

} // namespace hasami::nesting
