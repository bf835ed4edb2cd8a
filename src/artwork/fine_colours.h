#pragma once

#include "artwork/rgba.h"

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace hasami {

/// A pixel's channels; those that a picture does not have are 0.
using FineCell = std::array<std::uint16_t, 4>;

/// Colours of which eight bits of red, green and blue would lose something: CMYK, or 16 bits each. Coverage
/// is not among them.
class FineColours {
public:
    FineColours() = default;
    /// REQUIRES: `channels` is 1 (grey), 3 (RGB) or 4 (CMYK), `bits` 8 or 16.
    FineColours(int channels, int bits, int width, int height, const FineCell& value = {});
    /// REQUIRES: `samples` are as samples() gives them, for every pixel.
    FineColours(int channels, int bits, int width, int height, std::vector<std::uint8_t> samples);

    int channels() const { return channels_; }
    int bits() const { return bits_; }
    int width() const { return width_; }
    int height() const { return height_; }
    std::size_t pixels() const { return std::size_t(width_) * std::size_t(height_); }

    FineCell at(std::size_t pixel) const;
    FineCell at(int column, int row) const { return at(index(column, row)); }
    void set(std::size_t pixel, const FineCell& values);
    void set(int column, int row, const FineCell& values) { set(index(column, row), values); }

    Rgba shown(std::size_t pixel) const; ///< for the eye, fully covered

    /// Pixel by pixel, row after row from the top; 16 bits in this machine's order of bytes.
    std::span<const std::uint8_t> samples() const { return samples_; }
    std::span<std::uint8_t> samples() { return samples_; }

private:
    std::size_t index(int column, int row) const {
        return std::size_t(row) * std::size_t(width_) + std::size_t(column);
    }
    std::size_t bytesOfPixel() const { return std::size_t(channels_) * std::size_t(bits_) / 8; }

    int channels_ = 3, bits_ = 8, width_ = 0, height_ = 0;
    std::vector<std::uint8_t> samples_;
};

} // namespace hasami
