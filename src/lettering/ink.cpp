#include "lettering/ink.h"

#include "geometry/region_operations.h"
#include "lettering/shape_text.h"

namespace hasami {

double inkShare(const Font& font) {
    const Font* fonts[] = {&font};
    const ShapedLine line = shapeLine("Heather", fonts);
    if (line.width <= 0)
        return 0;
    double ink = 0;
    for (const Glyph& glyph : line.glyphs)
        if (glyph.font) {
            Region region; // in millimetres, as operations on regions want it
            const double scale = 10 / font.capHeight();
            for (const Curve& rim : font.outline(glyph.glyph))
                region.loops.push_back(flatten(map(rim, Affine::scaling(scale, scale)), 0.02));
            ink += area(enclosed(region, FillRule::nonZero)) / (scale * scale);
        }
    return ink / (line.width * font.capHeight());
}

} // namespace hasami
