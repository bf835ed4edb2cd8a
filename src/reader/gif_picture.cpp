#include "reader/gif_picture.h"

#include "base/error.h"
#include "reader/refusal.h"

#include <algorithm>
#include <cstring>
#include <gif_lib.h>
#include <memory>
#include <vector>

namespace hasami {

namespace {

[[noreturn]] void refuseGif() {
    refuse("%1 is a damaged GIF picture");
}

int readSome(GifFileType* file, GifByteType* to, int most) {
    auto& bytes = *static_cast<std::span<const std::byte>*>(file->UserData);
    const std::size_t count = std::min(bytes.size(), std::size_t(std::max(0, most)));
    std::memcpy(to, bytes.data(), count);
    bytes = bytes.subspan(count);
    return int(count);
}

struct CloseGif {
    void operator()(GifFileType* file) const { DGifCloseFile(file, nullptr); }
};

/// Which entry of the palette shows nothing, as an extension before the picture says; or none.
int transparentOf(GifFileType* file, int transparent) {
    int code = 0;
    GifByteType* block = nullptr;
    if (DGifGetExtension(file, &code, &block) != GIF_OK)
        refuseGif();
    GraphicsControlBlock control;
    if (block && code == GRAPHICS_EXT_FUNC_CODE &&
        DGifExtensionToGCB(block[0], block + 1, &control) == GIF_OK)
        transparent = control.TransparentColor;
    while (block)
        if (DGifGetExtensionNext(file, &block) != GIF_OK)
            refuseGif();
    return transparent;
}

/// The rows in the order in which an interlaced file holds them.
std::vector<int> rowsOf(int height, bool isInterlaced) {
    std::vector<int> rows;
    if (!isInterlaced)
        for (int row = 0; row < height; ++row)
            rows.push_back(row);
    else
        for (const auto& [first, step] : {std::pair(0, 8), {4, 8}, {2, 4}, {1, 2}})
            for (int row = first; row < height; row += step)
                rows.push_back(row);
    return rows;
}

void readImage(GifFileType* file, int transparent, Grid<Rgba>& pixels) {
    if (DGifGetImageDesc(file) != GIF_OK)
        refuseGif();
    const GifImageDesc& image = file->Image;
    const ColorMapObject* palette = image.ColorMap ? image.ColorMap : file->SColorMap;
    if (!palette || image.Width < 1 || image.Height < 1)
        refuseGif();
    checkSize(std::max(image.Width, pixels.width()), std::max(image.Height, pixels.height()));
    std::vector<GifPixelType> line(std::size_t(image.Width));
    for (const int row : rowsOf(image.Height, image.Interlace)) {
        if (DGifGetLine(file, line.data(), image.Width) != GIF_OK)
            refuseGif();
        for (int column = 0; column < image.Width; ++column) {
            const int x = image.Left + column, y = image.Top + row, entry = line[std::size_t(column)];
            if (entry == transparent || entry >= palette->ColorCount || x >= pixels.width() ||
                y >= pixels.height())
                continue;
            const GifColorType colour = palette->Colors[entry];
            pixels.at(x, y) = {colour.Red, colour.Green, colour.Blue, 255};
        }
    }
}

} // namespace

Picture readGif(std::span<const std::byte> bytes) {
    int error = 0;
    const std::unique_ptr<GifFileType, CloseGif> file(DGifOpen(&bytes, readSome, &error));
    if (!file)
        refuseGif();
    checkSize(file->SWidth, file->SHeight);
    Picture picture;
    picture.pixels = Grid<Rgba>(file->SWidth, file->SHeight);
    int transparent = NO_TRANSPARENT_COLOR;
    for (GifRecordType record = UNDEFINED_RECORD_TYPE;;) {
        if (DGifGetRecordType(file.get(), &record) != GIF_OK || record == TERMINATE_RECORD_TYPE)
            refuseGif();
        if (record == IMAGE_DESC_RECORD_TYPE)
            break;
        if (record == EXTENSION_RECORD_TYPE)
            transparent = transparentOf(file.get(), transparent);
    }
    readImage(file.get(), transparent, picture.pixels);
    const auto cells = picture.pixels.cells();
    picture.hasCoverage =
        std::any_of(cells.begin(), cells.end(), [](Rgba pixel) { return pixel.coverage < 255; });
    return picture;
}

} // namespace hasami
