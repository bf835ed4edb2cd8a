// What a reader of strangers' files may answer: any text is read or refused, and what is read has an outline.
#include "artwork/vector_page.h"
#include "base/error.h"
#include "edge/paint_outline.h"

#include <cstdint>
#include <string_view>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace hasami;
    PaintList paint;
    try {
        paint = parsePaintList({reinterpret_cast<const char*>(data), size});
    } catch (const InputError&) {
        return 0;
    }
    if (!(parsePaintList(paintListText(paint)) == paint))
        __builtin_trap();
    // Lines thousands of times longer than they are wide, or wider than any page, take long and teach
    // nothing.
    for (const PaintItem& item : paint.items)
        for (const Subpath& run : item.shape.path)
            for (const CurveSegment& s : run.segments)
                if (std::abs(s.end.x) > 1000 || std::abs(s.end.y) > 1000 || std::abs(s.control1.x) > 1000 ||
                    std::abs(s.control1.y) > 1000 || std::abs(s.control2.x) > 1000 ||
                    std::abs(s.control2.y) > 1000)
                    return 0;
    if (paint.width > 1000 || paint.height > 1000 || paint.width < 0.1 || paint.height < 0.1)
        return 0;
    Picture picture;
    picture.pixels = Grid<Rgba>(8, 8, Rgba{0, 0, 0, 255});
    const Item item{"name", 8, 8, {{0, 0}, paint.width, paint.height}, {}, FilePage{{"asset"}}};
    paintedArea(item, paint, picture, false);
    return 0;
}
