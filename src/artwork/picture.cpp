#include "artwork/picture.h"

#include "base/error.h"
#include "base/translation.h"

#include <algorithm>

namespace hasami {

namespace {

/// `upright`: of the size that the picture has for the eye.
template <class Cells>
Cells turned(const Cells& stored, Cells upright, int orientation) {
    const Affine map = orientationMap(orientation);
    for (int row = 0; row < stored.height(); ++row)
        for (int column = 0; column < stored.width(); ++column) {
            const Point seen = map({(column + 0.5) / stored.width(), (row + 0.5) / stored.height()});
            upright.set(int(seen.x * upright.width()), int(seen.y * upright.height()),
                        stored.at(column, row));
        }
    return upright;
}

} // namespace

const char* faultOfSize(std::int64_t width, std::int64_t height) {
    constexpr std::int64_t mostPixels = 100'000'000;
    constexpr int leastSide = 4;                                                  // pixels; less has no shape
    if (width > mostPixels || height > mostPixels || width * height > mostPixels) // each alone: no overflow
        return N_("%1 has %2 x %3 pixels, more than the 100 million that Hasami opens");
    if (width < leastSide || height < leastSide)
        return N_("%1 has only %2 x %3 pixels: too small for an edge, which takes at least 4 x 4");
    return nullptr;
}

void checkSize(const std::string& name, std::int64_t width, std::int64_t height) {
    if (const char* fault = faultOfSize(width, height))
        throw InputError(sentence(fault, name, std::to_string(width), std::to_string(height)));
}

double plausibleResolution(double pixelsPerMillimetre) {
    return pixelsPerMillimetre >= 1 / 25.4 && pixelsPerMillimetre <= 20'000 / 25.4 ? pixelsPerMillimetre : 0;
}

void turnUpright(Picture& picture, int orientation) {
    if (orientation < 2 || orientation > 8)
        return;
    const bool isOnSide = orientation > 4;
    const int width = isOnSide ? picture.pixels.height() : picture.pixels.width(),
              height = isOnSide ? picture.pixels.width() : picture.pixels.height();
    picture.pixels = turned(picture.pixels, Grid<Rgba>(width, height), orientation);
    if (const auto& fine = picture.fine)
        picture.fine = turned(*fine, FineColours(fine->channels(), fine->bits(), width, height), orientation);
    for (SpotPlate& spot : picture.spotPlates)
        spot.amounts = turned(spot.amounts, Grid<std::uint8_t>(width, height), orientation);
}

Affine orientationMap(int orientation) {
    switch (orientation) {
    case 2:
        return {-1, 0, 0, 1, 1, 0};
    case 3:
        return {-1, 0, 0, -1, 1, 1};
    case 4:
        return {1, 0, 0, -1, 0, 1};
    case 5:
        return {0, 1, 1, 0, 0, 0};
    case 6:
        return {0, 1, -1, 0, 1, 0};
    case 7:
        return {0, -1, -1, 0, 1, 1};
    case 8:
        return {0, -1, 1, 0, 0, 1};
    default:
        return {};
    }
}

Picture partOf(const Picture& picture, const PixelBox& box) {
    Picture part;
    part.pixels = Grid<Rgba>(box.width, box.height);
    for (int row = 0; row < box.height; ++row) {
        const auto from = picture.pixels.row(box.top + row).subspan(std::size_t(box.left));
        std::copy_n(from.begin(), box.width, part.pixels.row(row).begin());
    }
    part.pixelsPerMillimetre = picture.pixelsPerMillimetre;
    part.hasCoverage = picture.hasCoverage;
    part.isGrey = picture.isGrey;
    part.pages = picture.pages;
    part.page = picture.page;
    return part;
}

Grid<std::uint8_t> coverageOf(const Picture& picture) {
    Grid<std::uint8_t> coverage(picture.pixels.width(), picture.pixels.height());
    std::transform(picture.pixels.cells().begin(), picture.pixels.cells().end(), coverage.cells().begin(),
                   [](Rgba pixel) { return pixel.coverage; });
    return coverage;
}

} // namespace hasami
