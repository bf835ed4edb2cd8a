#include "proof.h"

#include "app/proof/proof_place.h"
#include "app/window/main_window.h"
#include "big_picture.h"
#include "checks/inspect.h"
#include "edge/coverage.h"
#include "edge/find_edge.h"
#include "files/picture_file.h"
#include "sticker/bleed_picture.h"

#include <QApplication>
#include <benchmark/benchmark.h>

#include <chrono>

namespace hasami::bench {

namespace {

constexpr double frame = 1.0 / 60; // s

/// The demo's sheet in the third place; each round shifts its cut, and draws it.
void driftDragged(benchmark::State& state) {
    MainWindow window;
    window.resize(1280, 800);
    window.openPaths({HASAMI_BEE});
    window.show();
    Document& document = window.document();
    const auto wait = [&](const auto& isDone) {
        while (!isDone())
            QApplication::processEvents(QEventLoop::AllEvents, 5);
    };
    wait([&] { return !document.job().designs.empty() && document.isMade(); });
    document.change("24 copies", [](Job& job) { job.designs.front().count = 24; });
    wait([&] { return document.isMade(); });
    window.goTo(MainWindow::proof);
    ProofView& view = window.proofPlace().view();
    for (const auto end = std::chrono::steady_clock::now() + std::chrono::seconds(1);
         std::chrono::steady_clock::now() < end;)
        QApplication::processEvents(QEventLoop::AllEvents, 5);
    int round = 0;
    for (auto _ : state) {
        CutDrift drift;
        drift.shift = {0.01 * double(++round % 50), 0.2};
        const auto begin = std::chrono::steady_clock::now();
        view.setDrift(drift);
        view.repaint();
        state.SetIterationTime(
            std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    document.startNew();
}

void aFrame(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(frame);
}

/// The demo's bee, 2,000 times.
void findingsOfManyPieces(benchmark::State& state) {
    Job job;
    PictureStore store;
    addDesign(job, openArtwork(HASAMI_BEE, store, 1, {})).count = 2000;
    const PictureSource source = [&](const Asset& asset, const PictureWish& wish,
                                     const std::stop_token& stop) { return store.get(asset, wish, stop); };
    Cache cache;
    const Made made = makeAll(job, 1, source, cache);
    for (auto _ : state) {
        StickerChecks checks;
        benchmark::DoNotOptimize(inspect(job, made, checks));
    }
}

void aSecond(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(1);
}

struct Big {
    Item item;
    Sticker sticker;
    Recipe recipe;
    std::vector<std::shared_ptr<const Picture>> pictures;
};

const Big& big() {
    static const Big made = [] {
        Big all;
        auto picture = std::make_shared<const Picture>(readPicture(bigPicture()));
        all.item.pixelWidth = picture->pixels.width();
        all.item.pixelHeight = picture->pixels.height();
        all.item.place = {{}, 300, 200};
        all.recipe.lines.front().offset = 0;
        all.recipe.bleed.amount = 2;
        all.sticker =
            makeSticker({{all.item}}, findEdge(all.item, findCoverage(*picture, EdgeWay::automatic, 0), {}),
                        all.recipe, {fitTolerance(all.item, all.recipe.edge)});
        all.pictures = {picture};
        return all;
    }();
    return made;
}

void driftOf24Megapixels(benchmark::State& state) {
    big(); // is made before the clock runs
    for (auto _ : state)
        benchmark::DoNotOptimize(safeDrift(DriftRims(big().sticker)));
}

void bleedOfTheSame(benchmark::State& state) {
    big();
    for (auto _ : state)
        benchmark::DoNotOptimize(
            bleedPicture({{big().item}}, big().sticker, big().recipe.bleed, big().pictures));
}

} // namespace

void registerProof() {
    constexpr auto in = benchmark::kMillisecond;
    const auto add = [&](const char* name, void (*run)(benchmark::State&), bool isTimedByItself) {
        auto* one = benchmark::RegisterBenchmark(name, run);
        one->Unit(in)->Iterations(5);
        if (isTimedByItself)
            one->UseManualTime();
        else
            one->UseRealTime();
    };
    add("drift dragged on the demo's sheet, to a frame/most:1/ours", driftDragged, true);
    add("drift dragged on the demo's sheet, to a frame/most:1/peer", aFrame, true);
    add("findings of 2,000 pieces, to a second/most:1/ours", findingsOfManyPieces, false);
    add("findings of 2,000 pieces, to a second/most:1/peer", aSecond, true);
    add("safe drift of a 24-megapixel design to its bleed/most:1/ours", driftOf24Megapixels, false);
    add("safe drift of a 24-megapixel design to its bleed/most:1/peer", bleedOfTheSame, false);
}

} // namespace hasami::bench
