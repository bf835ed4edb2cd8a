#include "making.h"

#include "big_picture.h"
#include "edge/find_edge.h"
#include "files/picture_file.h"
#include "geometry/crossings.h"
#include "geometry/fit_loops.h"
#include "machine/route.h"
#include "sticker/bleed_picture.h"
#include "support/nasty_drawing.h"
#include "support/spanning_tree.h"
#include "workshop/make_all.h"

#include <benchmark/benchmark.h>

#include <chrono>
#include <memory>
#include <random>

namespace hasami::bench {

namespace {

/// From the lines to the bleed's colours, as in the window.
void bleedOf24Megapixels(benchmark::State& state) {
    const auto picture = std::make_shared<const Picture>(readPicture(bigPicture()));
    const Item item{"", picture->pixels.width(), picture->pixels.height(), {{0, 0}, 300, 200}};
    const std::vector<Curve> edge = findEdge(item, findCoverage(*picture, EdgeWay::automatic, 0), {});
    Recipe recipe;
    recipe.lines[0].offset = 0;
    recipe.bleed.amount = 2;
    const std::shared_ptr<const Picture> pictures[] = {picture};
    for (auto _ : state) {
        const Sticker sticker = makeSticker({{item}}, edge, recipe, {fitTolerance(item, recipe.edge)});
        benchmark::DoNotOptimize(bleedPicture({{item}}, sticker, recipe.bleed, pictures));
    }
}

std::vector<RouteLine> stickers(std::size_t count) {
    std::mt19937 random(1);
    std::uniform_real_distribution<double> along(0, 6000), across(0, 1200), size(5, 20);
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < count; ++i) {
        const Point centre{along(random), across(random)};
        const double half = size(random);
        const Curve round = shapeAround({centre - Point{half, half}, centre + Point{half, half}},
                                        {PlainShapeKind::ellipse, 0, 0, 6, true, 2 * half, 2 * half});
        lines.push_back({LineKind::kiss, i, 0, {{round.start, round.segments, true}}});
    }
    return lines;
}

/// Lengths take the place of times: a metre for a second.
void wayOverStickers(benchmark::State& state) {
    const std::vector<RouteLine> routed = route(stickers(200));
    for (auto _ : state)
        state.SetIterationTime(travelOf(routed) / 1000);
}

/// Drawings of hair, necks and stairs: pairs of pieces that cross in their lines and in those half a
/// millimetre outside. Each counts as a second beside the one that both begin with.
void crossingsOfDrawings(benchmark::State& state) {
    std::mt19937 random(22);
    std::size_t crossings = 0;
    for (int i = 0; i < 1000; ++i) {
        Coverage coverage;
        coverage.cells = test::nastyDrawing(random);
        const int width = coverage.cells.width(), height = coverage.cells.height();
        const Item item{"", width, height, {{0, 0}, width / 10.0, height / 10.0}};
        std::vector<Curve> lines;
        for (EdgeLoop& loop : findLoops(item, coverage, {}))
            lines.push_back(std::move(loop.curve));
        const Region moved = offset(flatten(lines, flatteningTolerance), 0.5);
        crossings += crossingsOf(lines).size() + crossingsOf(fitLoops(moved.loops, {0.01, 0, 0.02})).size();
    }
    for (auto _ : state)
        state.SetIterationTime(1 + double(crossings));
}

void treeOverStickers(benchmark::State& state) {
    std::vector<Point> starts{{0, 0}};
    for (const RouteLine& line : route(stickers(200)))
        starts.push_back(line.runs.front().start);
    for (auto _ : state)
        state.SetIterationTime(test::spanningTree(starts) / 1000);
}

void routeOf1000Stickers(benchmark::State& state) {
    const std::vector<RouteLine> lines = stickers(1000);
    for (auto _ : state)
        benchmark::DoNotOptimize(route(lines));
}

/// One after the other gets a cut line that no cache has seen, which is what one waits for at a slider: the
/// slowest of them.
void offsetChangeOnDemoDesigns(benchmark::State& state) {
    PictureStore store;
    const PictureSource pictures = [&](const Asset& asset, const PictureWish& wish,
                                       const std::stop_token& stop) { return store.get(asset, wish, stop); };
    Job job;
    for (const char* name : {"bee.png", "comb-ring.png", "smoke-can.jpg", "honey-label.svg"})
        addDesign(job, openArtwork(std::string(HASAMI_DEMO_FOLDER) + name, store)).count = 4;
    Cache cache;
    makeAll(job, 1, pictures, cache);
    for (auto _ : state) {
        double slowest = 0;
        for (Design& design : job.designs) {
            design.recipe.lines[0].offset += 0.03;
            const auto start = std::chrono::steady_clock::now();
            benchmark::DoNotOptimize(makeAll(job, 2, pictures, cache));
            const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - start;
            slowest = std::max(slowest, taken.count());
        }
        state.SetIterationTime(slowest);
    }
}

void oneSecond(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(1);
}

void fiftyMilliseconds(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(0.05);
}

} // namespace

void registerMaking() {
    const auto add = [](const char* name, void (*run)(benchmark::State&), bool isGiven) {
        auto* made = benchmark::RegisterBenchmark(name, run)->Unit(benchmark::kMillisecond)->Iterations(1);
        if (isGiven)
            made->UseManualTime();
        else
            made->UseRealTime();
    };
    add("bleed of a 24-megapixel PNG to its decoding/most:2/ours", bleedOf24Megapixels, false);
    add("bleed of a 24-megapixel PNG to its decoding/most:2/peer", decodingOf24Megapixels, false);
    add("way over 200 stickers to the tree that spans their starts/most:1.25/ours", wayOverStickers, true);
    add("way over 200 stickers to the tree that spans their starts/most:1.25/peer", treeOverStickers, true);
    add("1 s and one for each crossing in 1,000 drawings' lines, to 1 s/most:1/ours", crossingsOfDrawings,
        true);
    add("1 s and one for each crossing in 1,000 drawings' lines, to 1 s/most:1/peer", oneSecond, true);
    add("offset changed on a demo design to 50 ms/most:1/ours", offsetChangeOnDemoDesigns, true);
    add("offset changed on a demo design to 50 ms/most:1/peer", fiftyMilliseconds, true);
    add("route of 1,000 stickers to a second/most:1/ours", routeOf1000Stickers, false);
    add("route of 1,000 stickers to a second/most:1/peer", oneSecond, true);
}

} // namespace hasami::bench
