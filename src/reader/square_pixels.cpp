#include "reader/square_pixels.h"

#include "reader/refusal.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

std::uint8_t between(std::uint8_t a, std::uint8_t b, double part) {
    return std::uint8_t(std::lround(std::lerp(double(a), double(b), part)));
}

Rgba between(const Rgba& a, const Rgba& b, double part) {
    return {between(a.red, b.red, part), between(a.green, b.green, part), between(a.blue, b.blue, part),
            between(a.coverage, b.coverage, part)};
}

FineCell between(const FineCell& a, const FineCell& b, double part) {
    FineCell mixed{};
    for (std::size_t i = 0; i < mixed.size(); ++i)
        mixed[i] = std::uint16_t(std::lround(std::lerp(double(a[i]), double(b[i]), part)));
    return mixed;
}

/// From pixel middle to pixel middle along straight lines. `to`: of the new size.
template <class Cells>
Cells stretched(const Cells& from, Cells to) {
    struct Between {
        int first, second;
        double part;
    };
    const auto sourceOf = [](int to, int countOfTo, int countOfFrom) {
        const double at =
            std::clamp((to + 0.5) * countOfFrom / countOfTo - 0.5, 0.0, double(countOfFrom - 1));
        const int first = int(at);
        return Between{first, std::min(first + 1, countOfFrom - 1), at - first};
    };
    for (int y = 0; y < to.height(); ++y) {
        const Between rows = sourceOf(y, to.height(), from.height());
        for (int x = 0; x < to.width(); ++x) {
            const Between columns = sourceOf(x, to.width(), from.width());
            const auto in = [&](int row) {
                return between(from.at(columns.first, row), from.at(columns.second, row), columns.part);
            };
            to.set(x, y, between(in(rows.first), in(rows.second), rows.part));
        }
    }
    return to;
}

} // namespace

void squarePixels(Picture& picture, double across, double down) {
    constexpr double alike = 1.02, farthest = 20; // more is a mistake
    const double ratio = across > 0 && down > 0 ? std::max(across, down) / std::min(across, down) : 1;
    if (ratio < alike || ratio > farthest)
        return;
    const double finest = std::max(across, down);
    const int width = int(std::lround(picture.pixels.width() * finest / across)),
              height = int(std::lround(picture.pixels.height() * finest / down));
    checkSize(width, height);
    picture.pixels = stretched(picture.pixels, Grid<Rgba>(width, height));
    if (const auto& fine = picture.fine)
        picture.fine = stretched(*fine, FineColours(fine->channels(), fine->bits(), width, height));
    for (SpotPlate& spot : picture.spotPlates)
        spot.amounts = stretched(spot.amounts, Grid<std::uint8_t>(width, height));
    picture.pixelsPerMillimetre = finest;
}

} // namespace hasami
