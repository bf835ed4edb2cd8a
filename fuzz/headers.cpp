// What is read of strangers' pictures before a library decodes them: any bytes end in a kind and a size, or
// in neither.
#include "files/file_kind.h"
#include "files/gif_header.h"
#include "files/jpeg_header.h"
#include "files/png_header.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace hasami;
    const std::span bytes(reinterpret_cast<const std::byte*>(data), size);
    const FileKind kind = kindOf(bytes);
    if (const auto png = readPngHeader(bytes);
        bool(png) != (kind == FileKind::png) || (png && (png->width < 0 || png->height < 0)))
        __builtin_trap();
    const auto jpeg = readJpegHeader(bytes);
    if (jpeg && (kind != FileKind::jpeg || jpeg->width < 0 || jpeg->height < 0 || jpeg->orientation < 1 ||
                 jpeg->orientation > 8))
        __builtin_trap();
    const GifHeader gif = readGifHeader(bytes);
    if (gif.width < 0 || gif.height < 0)
        __builtin_trap();
    return 0;
}
