#include "artwork/fine_colours.h"

#include <cassert>
#include <cstring>

namespace hasami {

FineColours::FineColours(int channels, int bits, int width, int height, const FineCell& value)
    : channels_(channels), bits_(bits), width_(width), height_(height), samples_(pixels() * bytesOfPixel()) {
    assert(channels == 1 || channels == 3 || channels == 4);
    assert(bits == 8 || bits == 16);
    if (value != FineCell{})
        for (std::size_t pixel = 0; pixel < pixels(); ++pixel)
            set(pixel, value);
}

FineColours::FineColours(int channels, int bits, int width, int height, std::vector<std::uint8_t> samples)
    : channels_(channels), bits_(bits), width_(width), height_(height), samples_(std::move(samples)) {
    assert(samples_.size() == pixels() * bytesOfPixel());
}

FineCell FineColours::at(std::size_t pixel) const {
    FineCell values{};
    const std::uint8_t* from = &samples_[pixel * bytesOfPixel()];
    if (bits_ == 16)
        std::memcpy(values.data(), from, bytesOfPixel());
    else
        for (std::size_t i = 0; i < std::size_t(channels_); ++i)
            values[i] = from[i];
    return values;
}

void FineColours::set(std::size_t pixel, const FineCell& values) {
    std::uint8_t* to = &samples_[pixel * bytesOfPixel()];
    if (bits_ == 16)
        std::memcpy(to, values.data(), bytesOfPixel());
    else
        for (std::size_t i = 0; i < std::size_t(channels_); ++i)
            to[i] = std::uint8_t(values[i]);
}

Rgba FineColours::shown(std::size_t pixel) const {
    const FineCell values = at(pixel);
    const auto eighth = [&](std::size_t i) { return bits_ == 16 ? (values[i] + 128U) / 257 : values[i]; };
    if (channels_ == 1)
        return {std::uint8_t(eighth(0)), std::uint8_t(eighth(0)), std::uint8_t(eighth(0)), 255};
    if (channels_ == 3)
        return {std::uint8_t(eighth(0)), std::uint8_t(eighth(1)), std::uint8_t(eighth(2)), 255};
    const unsigned light = 255 - eighth(3);
    const auto left = [&](std::size_t i) { return std::uint8_t(((255 - eighth(i)) * light + 127) / 255); };
    return {left(0), left(1), left(2), 255};
}

} // namespace hasami
