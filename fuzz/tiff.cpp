// Any bytes as a TIFF picture: refused with a sentence, or a picture that can be shared.

#include "reader/tiff_picture.h"
#include "shared_picture_round.h"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    return hasami::fuzz::decodeAndShare(
        data, size, [](std::span<const std::byte> bytes) { return hasami::readTiff(bytes, 1); });
}
