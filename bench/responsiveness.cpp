#include "responsiveness.h"

#include "app/document/nest_run.h"
#include "app/run/run_place.h"
#include "app/sheet/sheet_place.h"
#include "app/shelf/shelf.h"
#include "app/stickers/bench.h"
#include "app/stickers/stickers_place.h"
#include "app/window/main_window.h"
#include "files/picture_file.h"
#include "files/read_file.h"

#include <QApplication>
#include <QBuffer>
#include <QElapsedTimer>
#include <QImage>
#include <QPainter>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

#include <atomic>
#include <cmath>
#include <memory>
#include <numbers>
#include <random>
#include <semaphore>
#include <thread>

namespace hasami::bench {

namespace {

/// Sends the window an event as soon as it has answered the one before, and keeps the longest time that one
/// waited.
class Heartbeat {
public:
    Heartbeat()
        : thread_([this](const std::stop_token& stop) {
              while (!stop.stop_requested()) {
                  QElapsedTimer sent;
                  sent.start();
                  QMetaObject::invokeMethod(
                      QCoreApplication::instance(), [answered = answered_] { answered->release(); },
                      Qt::QueuedConnection);
                  while (!stop.stop_requested() &&
                         !answered_->try_acquire_for(std::chrono::milliseconds(50))) {
                  }
                  longest_ = std::max(longest_.load(), double(sent.nsecsElapsed()) / 1e9);
                  std::this_thread::sleep_for(std::chrono::milliseconds(1));
              }
          }) {}

    double longest() const { return longest_; } ///< s

private:
    std::atomic<double> longest_ = 0;
    std::shared_ptr<std::counting_semaphore<>> answered_ = std::make_shared<std::counting_semaphore<>>(0);
    std::jthread thread_;
};

/// A blob of its own: no two are alike.
std::shared_ptr<const Asset> blob(int number) {
    std::mt19937 random{unsigned(number)};
    std::uniform_real_distribution<double> phase(0, 2 * std::numbers::pi), height(4, 22);
    const double first = phase(random), second = phase(random), third = height(random),
                 fifth = height(random);
    QPolygonF rim;
    for (int i = 0; i < 200; ++i) {
        const double angle = 2 * std::numbers::pi * i / 200;
        const double reach = 120 + third * std::sin(3 * angle + first) + fifth * std::sin(5 * angle + second);
        rim << QPointF(160 + reach * std::cos(angle), 160 + reach * std::sin(angle));
    }
    QImage image(320, 320, QImage::Format_ARGB32);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(QColor::fromHsv(number % 360, 180, 220));
    painter.drawPolygon(rim);
    painter.end();
    QByteArray bytes;
    QBuffer buffer(&bytes);
    image.save(&buffer, "PNG");
    const auto* from = reinterpret_cast<const std::byte*>(bytes.constData());
    Asset asset{{}, "blob-" + std::to_string(number) + ".png", {from, from + bytes.size()}};
    asset.sha256 = sha256Of(asset.bytes);
    return std::make_shared<const Asset>(std::move(asset));
}

Job jobOf294() {
    PictureStore pictures;
    Job job;
    for (int i = 0; i < 294; ++i)
        addDesign(job, openPage(blob(i), pictures, 1), 30 + i % 20);
    return job;
}

/// What one does on a day: looks at designs, changes some, lays out, nests, goes back and saves.
class Day {
public:
    explicit Day(MainWindow& window) : window_(window), document_(window.document()) {}

    void goOn(double seconds) {
        for (QElapsedTimer clock; !clock.isValid() || clock.elapsed() < seconds * 1000;) {
            if (!clock.isValid())
                clock.start();
            QApplication::processEvents(QEventLoop::AllEvents, 5);
        }
    }
    void settle() {
        while (!document_.isMade() || !document_.filesUnderWay().empty())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
        goOn(0.2);
    }
    void inEvent(const std::function<void()>& act) {
        QMetaObject::invokeMethod(&window_, act, Qt::QueuedConnection); // as a click would
        goOn(0.05);
        settle();
    }

