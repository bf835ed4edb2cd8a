#pragma once

#include "artwork/shared_picture.h"
#include "base/error.h"

#include <algorithm>
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
        std::vector<std::byte> room;
        if (!putShared(picture, [&](std::span<const std::byte> bytes) {
                room.insert(room.end(), bytes.begin(), bytes.end());
                return room.size() <= maxBytes;
            }))
            return 0;
        std::size_t at = 0;
        const Picture taken = takeShared("fuzz", [&](std::span<std::byte> to) {
            if (to.size() > room.size() - at)
                return false;
            std::copy_n(room.begin() + std::ptrdiff_t(at), to.size(), to.begin());
            at += to.size();
            return true;
        });
        if (taken.pixels.width() != picture.pixels.width() || taken.iccProfile != picture.iccProfile)
            std::abort();
    } catch (const InputError&) {
    } catch (const std::bad_alloc&) {
    }
    return 0;
}

} // namespace hasami::fuzz
