#include "lettering/font.h"

#include "base/error.h"
#include "base/translation.h"
#include "lettering/shipped_fonts.h"

#include <algorithm>
#include <cmath>
#include <hb-ot.h>
#include <hb.h>

namespace hasami {

namespace {

template <auto destroy>
struct Destroy {
    template <class T>
    void operator()(T* object) const {
        destroy(object);
    }
};
template <class T, auto destroy>
using Held = std::unique_ptr<T, Destroy<destroy>>;

/// What a glyph's outline is drawn into.
struct Pen {
    std::vector<Curve> rims;

    static Point at(float x, float y) { return {double(x), -double(y)}; }
    Point here() const {
        const Curve& rim = rims.back();
        return rim.segments.empty() ? rim.start : rim.segments.back().end;
    }
};

void moveTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float x, float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    pen.rims.push_back({Pen::at(x, y), {}});
}

void lineTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float x, float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    if (const Point to = Pen::at(x, y); distance(pen.here(), to) > 0)
        pen.rims.back().segments.push_back(straightSegment(pen.here(), to));
}

void quadraticTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float cx, float cy, float x, float y,
                 void*) {
    Pen& pen = *static_cast<Pen*>(data);
    const Point from = pen.here(), control = Pen::at(cx, cy), to = Pen::at(x, y);
    pen.rims.back().segments.push_back({between(from, control, 2.0 / 3), between(to, control, 2.0 / 3), to});
}

void cubicTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float ax, float ay, float bx, float by, float x,
             float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    pen.rims.back().segments.push_back({Pen::at(ax, ay), Pen::at(bx, by), Pen::at(x, y)});
}

void close(hb_draw_funcs_t*, void* data, hb_draw_state_t*, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    if (Curve& rim = pen.rims.back(); distance(pen.here(), rim.start) > 0)
        rim.segments.push_back(straightSegment(pen.here(), rim.start));
}

using DrawFunctions = Held<hb_draw_funcs_t, hb_draw_funcs_destroy>;

const DrawFunctions& drawFunctions() {
    static const DrawFunctions functions = [] {
        DrawFunctions draw(hb_draw_funcs_create());
        hb_draw_funcs_set_move_to_func(draw.get(), moveTo, nullptr, nullptr);
        hb_draw_funcs_set_line_to_func(draw.get(), lineTo, nullptr, nullptr);
        hb_draw_funcs_set_quadratic_to_func(draw.get(), quadraticTo, nullptr, nullptr);
        hb_draw_funcs_set_cubic_to_func(draw.get(), cubicTo, nullptr, nullptr);
        hb_draw_funcs_set_close_path_func(draw.get(), close, nullptr, nullptr);
        hb_draw_funcs_make_immutable(draw.get());
        return draw;
    }();
    return functions;
}

bool hasTable(hb_face_t* face, hb_tag_t tag) {
    const Held<hb_blob_t, hb_blob_destroy> table(hb_face_reference_table(face, tag));
    return hb_blob_get_length(table.get()) > 0;
}

/// Outlines as the rest of the program has them. TrueType and PostScript outlines run in opposite directions.
std::vector<Curve> oriented(std::vector<Curve> rims) {
    std::erase_if(rims, [](const Curve& rim) { return rim.segments.size() < 2; });
    double largest = 0;
    for (const Curve& rim : rims) {
        const double area = signedArea(flatten(rim, 10)); // units of the font: the sign alone matters
        if (std::abs(area) > std::abs(largest))
            largest = area;
    }
    if (largest < 0)
        for (Curve& rim : rims)
            rim = reversed(rim);
    return rims;
}

} // namespace

