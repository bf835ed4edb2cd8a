// Speed as ratios: each target stands beside a peer measured in the same run. A pair is named WHAT/most:RATIO
// and ends in /ours and /peer; bench/ratios.py puts them together.

#include "edge/find_edge.h"
#include "files/picture_file.h"
#include "files/print_file.h"
#include "files/read_file.h"
#include "raster/level_lines.h"
#include "support/shapes.h"

#include <QBuffer>
#include <QGuiApplication>
#include <QImage>
#include <QImageReader>
#include <benchmark/benchmark.h>

#include <numeric>

namespace {

using namespace hasami;

/// A wavy blob with a ripple, its rim a few pixels soft, over random colours: hard to pack, as photographs
/// are.
QImage artwork(int width, int height) {
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

const Asset& bigPicture() {
    static const Asset asset = [] {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        artwork(6000, 4000).save(&buffer, "PNG", 80);
        Asset made{"", "big.png", {}};
        made.bytes.resize(std::size_t(bytes.size()));
        std::memcpy(made.bytes.data(), bytes.constData(), made.bytes.size());
        return made;
    }();
    return asset;
}

void edgeOf24Megapixels(benchmark::State& state) {
    const Picture picture = readPicture(bigPicture());
    const Item item{"", "", picture.pixels.width(), picture.pixels.height(), {{0, 0}, 300, 200}};
    for (auto _ : state)
        benchmark::DoNotOptimize(findEdge(item, coverageOf(picture), {}));
}

void decodingOf24Megapixels(benchmark::State& state) {
    for (auto _ : state) {
        QImage image;
        image.loadFromData(reinterpret_cast<const uchar*>(bigPicture().bytes.data()),
                           int(bigPicture().bytes.size()), "PNG");
        benchmark::DoNotOptimize(image.constBits());
    }
}

Grid<std::uint8_t> megapixel() {
    const QImage image = artwork(1250, 800);
    Grid<std::uint8_t> grid(image.width(), image.height());
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            grid.at(x, y) = static_cast<std::uint8_t>(qAlpha(image.pixel(x, y)));
    return grid;
}

void levelLinesOfOneMegapixel(benchmark::State& state) {
    const auto grid = megapixel();
    for (auto _ : state)
        benchmark::DoNotOptimize(levelLines(grid, 127.5));
}

void onePassOverOneMegapixel(benchmark::State& state) {
    const auto grid = megapixel();
    for (auto _ : state) {
        benchmark::DoNotOptimize(grid.cells().data());
        benchmark::DoNotOptimize(std::reduce(grid.cells().begin(), grid.cells().end(), std::uint64_t{0}));
    }
}

void printFile(benchmark::State& state, int count) {
    PictureStore pictures;
    const PictureSource source = [&](const Asset& asset) { return pictures.get(asset); };
    Job job;
    addDesign(job, openArtwork(HASAMI_BEE, pictures), 50).count = count;
    Cache cache;
    const Made made = makeAll(job, 1, source, cache);
    for (auto _ : state)
        benchmark::DoNotOptimize(printPdf(job, made, source, {}));
}

} // namespace

int main(int argc, char** argv) {
    const QGuiApplication application(argc, argv);
    QImageReader::setAllocationLimit(1024);
    const auto in = benchmark::kMillisecond;
    benchmark::RegisterBenchmark("edge of a 24-megapixel PNG to its decoding/most:1/ours", edgeOf24Megapixels)
        ->Unit(in)
        ->Iterations(1);
    benchmark::RegisterBenchmark("edge of a 24-megapixel PNG to its decoding/most:1/peer",
                                 decodingOf24Megapixels)
        ->Unit(in)
        ->Iterations(1);
    benchmark::RegisterBenchmark("level to loops, 1 megapixel, to one pass/most:5/ours",
                                 levelLinesOfOneMegapixel)
        ->Unit(in)
        ->Iterations(20);
    benchmark::RegisterBenchmark("level to loops, 1 megapixel, to one pass/most:5/peer",
                                 onePassOverOneMegapixel)
        ->Unit(in)
        ->Iterations(20);
    benchmark::RegisterBenchmark("print file of 1,000 pieces to one of 1/most:3/ours",
                                 [](benchmark::State& s) { printFile(s, 1000); })
        ->Unit(in)
        ->Iterations(1);
    benchmark::RegisterBenchmark("print file of 1,000 pieces to one of 1/most:3/peer",
                                 [](benchmark::State& s) { printFile(s, 1); })
        ->Unit(in)
        ->Iterations(1);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
