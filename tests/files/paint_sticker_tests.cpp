#include "files/paint_sticker.h"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace hasami;

namespace {

/// Stripes that one step over pixels would show as a moiré, getting darker downward.
QImage stripes(int width, int height) {
    QImage image(width, height, QImage::Format_RGBA8888);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            image.setPixelColor(x, y, QColor((x + y) % 3 == 0 ? 240 : 30, 255 - 255 * y / height, 90));
    return image;
}

} // namespace

TEST_CASE("a picture drawn small is the average of its pixels, in any number of bands") {
    for (const int height : {1200, 1259}) { // the last band is whole, and is not
        const QImage whole = stripes(1600, height), small = scaledFor(whole, 80, height / 20.0);
        REQUIRE(small.size() == QSize(80, (height + 19) / 20));
        int farthest = 0;
        for (int y = 1; y + 2 < small.height(); ++y)
            for (int x = 0; x < small.width(); ++x) {
                const QColor pixel = small.pixelColor(x, y);
                const int green = 255 - int(std::lround(255 * (y + 0.5) / small.height()));
                farthest = std::max({farthest, std::abs(pixel.red() - 100), std::abs(pixel.green() - green),
                                     std::abs(pixel.blue() - 90)});
            }
        CHECK(farthest <= 3);
    }
    const QImage tiny = stripes(20, 20);
    CHECK(scaledFor(tiny, 30, 30).size() == QSize(20, 20)); // never larger
    CHECK(scaledFor(tiny, 0.2, 0.2).size() == QSize(1, 1));
}
