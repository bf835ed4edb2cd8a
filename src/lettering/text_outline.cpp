#include "lettering/text_outline.h"

#include "lettering/shape_text.h"

namespace hasami {

TextOutline outlineOfText(const std::string& text, double capHeight) {
    const Font* fonts[] = {&windowFont()};
    const double scale = capHeight / windowFont().capHeight();
    const ShapedLine line = shapeLine(text, fonts);
    TextOutline outline;
    for (const Glyph& glyph : line.glyphs)
        for (const Curve& rim : glyph.font ? glyph.font->outline(glyph.glyph) : std::vector<Curve>())
            outline.rims.push_back(
                map(rim, Affine::scaling(scale, scale) * Affine::translation(glyph.origin)));
    outline.width = line.width * scale;
    return outline;
}

} // namespace hasami
