// Any bytes as a GIF picture: refused with a sentence, or a picture that can be shared.

#include "artwork/shared_picture.h"
#include "base/error.h"
#include "reader/gif_picture.h"

#include <cstdlib>
#include <new>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    const std::span<const std::byte> bytes(reinterpret_cast<const std::byte*>(data), size);
    try {
        const Picture picture = readGif(bytes);
        constexpr std::size_t mostKept = std::size_t{1} << 24;
        if (sharedBytes(picture) > mostKept)
            return 0;
        std::vector<std::byte> room(sharedBytes(picture));
        putShared(picture, room);
        const Picture taken = takeShared("fuzz", room);
        if (taken.pixels.width() != picture.pixels.width() || taken.iccProfile != picture.iccProfile)
            std::abort();
    } catch (const InputError&) {
    } catch (const std::bad_alloc&) {
    }
    return 0;
}
