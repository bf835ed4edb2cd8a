#include "rehearsal/png_file.h"

#include <algorithm>
#include <cmath>
#include <csetjmp>
#include <new>
#include <png.h>
#include <thread>
#include <vector>

namespace hasami {

namespace {

constexpr int rowsAtOnce = 64;
constexpr int compression = 2; // of 9: a print's grain hardly gets smaller by more work

/// What libpng hands back to its callbacks. It leaves by a jump where it fails: nothing that needs to be
/// destroyed may be made between the jump and where it lands.
struct Target {
    std::string bytes;
    bool isFull = false; ///< there is no memory for more
};

void append(png_structp png, png_bytep data, png_size_t size) {
    auto* target = static_cast<Target*>(png_get_io_ptr(png));
    try {
        target->bytes.append(reinterpret_cast<const char*>(data), size);
    } catch (const std::bad_alloc&) {
        target->isFull = true;
    }
    if (target->isFull)
        png_error(png, "no memory");
}

void flush(png_structp) {}
void keepQuiet(png_structp, png_const_charp) {}
[[noreturn]] void leave(png_structp png, png_const_charp) {
    png_longjmp(png, 1);
}

struct Writer {
    png_structp png = nullptr;
    png_infop info = nullptr;

    Writer()
        : png(png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, leave, keepQuiet)),
          info(png ? png_create_info_struct(png) : nullptr) {}
    Writer(const Writer&) = delete;
    Writer& operator=(const Writer&) = delete;
    ~Writer() { png_destroy_write_struct(&png, &info); }
};

/// False where it fails.
bool begin(const Writer& writer, Target& target, int width, int height, int perMetre) {
    if (setjmp(png_jmpbuf(writer.png)) != 0)
        return false;
    png_set_write_fn(writer.png, &target, append, flush);
    png_set_user_limits(writer.png, png_uint_32(width), png_uint_32(height));
    png_set_IHDR(writer.png, writer.info, png_uint_32(width), png_uint_32(height), 8, PNG_COLOR_TYPE_RGB,
                 PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    png_set_pHYs(writer.png, writer.info, png_uint_32(perMetre), png_uint_32(perMetre), PNG_RESOLUTION_METER);
    png_set_compression_level(writer.png, compression);
    png_set_filter(writer.png, PNG_FILTER_TYPE_BASE, PNG_FILTER_SUB);
    png_write_info(writer.png, writer.info);
    return true;
}

bool add(const Writer& writer, const unsigned char* rows, int count, std::size_t bytesOfRow) {
    if (setjmp(png_jmpbuf(writer.png)) != 0)
        return false;
    for (int row = 0; row < count; ++row)
        png_write_row(writer.png, rows + std::size_t(row) * bytesOfRow);
    return true;
}

bool end(const Writer& writer) {
    if (setjmp(png_jmpbuf(writer.png)) != 0)
        return false;
    png_write_end(writer.png, writer.info);
    return true;
}

void fillBand(std::vector<unsigned char>& band, std::size_t bytesOfRow, int first, int count,
              const FillRow& fill) {
    const int threads = int(std::max(1U, std::thread::hardware_concurrency()));
    std::vector<std::jthread> workers;
    workers.reserve(std::size_t(threads));
    for (int worker = 0; worker < threads; ++worker)
        workers.emplace_back([&, worker] {
            for (int row = worker; row < count; row += threads)
                fill(first + row, std::span(band).subspan(std::size_t(row) * bytesOfRow, bytesOfRow));
        });
}

} // namespace

std::string pngInRows(int width, int height, double pixelsPerMillimetre, const FillRow& fill) {
    const std::size_t bytesOfRow = 3 * std::size_t(width);
    std::vector<unsigned char> band(bytesOfRow * rowsAtOnce);
    Target target;
    const Writer writer;
    bool isWhole = writer.info != nullptr &&
                   begin(writer, target, width, height, int(std::lround(pixelsPerMillimetre * 1000)));
    for (int row = 0; isWhole && row < height; row += rowsAtOnce) {
        const int count = std::min(rowsAtOnce, height - row);
        fillBand(band, bytesOfRow, row, count, fill);
        isWhole = add(writer, band.data(), count, bytesOfRow);
    }
    if (!isWhole || !end(writer))
        throw std::bad_alloc();
    return std::move(target.bytes);
}

} // namespace hasami
