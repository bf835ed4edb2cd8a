#include "artwork/filled_part.h"

#include <algorithm>
#include <cstdlib>

namespace hasami {

namespace {

constexpr int faintest = 4;  // of 255: less coverage is not seen
constexpr int leastStep = 8; // of 255, that a colour differs from a plain backdrop; scans and JPEG waver less

bool isSeen(Rgba pixel) {
    return pixel.coverage >= faintest;
}

bool areAlike(Rgba a, Rgba b) {
    return std::max({std::abs(a.red - b.red), std::abs(a.green - b.green), std::abs(a.blue - b.blue)}) <
           leastStep;
}

} // namespace

std::optional<PixelBox> filledPart(const Picture& picture) {
    const Grid<Rgba>& pixels = picture.pixels;
    const int right = pixels.width() - 1, bottom = pixels.height() - 1;
    const Rgba corner = pixels.at(0, 0);
    const Rgba others[] = {pixels.at(right, 0), pixels.at(0, bottom), pixels.at(right, bottom)};
    const auto all = pixels.cells();
    const bool isOpaque = std::all_of(all.begin(), all.end(), isSeen);
    if (isOpaque && !std::all_of(std::begin(others), std::end(others),
                                 [&](Rgba other) { return areAlike(other, corner); }))
        return {};
    int least = pixels.width(), most = -1, top = -1, last = -1;
    for (int row = 0; row < pixels.height(); ++row) {
        const auto line = pixels.row(row);
        const auto isFilled = [&](Rgba pixel) { return isOpaque ? !areAlike(pixel, corner) : isSeen(pixel); };
        const auto first = std::find_if(line.begin(), line.end(), isFilled);
        if (first == line.end())
            continue;
        const auto end = std::find_if(line.rbegin(), line.rend(), isFilled);
        least = std::min(least, int(first - line.begin()));
        most = std::max(most, int(line.rend() - end) - 1);
        top = top < 0 ? row : top;
        last = row;
    }
    if (top < 0)
        return {};
    return PixelBox{least, top, most - least + 1, last - top + 1};
}

} // namespace hasami
