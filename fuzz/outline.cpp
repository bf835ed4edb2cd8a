// Any picture, level and offset: closed lines with finite points, or none.

#include "edge/find_edge.h"
#include "sticker/sticker.h"

#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    if (size < 4)
        return 0;
    hasami::Recipe recipe;
    recipe.edge.level = data[0] * 100 / 255.0;
    recipe.edge.leastSpeck = recipe.edge.leastOpening = 0;
    recipe.edge.loops = data[1] & 1 ? hasami::LoopChoice::openings : hasami::LoopChoice::outer;
    recipe.lines[0].offset = (data[1] - 100) / 40.0;
    const int width = data[2] % 40 + 1;
    hasami::Grid<std::uint8_t> coverage(
        width, static_cast<int>((size - 3 + std::size_t(width) - 1) / std::size_t(width)));
    for (std::size_t i = 3; i < size; ++i)
        coverage.cells()[i - 3] = data[i];
    const double scale = data[2] > 127 ? 0.1 : 3;
    const hasami::Item item{"",
                            coverage.width(),
                            coverage.height(),
                            {{0, 0}, coverage.width() * scale, coverage.height() * scale}};
    const auto edge = hasami::findEdge(item, hasami::Coverage{coverage}, recipe.edge);
    const auto sticker =
        hasami::makeSticker({{item}}, edge, recipe, {hasami::fitTolerance(item, recipe.edge)});
    for (const hasami::CutLine& line : sticker.lines) {
        if (line.curve.segments.empty() || !(line.curve.segments.back().end == line.curve.start))
            std::abort();
        for (const hasami::CurveSegment& s : line.curve.segments)
            for (const hasami::Point p : {s.control1, s.control2, s.end})
                if (!std::isfinite(p.x) || !std::isfinite(p.y))
                    std::abort();
    }
    return 0;
}
