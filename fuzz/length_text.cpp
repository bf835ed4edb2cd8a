// Any text in a field: not a length, or one within bounds whose shown text reads back as the same.

#include "geometry/length_text.h"

#include <cmath>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const auto read = hasami::parseLength({reinterpret_cast<const char*>(data), size});
    if (!read)
        return 0;
    if (!(std::abs(*read) <= 100'000))
        std::abort();
    const auto again = hasami::parseLength(hasami::lengthText(*read));
    if (!again || std::abs(*again - *read) > 0.006)
        std::abort();
    return 0;
}
