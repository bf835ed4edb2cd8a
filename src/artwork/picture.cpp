#include "artwork/picture.h"

#include <algorithm>

namespace hasami {

Affine orientationMap(int orientation) {
    switch (orientation) {
    case 2:
        return {-1, 0, 0, 1, 1, 0};
    case 3:
        return {-1, 0, 0, -1, 1, 1};
    case 4:
        return {1, 0, 0, -1, 0, 1};
    case 5:
        return {0, 1, 1, 0, 0, 0};
    case 6:
        return {0, 1, -1, 0, 1, 0};
    case 7:
        return {0, -1, -1, 0, 1, 1};
    case 8:
        return {0, -1, 1, 0, 0, 1};
    default:
        return {};
    }
}

Grid<std::uint8_t> coverageOf(const Picture& picture) {
    Grid<std::uint8_t> coverage(picture.pixels.width(), picture.pixels.height());
    std::transform(picture.pixels.cells().begin(), picture.pixels.cells().end(), coverage.cells().begin(),
                   [](Rgba pixel) { return pixel.coverage; });
    return coverage;
}

} // namespace hasami