    void run(const QString& folder) {
        settle();
        const std::string some = document_.job().designs[7].id;
        inEvent([&] { document_.select(some); });
        inEvent([&] {
            document_.change("Offset", [&](Job& job) { job.find(some)->recipe.lines[0].offset = 3; });
        });
        inEvent([&] { window_.goTo(MainWindow::sheet); });
        inEvent([&] { document_.change("Gap", [](Job& job) { job.plan.gap = 4; }); });
        NestRun& nest = window_.sheetPlace().nest();
        inEvent([&] { nest.start(); });
        while (nest.isOn() && !nest.best())
            goOn(0.1);
        goOn(3);
        inEvent([&] { nest.stop(); });
        inEvent([&] { document_.undo(); });
        inEvent([&] { document_.redo(); });
        inEvent([&] { document_.save(folder + "/day.hasami"); });
    }

    /// A sheet is printed, its marks are read, and it is cut for some seconds, the head in view.
    void cut(double seconds) {
        settle();
        inEvent([&] { window_.goTo(MainWindow::run); });
        GuidedRun& run = window_.runPlace().run();
        run.setSpeed(64);
        for (int step = 0; step < 3; ++step) { // print, load, find marks
            inEvent([&] { run.next(); });
            while (run.isBusy())
                goOn(0.05);
        }
        inEvent([&] { run.next(); });
        goOn(seconds);
        inEvent([&] { run.stop(); });
    }

private:
    MainWindow& window_;
    Document& document_;
};

void aDayWith294Designs(benchmark::State& state) {
    static const Job job = jobOf294();
    for (auto _ : state) {
        const QTemporaryDir folder;
        MainWindow window;
        window.show();
        Day day(window);
        day.goOn(0.5);
        const Heartbeat heartbeat;
        window.document().restore(std::make_shared<const Job>(job), {});
        day.run(folder.path());
        state.SetIterationTime(heartbeat.longest());
    }
}

void aCutOf294Stickers(benchmark::State& state) {
    static const Job job = jobOf294();
    for (auto _ : state) {
        MainWindow window;
        window.show();
        Day day(window);
        window.document().restore(std::make_shared<const Job>(job), {});
        day.settle();
        const Heartbeat heartbeat;
        day.cut(5);
        state.SetIterationTime(heartbeat.longest());
    }
}

/// One offset of 5,000 designs changed, until it is in the history and the list is drawn.
void offsetAmong5000Designs(benchmark::State& state) {
    PictureStore pictures;
    Job job;
    const NewPicture bee = openArtwork(HASAMI_BEE, pictures);
    constexpr int designs = 5000;
    for (int i = 0; i < designs; ++i)
        addDesign(job, bee, 20).count = 0;
    Document document;
    Shelf shelf(document);
    shelf.resize(232, 700);
    shelf.show();
    document.restore(std::make_shared<const Job>(std::move(job)), {});
    while (!document.isMade())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    double offset = 2;
    for (auto _ : state) {
        QElapsedTimer taken;
        taken.start();
        document.change("Offset", [&](Job& changed) {
            changed.find(document.selected())->recipe.lines.front().offset = offset += 0.1;
        });
        shelf.repaint();
        state.SetIterationTime(double(taken.nsecsElapsed()) / 1e9);
        while (!document.isMade())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }
}

void mostWithoutAnswer(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(0.05);
}

} // namespace

void registerResponsiveness() {
    const auto add = [](const char* name, void (*run)(benchmark::State&)) {
        benchmark::RegisterBenchmark(name, run)
            ->Unit(benchmark::kMillisecond)
            ->UseManualTime()
            ->Iterations(1);
    };
    add("longest time without an answer, a day with 294 designs, to 50 ms/most:1/ours", aDayWith294Designs);
    add("longest time without an answer, a day with 294 designs, to 50 ms/most:1/peer", mostWithoutAnswer);
    add("longest time without an answer, 294 stickers printed and cut in Run, to 50 ms/most:1/ours",
        aCutOf294Stickers);
    add("longest time without an answer, 294 stickers printed and cut in Run, to 50 ms/most:1/peer",
        mostWithoutAnswer);
    add("one offset of 5,000 designs, to the history and the list, to 50 ms/most:1/ours",
        offsetAmong5000Designs);
    add("one offset of 5,000 designs, to the history and the list, to 50 ms/most:1/peer", mostWithoutAnswer);
}

} // namespace hasami::bench