Font::Font(std::span<const std::byte> bytes, const std::string& name, std::shared_ptr<const void> keeper,
           int number)
    : keeper_(std::move(keeper)) {
    const Held<hb_blob_t, hb_blob_destroy> blob(hb_blob_create(reinterpret_cast<const char*>(bytes.data()),
                                                               unsigned(bytes.size()),
                                                               HB_MEMORY_MODE_READONLY, nullptr, nullptr));
    const Held<hb_face_t, hb_face_destroy> face(hb_face_create(blob.get(), unsigned(number) & 0xFFFF));
    if (hb_face_get_glyph_count(face.get()) == 0 || hb_face_get_upem(face.get()) == 0 ||
        !hasTable(face.get(), HB_TAG('c', 'm', 'a', 'p')))
        throw InputError(sentence("%1 is no font, or it is damaged", name));
    if (!hasTable(face.get(), HB_TAG('g', 'l', 'y', 'f')) &&
        !hasTable(face.get(), HB_TAG('C', 'F', 'F', ' ')) &&
        !hasTable(face.get(), HB_TAG('C', 'F', 'F', '2')))
        throw InputError(
            sentence("%1 holds no outlines, only pictures of letters: choose another font", name));
    Held<hb_font_t, hb_font_destroy> font(hb_font_create(face.get()));
    if (const unsigned instance = unsigned(number) >> 16; instance > 0) {
        if (instance > hb_ot_var_get_named_instance_count(face.get()))
            throw InputError(sentence("%1 has no such font in it", name));
        hb_font_set_var_named_instance(font.get(), instance - 1);
    }
    hb_position_t capitals = 0;
    if (hb_ot_metrics_get_position(font.get(), HB_OT_METRICS_TAG_CAP_HEIGHT, &capitals) && capitals > 0)
        capHeight_ = capitals;
    font_ = font.release();
    if (!(capHeight_ > 0)) {
        std::uint32_t glyph = 0;
        Box box;
        if (hb_font_get_nominal_glyph(font_, U'H', &glyph))
            for (const Curve& rim : outline(glyph))
                box.add(bounds(flatten(rim, 1)));
        capHeight_ = box.height() > 0 ? -box.least.y : 0.7 * hb_face_get_upem(face.get());
    }
    hb_font_make_immutable(font_);
}

Font::~Font() {
    hb_font_destroy(font_);
}

std::string Font::nameOf(unsigned better, unsigned usual) const {
    for (const unsigned id : {better, usual}) {
        char text[256];
        unsigned size = sizeof text;
        if (hb_ot_name_get_utf8(hb_font_get_face(font_), id, HB_LANGUAGE_INVALID, &size, text) > 0)
            return text;
    }
    return {};
}

std::string Font::family() const {
    return nameOf(HB_OT_NAME_ID_TYPOGRAPHIC_FAMILY, HB_OT_NAME_ID_FONT_FAMILY);
}

std::string Font::style() const {
    return nameOf(HB_OT_NAME_ID_TYPOGRAPHIC_SUBFAMILY, HB_OT_NAME_ID_FONT_SUBFAMILY);
}

bool Font::has(char32_t letter) const {
    std::uint32_t glyph = 0;
    return hb_font_get_nominal_glyph(font_, letter, &glyph) && glyph != 0;
}

bool Font::mayBeKept() const {
    const Held<hb_blob_t, hb_blob_destroy> table(
        hb_face_reference_table(hb_font_get_face(font_), HB_TAG('O', 'S', '/', '2')));
    unsigned size = 0;
    const auto* bytes = reinterpret_cast<const unsigned char*>(hb_blob_get_data(table.get(), &size));
    if (size < 10)
        return true; // says nothing of it
    const unsigned type = unsigned(bytes[8]) << 8 | bytes[9];
    constexpr unsigned restricted = 0x2, preview = 0x4, editable = 0x8;
    return (type & editable) != 0 || (type & (restricted | preview)) == 0;
}

std::vector<Curve> Font::outline(std::uint32_t glyph) const {
    Pen pen;
    hb_font_get_glyph_shape(font_, glyph, drawFunctions().get(), &pen);
    if (pen.rims.empty()) {
        hb_ot_color_layer_t layers[64];
        unsigned count = std::size(layers);
        hb_ot_color_glyph_get_layers(hb_font_get_face(font_), glyph, 0, &count, layers);
        for (unsigned i = 0; i < count; ++i)
            hb_font_get_glyph_shape(font_, layers[i].glyph, drawFunctions().get(), &pen);
    }
    return oriented(std::move(pen.rims));
}

const Font& windowFont() {
    static const Font font(shippedFonts().front().bytes, shippedFonts().front().file);
    return font;
}

} // namespace hasami
