#include "geometry/box_sets.h"

#include <algorithm>
#include <numeric>

namespace hasami {

std::vector<std::size_t> setsOf(const std::vector<Box>& boxes) {
    std::vector<std::size_t> set(boxes.size()), order(boxes.size());
    std::iota(set.begin(), set.end(), std::size_t{0});
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return boxes[a].least.x < boxes[b].least.x; });
    const auto rootOf = [&](std::size_t i) {
        while (set[i] != i)
            i = set[i] = set[set[i]];
        return i;
    };
    std::vector<std::size_t> open; // those that may still meet what comes
    for (const std::size_t i : order) {
        std::erase_if(open, [&](std::size_t j) { return boxes[j].most.x < boxes[i].least.x; });
        for (const std::size_t j : open)
            if (boxes[i].meets(boxes[j]))
                set[rootOf(j)] = rootOf(i);
        open.push_back(i);
    }
    for (std::size_t& s : set)
        s = rootOf(s);
    return set;
}

} // namespace hasami
