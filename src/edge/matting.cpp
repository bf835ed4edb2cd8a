#include "edge/matting.h"

#include <cassert>
#include <limits>

namespace hasami {

Grid<std::int8_t> depths(const Grid<std::uint8_t>& isSubject, int most) {
    assert(3 * most <= std::numeric_limits<std::int8_t>::max());
    const int w = isSubject.width(), h = isSubject.height();
    const auto cap = static_cast<std::int8_t>(3 * most);
    Grid<std::int8_t> depth(w, h, cap);
    const auto relax = [&](int x, int y, int fromX, int fromY, int step) {
        if (fromX < 0 || fromY < 0 || fromX >= w || fromY >= h)
            return;
        const bool across = isSubject.at(x, y) != isSubject.at(fromX, fromY);
        const int by = (across ? 0 : depth.at(fromX, fromY)) + step;
        depth.at(x, y) = static_cast<std::int8_t>(std::min<int>(depth.at(x, y), by));
    };
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            relax(x, y, x - 1, y, 3);
            relax(x, y, x, y - 1, 3);
            relax(x, y, x - 1, y - 1, 4);
            relax(x, y, x + 1, y - 1, 4);
        }
    for (int y = h - 1; y >= 0; --y)
        for (int x = w - 1; x >= 0; --x) {
            relax(x, y, x + 1, y, 3);
            relax(x, y, x, y + 1, 3);
            relax(x, y, x + 1, y + 1, 4);
            relax(x, y, x - 1, y + 1, 4);
        }
    for (std::size_t i = 0; i < depth.cells().size(); ++i)
        if (!isSubject.cells()[i])
            depth.cells()[i] = static_cast<std::int8_t>(-depth.cells()[i]);
    return depth;
}

} // namespace hasami
