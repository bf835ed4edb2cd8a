#include "reader/svg_to_pdf.h"

#include "base/error.h"
#include "reader/refusal.h"

#include <algorithm>
#include <cairo-pdf.h>
#include <cmath>
#include <librsvg/rsvg.h>
#include <memory>

namespace hasami {

namespace {

constexpr double pointsPerPixel = 72.0 / 96;
constexpr double mostDrawingSide = 30'000;        // mm
constexpr double finest = 600, mostPixels = 6000; // of a picture made on the way: dots an inch, along a side

struct Free {
    void operator()(RsvgHandle* handle) const { g_object_unref(handle); }
    void operator()(cairo_surface_t* surface) const { cairo_surface_destroy(surface); }
    void operator()(cairo_t* context) const { cairo_destroy(context); }
};

struct Size {
    double width = 0, height = 0; // pixels of CSS

    bool isAny() const { return std::isfinite(width) && std::isfinite(height) && width > 0 && height > 0; }
};

/// Each filter is drawn over all its area in pixels, one after the other: with many, 600 dots an inch would
/// take minutes. Most filters blur, and look the same in fewer pixels.
double mostPixelsFor(std::span<const char> svg) {
    constexpr double fewFilters = 4, fewestPixels = 1500;
    const std::string_view text(svg.data(), svg.size());
    double filters = 0;
    for (const std::string_view use : {"filter:url", "filter=\"url", "filter='url", "filter: url"})
        for (auto at = text.find(use); at != std::string_view::npos; at = text.find(use, at + 1))
            ++filters;
    return std::max(fewestPixels, mostPixels * std::min(1.0, fewFilters / std::max(filters, 1.0)));
}

/// A length of CSS in pixels; 0 if it is relative to what there is not.
double pixelsOf(const RsvgLength& length) {
    switch (length.unit) {
    case RSVG_UNIT_PX:
        return length.length;
    case RSVG_UNIT_IN:
        return length.length * 96;
    case RSVG_UNIT_CM:
        return length.length * 96 / 2.54;
    case RSVG_UNIT_MM:
        return length.length * 96 / 25.4;
    case RSVG_UNIT_PT:
        return length.length * 96 / 72;
    case RSVG_UNIT_PC:
    case RSVG_UNIT_EM:
        return length.length * 16;
    case RSVG_UNIT_EX:
        return length.length * 8;
    default:
        return 0;
    }
}

Size naturalSize(RsvgHandle* handle) {
    gboolean hasWidth = FALSE, hasHeight = FALSE, hasBox = FALSE;
    RsvgLength width{}, height{};
    RsvgRectangle box{};
    rsvg_handle_get_intrinsic_dimensions(handle, &hasWidth, &width, &hasHeight, &height, &hasBox, &box);
    Size size{hasWidth ? pixelsOf(width) : 0, hasHeight ? pixelsOf(height) : 0};
    if (hasBox && box.width > 0 && box.height > 0) {
        if (size.width > 0 && !(size.height > 0))
            size.height = size.width * box.height / box.width;
        else if (size.height > 0 && !(size.width > 0))
            size.width = size.height * box.width / box.height;
        else if (!size.isAny())
            size = {box.width, box.height};
    }
    if (size.isAny())
        return size;
    RsvgRectangle ink{}, logical{};
    if (rsvg_handle_get_geometry_for_element(handle, nullptr, &ink, &logical, nullptr))
        size = {ink.x + ink.width, ink.y + ink.height};
    return size;
}

cairo_status_t append(void* to, const unsigned char* data, unsigned length) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

} // namespace

EnlargedPdf svgToPdf(std::span<const char> svg) {
    GError* error = nullptr;
    const std::unique_ptr<RsvgHandle, Free> handle(
        rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(svg.data()), svg.size(), &error));
    if (!handle) {
        const std::string why = error ? error->message : "";
        g_clear_error(&error);
        refuse("%1 is a damaged SVG drawing: %2", why.substr(0, why.find('\n')));
    }
    rsvg_handle_set_dpi(handle.get(), 96);
    const Size size = naturalSize(handle.get());
    if (!size.isAny())
        refuse("%1 shows nothing: the SVG drawing has no size");
    if (std::max(size.width, size.height) * 25.4 / 96 > mostDrawingSide)
        refuse("%1 is larger than 30 m");
    const double longest = std::max(size.width, size.height) * pointsPerPixel;
    EnlargedPdf made{{}, std::clamp(mostPixelsFor(svg) / longest, 1.0, finest / 72)};
    {
        const std::unique_ptr<cairo_surface_t, Free> surface(
            cairo_pdf_surface_create_for_stream(append, &made.pdf, size.width * pointsPerPixel * made.scale,
                                                size.height * pointsPerPixel * made.scale));
        const std::unique_ptr<cairo_t, Free> context(cairo_create(surface.get()));
        const RsvgRectangle viewport{0, 0, size.width * pointsPerPixel * made.scale,
                                     size.height * pointsPerPixel * made.scale};
        const bool isDrawn = rsvg_handle_render_document(handle.get(), context.get(), &viewport, &error);
        const std::string why = error ? error->message : "";
        g_clear_error(&error);
        if (!isDrawn)
            refuse("%1 is an SVG drawing that can't be drawn: %2", why);
        cairo_surface_finish(surface.get());
    }
    return made;
}

} // namespace hasami
