#include "reader/webp_picture.h"

#include "base/error.h"
#include "reader/refusal.h"

#include <cstring>
#include <memory>
#include <webp/decode.h>
#include <webp/demux.h>

namespace hasami {

namespace {

[[noreturn]] void refuseWebp() {
    refuse("%1 is a damaged WEBP picture");
}

struct Delete {
    void operator()(WebPDemuxer* file) const { WebPDemuxDelete(file); }
    void operator()(WebPAnimDecoder* decoder) const { WebPAnimDecoderDelete(decoder); }
};

std::vector<std::byte> profileOf(const WebPData& data) {
    const std::unique_ptr<WebPDemuxer, Delete> file(WebPDemux(&data));
    WebPChunkIterator chunk;
    if (!file || !WebPDemuxGetChunk(file.get(), "ICCP", 1, &chunk))
        return {};
    const auto* bytes = reinterpret_cast<const std::byte*>(chunk.chunk.bytes);
    std::vector<std::byte> profile(bytes, bytes + chunk.chunk.size);
    WebPDemuxReleaseChunkIterator(&chunk);
    return profile;
}

void decodeFirst(const WebPData& data, Grid<Rgba>& pixels) {
    const std::unique_ptr<WebPAnimDecoder, Delete> decoder(WebPAnimDecoderNew(&data, nullptr));
    std::uint8_t* canvas = nullptr;
    int time = 0;
    WebPAnimInfo about;
    if (!decoder || !WebPAnimDecoderGetInfo(decoder.get(), &about) ||
        int(about.canvas_width) != pixels.width() || int(about.canvas_height) != pixels.height() ||
        !WebPAnimDecoderGetNext(decoder.get(), &canvas, &time))
        refuseWebp();
    std::memcpy(pixels.cells().data(), canvas, pixels.cells().size_bytes());
}

} // namespace

Picture readWebp(std::span<const std::byte> bytes) {
    const WebPData data{reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size()};
    WebPBitstreamFeatures about;
    if (WebPGetFeatures(data.bytes, data.size, &about) != VP8_STATUS_OK)
        refuseWebp();
    checkSize(about.width, about.height);
    Picture picture;
    picture.hasCoverage = about.has_alpha != 0;
    picture.pixels = Grid<Rgba>(about.width, about.height);
    auto* to = reinterpret_cast<std::uint8_t*>(picture.pixels.cells().data());
    if (about.has_animation)
        decodeFirst(data, picture.pixels);
    else if (!WebPDecodeRGBAInto(data.bytes, data.size, to, picture.pixels.cells().size_bytes(),
                                 about.width * 4))
        refuseWebp();
    picture.iccProfile = profileOf(data);
    return picture;
}

} // namespace hasami
