#include "artwork/picture.h"

#include <algorithm>

namespace hasami {

Grid<std::uint8_t> coverageOf(const Picture& picture) {
    Grid<std::uint8_t> coverage(picture.pixels.width(), picture.pixels.height());
    std::transform(picture.pixels.cells().begin(), picture.pixels.cells().end(), coverage.cells().begin(),
                   [](Rgba pixel) { return pixel.coverage; });
    return coverage;
}

} // namespace hasami
