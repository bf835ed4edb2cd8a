// Any bytes as a WebP picture: refused with a sentence, or a picture that can be shared.

#include "reader/webp_picture.h"
#include "shared_picture_round.h"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    return hasami::fuzz::decodeAndShare(
        data, size, [](std::span<const std::byte> bytes) { return hasami::readWebp(bytes); });
}
