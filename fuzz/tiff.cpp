// Any bytes as a TIFF picture: refused with a sentence, or a picture of the size that its header says.

#include "base/error.h"
#include "files/tiff_file.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    const auto* bytes = reinterpret_cast<const std::byte*>(data);
    const Asset asset{"", "fuzz.tif", {bytes, bytes + size}};
    try {
        const Picture picture = readTiff(asset, 1);
        if (picture.pixels.width() < 4 || picture.pixels.height() < 4)
            std::abort();
    } catch (const InputError&) {
    } catch (const std::bad_alloc&) {
    }
    return 0;
}
