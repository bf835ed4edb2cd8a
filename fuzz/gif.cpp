// Any bytes as a GIF picture: refused with a sentence, or a picture that can be shared.

#include "reader/gif_picture.h"
#include "shared_picture_round.h"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    return hasami::fuzz::decodeAndShare(
        data, size, [](std::span<const std::byte> bytes) { return hasami::readGif(bytes); });
}
