#pragma once

#include "artwork/picture.h"

#include <cstddef>
#include <cstdint>
#include <functional>
#include <span>
#include <string>

namespace hasami {

/// A picture in memory that two processes share: how hasami-reader gives what it decoded. A heading, then the
/// pixels (4 bytes each), then the fine colours where there are some (as FineColours::samples), then the ICC
/// profile, then each spot plate: the length of its name (4 bytes), the name, the amounts (1 byte each); all
/// in the machine's own order of bytes. What concerns JPEG files and pages of vector art is not part of it.
struct SharedPictureHeading {
    static constexpr std::uint64_t thisForm = 0x4861736d69303032; ///< changed with the form

    std::uint64_t form = thisForm;
    std::int32_t width = 0, height = 0, pages = 1;
    std::int32_t hasCoverage = 0, isGrey = 0;
    std::int32_t fineChannels = 0, fineBits = 0; ///< 0: no fine colours
    std::int32_t spotPlates = 0;
    double pixelsPerMillimetre = 0;
    std::uint64_t profileBytes = 0;
};

/// Takes as many bytes as are given; false where it can't.
using PutBytes = std::function<bool(std::span<const std::byte>)>;
/// Fills what is given; false where that many are not there.
using TakeBytes = std::function<bool(std::span<std::byte>)>;

/// Puts the parts of a picture one after another, each freed when it is put. False where one is not taken.
bool putShared(Picture picture, const PutBytes& put);

/// The picture that another process, which may have been misled by a stranger's file, put there. `name` of
/// that file. Throws InputError where it is none, or has an impossible size.
Picture takeShared(const std::string& name, const TakeBytes& take);

} // namespace hasami
