#include "reader/page_picture.h"

#include "base/error.h"
#include "reader/refusal.h"

#include <cairo.h>
#include <memory>
#include <poppler.h>

namespace hasami {

namespace {

struct Unref {
    void operator()(void* object) const { g_object_unref(object); }
};

struct FreeSurface {
    void operator()(cairo_surface_t* surface) const { cairo_surface_destroy(surface); }
    void operator()(cairo_t* context) const { cairo_destroy(context); }
};

std::uint8_t divided(unsigned part, unsigned coverage) {
    return std::uint8_t((part * 255 + coverage / 2) / coverage);
}

} // namespace

PagePicture drawPage(std::span<const char> pdf, int page, int width, int height) {
    GBytes* bytes = g_bytes_new_static(pdf.data(), pdf.size());
    const std::unique_ptr<PopplerDocument, Unref> document(
        poppler_document_new_from_bytes(bytes, nullptr, nullptr));
    g_bytes_unref(bytes);
    if (!document)
        refuse("%1 is a damaged PDF file");
    const std::unique_ptr<PopplerPage, Unref> drawn(poppler_document_get_page(document.get(), page - 1));
    if (!drawn)
        refuse("%1 has a damaged page: %2", std::to_string(page));
    double pageWidth = 0, pageHeight = 0;
    poppler_page_get_size(drawn.get(), &pageWidth, &pageHeight);

    const std::unique_ptr<cairo_surface_t, FreeSurface> surface(
        cairo_image_surface_create(CAIRO_FORMAT_ARGB32, width, height));
    const std::unique_ptr<cairo_t, FreeSurface> context(cairo_create(surface.get()));
    cairo_scale(context.get(), width / pageWidth, height / pageHeight);
    poppler_page_render_for_printing_with_options(drawn.get(), context.get(), POPPLER_PRINT_DOCUMENT);
    cairo_surface_flush(surface.get());
    if (cairo_status(context.get()) != CAIRO_STATUS_SUCCESS)
        refuse("%1 can't be drawn: %2", cairo_status_to_string(cairo_status(context.get())));

    PagePicture picture{width, height,
                        std::vector<std::uint8_t>(std::size_t(width) * std::size_t(height) * 4)};
    const unsigned char* data = cairo_image_surface_get_data(surface.get());
    const int stride = cairo_image_surface_get_stride(surface.get());
    std::uint8_t* out = picture.pixels.data();
    for (int y = 0; y < height; ++y) {
        const auto* row = reinterpret_cast<const std::uint32_t*>(data + std::ptrdiff_t(y) * stride);
        for (int x = 0; x < width; ++x, out += 4) {
            const std::uint32_t pixel = row[x];
            const unsigned coverage = pixel >> 24;
            if (coverage == 0)
                continue;
            out[0] = divided(pixel >> 16 & 255, coverage);
            out[1] = divided(pixel >> 8 & 255, coverage);
            out[2] = divided(pixel & 255, coverage);
            out[3] = std::uint8_t(coverage);
        }
    }
    return picture;
}

} // namespace hasami
