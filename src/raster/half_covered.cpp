#include "raster/half_covered.h"

#include <cstddef>

namespace hasami {

bool hasHalfCoveredParts(const Grid<std::uint8_t>& coverage) {
    constexpr int step = 2, least = 13, most = 242; // cells; of a coverage of 255
    constexpr double share = 0.2;                   // of what is half covered at all
    const auto isHalf = [&](int x, int y) { return coverage.at(x, y) >= least && coverage.at(x, y) <= most; };
    std::size_t all = 0, deep = 0;
    for (int y = step; y < coverage.height() - step; ++y)
        for (int x = step; x < coverage.width() - step; ++x)
            if (isHalf(x, y)) {
                ++all;
                if (isHalf(x - step, y) && isHalf(x + step, y) && isHalf(x, y - step) && isHalf(x, y + step))
                    ++deep;
            }
    return double(deep) > share * double(all);
}

} // namespace hasami
