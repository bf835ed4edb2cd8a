#include "run.h"

#include "base/error.h"
#include "files/picture_file.h"
#include "machine/cut_errors.h"
#include "queue/queue_folder.h"
#include "rehearsal/render_print.h"

#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

#include <algorithm>
#include <chrono>
#include <memory>
#include <thread>

namespace hasami::bench {

namespace {

/// A sheet of 24 bees, and its print file.
struct BeeSheet {
    BeeSheet() {
        addDesign(job, openArtwork(HASAMI_BEE, store, 1, {}), 50).count = 24;
        job.plan.medium.width = 600;
        Cache cache;
        made = std::make_shared<const Made>(makeAll(job, 1, source, cache));
        pdf = printPdf(job, *made, source, {false, 0, true, {}, false, false, {}});
    }
    Job job;
    PictureStore store;
    PictureSource source = [this](const Asset& asset, const PictureWish& wish, const std::stop_token& stop) {
        return store.get(asset, wish, stop);
    };
    std::shared_ptr<const Made> made;
    std::string pdf;
};

void simulatedPrint(benchmark::State& state) {
    const BeeSheet sheet;
    for (auto _ : state)
        benchmark::DoNotOptimize(renderPrint(sheet.job, *sheet.made, sheet.source, 0));
}

void printByPdftoppm(benchmark::State& state) {
    const BeeSheet sheet;
    const QTemporaryDir folder;
    QFile file(folder.filePath("print.pdf"));
    if (!file.open(QIODevice::WriteOnly) || file.write(sheet.pdf.data(), qint64(sheet.pdf.size())) < 0)
        return state.SkipWithError("no file");
    file.close();
    for (auto _ : state) {
        QProcess drawing;
        drawing.setStandardOutputFile(folder.filePath("page.ppm"));
        drawing.start("pdftoppm", {"-r", "300", file.fileName()});
        if (!drawing.waitForFinished(120'000))
            return state.SkipWithError("pdftoppm takes too long");
    }
}

/// From a cancel in the middle of a print to its end, the longest.
void cancelOfAPrint(benchmark::State& state) {
    using Clock = std::chrono::steady_clock;
    const BeeSheet sheet;
    for (auto _ : state) {
        std::chrono::duration<double> longest{0};
        for (const int after : {100, 300, 500, 700, 900}) {
            std::jthread printing([&](const std::stop_token& stop) {
                try {
                    benchmark::DoNotOptimize(renderPrint(sheet.job, *sheet.made, sheet.source, 0, stop));
                } catch (const Stopped&) {
                }
            });
            std::this_thread::sleep_for(std::chrono::milliseconds(after));
            const auto start = Clock::now();
            printing.request_stop();
            printing.join();
            longest = std::max<std::chrono::duration<double>>(longest, Clock::now() - start);
        }
        state.SetIterationTime(longest.count());
    }
}

void queueOf5000(benchmark::State& state) {
    const QTemporaryDir folder;
    const QueueFolder queue(folder.filePath("queue").toStdString());
    queue.make();
    for (int i = 0; i < 5000; ++i) {
        QueueEntry entry;
        entry.id = entry.keptJob = "entry-" + std::to_string(i);
        entry.job = "quillmoor-honey";
        entry.order = i;
        queue.keep(entry);
    }
    for (auto _ : state)
        benchmark::DoNotOptimize(queue.read());
}

/// Of 25,000 lines, how far off the print each is.
void errorsOf25000(benchmark::State& state) {
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < 25'000; ++i) {
        const Point corner{6.0 * double(i % 200), 6.0 * double(i / 200)};
        const Curve curve = polygonOf(Box{corner, corner + Point{5, 5}});
        lines.push_back({LineKind::kiss, i, 0, {{curve.start, curve.segments, true}}});
    }
    const CutProgram program = programOf(lines, {});
    const PrintMap print({{1, 2}, 0.3}, {{0, 0}, {1200, 800}});
    for (auto _ : state)
        benchmark::DoNotOptimize(cutErrors(program, {}, print));
}

template <int milliseconds>
void bound(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(milliseconds / 1000.0);
}

} // namespace

void registerRun() {
    const auto add = [](const char* name, void (*run)(benchmark::State&), bool isManual = false) {
        auto* added = benchmark::RegisterBenchmark(name, run)->Unit(benchmark::kMillisecond)->Iterations(1);
        if (isManual)
            added->UseManualTime();
        else
            added->UseRealTime();
    };
    add("simulated print of a sheet of 600 mm/most:1.5/ours", simulatedPrint);
    add("simulated print of a sheet of 600 mm/most:1.5/peer", printByPdftoppm);
    add("cancel of a simulated print/most:1/ours", cancelOfAPrint, true);
    add("cancel of a simulated print/most:1/peer", bound<100>, true);
    add("queue of 5,000 entries read/most:1/ours", queueOf5000);
    add("queue of 5,000 entries read/most:1/peer", bound<100>, true);
    add("errors of 25,000 lines/most:1/ours", errorsOf25000);
    add("errors of 25,000 lines/most:1/peer", bound<100>, true);
}

} // namespace hasami::bench
