#pragma once

#include "artwork/shared_picture.h"
#include "base/error.h"

#include <cstdlib>
#include <new>
#include <vector>

namespace hasami::fuzz {

/// Decodes a picture, which may be refused with a sentence, and passes what comes out through shared memory.
template <class Decode>
int decodeAndShare(const unsigned char* data, std::size_t size, Decode decode) {
    try {
        const Picture picture = decode(std::as_bytes(std::span(data, size)));
        constexpr std::size_t maxBytes = std::size_t{1} << 24;
        if (sharedBytes(picture) > maxBytes)
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

} // namespace hasami::fuzz
