#include "lettering/text_outline.h"

#include <hb-ot.h>
#include <hb.h>
#include <memory>

extern "C" {
extern const char hasamiFontBegin[];
extern const char hasamiFontEnd[];
}

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

/// What a glyph's outline is drawn into, placed and scaled.
struct Pen {
    std::vector<Curve>& rims;
    double scale = 1;
    Point origin; ///< of the glyph, in the font's units

    Point at(float x, float y) const { return {(origin.x + x) * scale, -(origin.y + y) * scale}; }
    Point here() const {
        const Curve& rim = rims.back();
        return rim.segments.empty() ? rim.start : rim.segments.back().end;
    }
};

void moveTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float x, float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    pen.rims.push_back({pen.at(x, y), {}});
}

void lineTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float x, float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    if (const Point to = pen.at(x, y); distance(pen.here(), to) > 0)
        pen.rims.back().segments.push_back(straightSegment(pen.here(), to));
}

void quadraticTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float cx, float cy, float x, float y,
                 void*) {
    Pen& pen = *static_cast<Pen*>(data);
    const Point from = pen.here(), control = pen.at(cx, cy), to = pen.at(x, y);
    pen.rims.back().segments.push_back({between(from, control, 2.0 / 3), between(to, control, 2.0 / 3), to});
}

void cubicTo(hb_draw_funcs_t*, void* data, hb_draw_state_t*, float ax, float ay, float bx, float by, float x,
             float y, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    pen.rims.back().segments.push_back({pen.at(ax, ay), pen.at(bx, by), pen.at(x, y)});
}

void close(hb_draw_funcs_t*, void* data, hb_draw_state_t*, void*) {
    Pen& pen = *static_cast<Pen*>(data);
    if (Curve& rim = pen.rims.back(); distance(pen.here(), rim.start) > 0)
        rim.segments.push_back(straightSegment(pen.here(), rim.start));
}

} // namespace

TextOutline outlineOfText(const std::string& text, double capHeight) {
    const Held<hb_blob_t, hb_blob_destroy> bytes(hb_blob_create(hasamiFontBegin,
                                                                unsigned(hasamiFontEnd - hasamiFontBegin),
                                                                HB_MEMORY_MODE_READONLY, nullptr, nullptr));
    const Held<hb_face_t, hb_face_destroy> face(hb_face_create(bytes.get(), 0));
    const Held<hb_font_t, hb_font_destroy> font(hb_font_create(face.get()));
    const Held<hb_draw_funcs_t, hb_draw_funcs_destroy> draw(hb_draw_funcs_create());
    hb_draw_funcs_set_move_to_func(draw.get(), moveTo, nullptr, nullptr);
    hb_draw_funcs_set_line_to_func(draw.get(), lineTo, nullptr, nullptr);
    hb_draw_funcs_set_quadratic_to_func(draw.get(), quadraticTo, nullptr, nullptr);
    hb_draw_funcs_set_cubic_to_func(draw.get(), cubicTo, nullptr, nullptr);
    hb_draw_funcs_set_close_path_func(draw.get(), close, nullptr, nullptr);

    const Held<hb_buffer_t, hb_buffer_destroy> buffer(hb_buffer_create());
    hb_buffer_add_utf8(buffer.get(), text.data(), int(text.size()), 0, -1);
    hb_buffer_guess_segment_properties(buffer.get());
    hb_shape(font.get(), buffer.get(), nullptr, 0);
    hb_position_t capitals = 0;
    hb_ot_metrics_get_position_with_fallback(font.get(), HB_OT_METRICS_TAG_CAP_HEIGHT, &capitals);

    TextOutline outline;
    Pen pen{outline.rims, capHeight / capitals, {}};
    unsigned count = 0;
    const hb_glyph_info_t* glyphs = hb_buffer_get_glyph_infos(buffer.get(), &count);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), &count);
    Point at;
    for (unsigned i = 0; i < count; ++i) {
        pen.origin = at + Point{double(places[i].x_offset), double(places[i].y_offset)};
        if (glyphs[i].codepoint != 0) // the box that stands for what the font lacks
            hb_font_get_glyph_shape(font.get(), glyphs[i].codepoint, draw.get(), &pen);
        at = at + Point{double(places[i].x_advance), double(places[i].y_advance)};
    }
    std::erase_if(outline.rims, [](const Curve& rim) { return rim.segments.empty(); });
    outline.width = at.x * pen.scale;
    return outline;
}

} // namespace hasami
