#pragma once

#include "artwork/artwork.h"

#include <QBuffer>
#include <QByteArray>
#include <QImage>
#include <benchmark/benchmark.h>

#include <algorithm>
#include <cmath>
#include <random>

namespace hasami::bench {

/// A wavy blob with a ripple, its rim a few pixels soft, over random colours: hard to pack, as photographs
/// are.
inline QImage artwork(int width, int height) {
    QImage image(width, height, QImage::Format_ARGB32);
    std::mt19937 random(1);
    for (int y = 0; y < height; ++y) {
        auto* row = reinterpret_cast<QRgb*>(image.scanLine(y));
        for (int x = 0; x < width; ++x) {
            const double u = (x - width / 2.0) / width, v = (y - height / 2.0) / height;
            const double angle = std::atan2(v, u);
            const double inside =
                0.4 + 0.05 * std::sin(5 * angle) + 0.01 * std::sin(40 * angle) - std::hypot(u, v);
            const int coverage = int(std::clamp(inside * width + 0.5, 0.0, 1.0) * 255);
            row[x] = qRgba(x * 255 / width, int(random() % 32 + 100), y * 255 / height, coverage);
        }
    }
    return image;
}

inline Asset assetOf(const char* name, const QByteArray& bytes) {
    const auto* first = reinterpret_cast<const std::byte*>(bytes.constData());
    return {"", name, {first, first + bytes.size()}};
}

inline const Asset& bigPicture() {
    static const Asset asset = [] {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        artwork(6000, 4000).save(&buffer, "PNG", 80);
        return assetOf("big.png", bytes);
    }();
    return asset;
}

/// By Qt: what others are measured against.
inline void decodingOf24Megapixels(benchmark::State& state) {
    for (auto _ : state) {
        QImage image;
        image.loadFromData(reinterpret_cast<const uchar*>(bigPicture().bytes.data()),
                           int(bigPicture().bytes.size()), "PNG");
        benchmark::DoNotOptimize(image.constBits());
    }
}

} // namespace hasami::bench
