#include "machine/printed_sheet.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr std::array<double, 3> bedColour{74, 78, 84};
constexpr std::array<double, 3> smudgeColour{96, 92, 90};
constexpr double betweenBands = 4.2; // mm

/// A hash of a place: M. O'Neill's PCG output function on an LCG of the seeds, 2014.
std::uint32_t hashOf(std::uint32_t a, std::uint32_t b, std::uint32_t seed) {
    std::uint32_t state = (a * 747796405U + 2891336453U) ^ (b * 277803737U + seed * 2654435769U);
    state = state * 747796405U + 2891336453U;
    const std::uint32_t word = ((state >> ((state >> 28U) + 4U)) ^ state) * 277803737U;
    return (word >> 22U) ^ word;
}

double unitHash(std::uint32_t a, std::uint32_t b, std::uint32_t seed) {
    return double(hashOf(a, b, seed)) / 4294967296.0;
}

/// Smooth noise over cells of 1 mm, 0 to 1.
double cloud(Point at, std::uint32_t seed) {
    const double x = std::floor(at.x), y = std::floor(at.y);
    const auto corner = [&](int i, int j) {
        return unitHash(std::uint32_t(int(x) + i), std::uint32_t(int(y) + j), seed);
    };
    const double u = at.x - x, v = at.y - y;
    return std::lerp(std::lerp(corner(0, 0), corner(1, 0), u), std::lerp(corner(0, 1), corner(1, 1), u), v);
}

} // namespace

PrintedSheet::PrintedSheet(std::shared_ptr<const SheetPicture> print, const PrintMap& map, PaperLook look,
                           std::vector<Blemish> blemishes, std::uint32_t seed, double around)
    : print_(std::move(print)), map_(map), look_(look), blemishes_(std::move(blemishes)), seed_(seed),
      around_(around) {
    const double scale = print_->pixelsPerMillimetre;
    width_ = print_->pixels.width() + 2 * int(std::lround(around * scale));
    height_ = print_->pixels.height() + 2 * int(std::lround(around * scale));
    size_ = Point{print_->pixels.width() / scale, print_->pixels.height() / scale} + print_->origin;
}

Point PrintedSheet::placeOf(double column, double row) const {
    const double scale = print_->pixelsPerMillimetre, offset = std::round(around_ * scale);
    return {(column + 0.5 - offset) / scale, (row + 0.5 - offset) / scale};
}

Point PrintedSheet::pixelOf(Point bed) const {
    const double scale = print_->pixelsPerMillimetre, offset = std::round(around_ * scale);
    return {bed.x * scale + offset - 0.5, bed.y * scale + offset - 0.5};
}

/// Between the middles of pixels as a bilinear surface.
std::array<double, 3> PrintedSheet::printed(Point sheet) const {
    const PrintPixels& pixels = print_->pixels;
    const double x = std::clamp((sheet.x - print_->origin.x) * print_->pixelsPerMillimetre - 0.5, 0.0,
                                double(pixels.width() - 1));
    const double y = std::clamp((sheet.y - print_->origin.y) * print_->pixelsPerMillimetre - 0.5, 0.0,
                                double(pixels.height() - 1));
    const int left = int(x), top = int(y);
    const int right = std::min(left + 1, pixels.width() - 1), bottom = std::min(top + 1, pixels.height() - 1);
    const double u = x - left, v = y - top;
    const Rgb a = pixels.at(left, top), b = pixels.at(right, top), c = pixels.at(left, bottom),
              d = pixels.at(right, bottom);
    std::array<double, 3> colour{};
    for (std::size_t i = 0; i < 3; ++i)
        colour[i] = (a[i] * (1 - u) + b[i] * u) * (1 - v) + (c[i] * (1 - u) + d[i] * u) * v;
    return colour;
}

/// Nearly normal, with a standard deviation of 1: the sum of three.
double PrintedSheet::grain(int column, int row) const {
    const std::uint32_t hash = hashOf(std::uint32_t(column), std::uint32_t(row), seed_);
    const double sum = double(hash & 1023U) + double((hash >> 10U) & 1023U) + double((hash >> 20U) & 1023U);
    return (sum / 1023 - 1.5) * 2;
}

Rgb PrintedSheet::at(int column, int row) const {
    const Point bed = placeOf(column, row);
    const Point sheet = map_.back(bed);
    std::array<double, 3> colour = bedColour;
    const bool isOnMedium = sheet.x >= 0 && sheet.y >= 0 && sheet.x <= size_.x && sheet.y <= size_.y;
    if (isOnMedium) {
        colour = printed(sheet);
        const double along = sheet.x / betweenBands;
        const double band = look_.banding / 100 * (4 * std::abs(along - std::floor(along) - 0.5) - 1);
        for (std::size_t i = 0; i < 3; ++i)
            colour[i] = colour[i] / 255 * look_.paper[i] + band * (255 - colour[i]);
    }
    for (const Blemish& blemish : blemishes_) {
        // Its rim runs in and out by a third.
        const double off = distance(bed, blemish.at);
        if (off >= blemish.radius * 1.17 || !isOnMedium ||
            off >= blemish.radius * (0.83 + 0.34 * cloud(bed * 0.7, seed_ + 7)))
            continue;
        if (blemish.kind == Blemish::Kind::torn) {
            colour = bedColour;
            continue;
        }
        const double cover = 0.45 + 0.5 * cloud(bed * 1.3, seed_ + 8);
        for (std::size_t i = 0; i < 3; ++i)
            colour[i] = std::lerp(colour[i], smudgeColour[i], cover);
    }
    const double noise = look_.noise / 100 * 255 * grain(column, row);
    Rgb rgb{};
    for (std::size_t i = 0; i < 3; ++i)
        rgb[i] = std::uint8_t(std::clamp(colour[i] + noise + 0.5, 0.0, 255.0));
    return rgb;
}

} // namespace hasami
