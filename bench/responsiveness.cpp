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

    /// A sheet is printed, and its marks are read.
    void toMarks() {
        settle();
        inEvent([&] { window_.goTo(MainWindow::run); });
        RunControl& run = window_.runPlace().run();
        for (int step = 0; step < 3; ++step) { // print, load, find marks
            inEvent([&] { run.next(); });
            while (run.isBusy())
                goOn(0.05);
        }
    }
    /// And it is cut for some seconds, the head in view.
    void cut(double seconds) {
        toMarks();
        RunControl& run = window_.runPlace().run();
        run.setSpeed(64);
        inEvent([&] { run.next(); });
        goOn(seconds);
        inEvent([&] { run.act(hasami::RunAction::stop); });
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

/// 12,500 squares of 8 mm with a kiss line and a perforated one around it.
Job jobOf25000Lines() {
    PictureStore pictures;
    Job job;
    const std::string_view square = "<svg xmlns='http://www.w3.org/2000/svg' width='8mm' height='8mm' "
                                    "viewBox='0 0 8 8'><path d='M0 0H8V8H0Z' fill='#c86'/></svg>";
    Asset asset{{}, "square.svg", {}};
    for (const char byte : square)
        asset.bytes.push_back(std::byte(byte));
    asset.sha256 = sha256Of(asset.bytes);
    Design& design =
        addDesign(job, openPage(std::make_shared<const Asset>(std::move(asset)), pictures, 1), 8);
    design.count = 12'500;
    design.recipe.edge.takesBackdrop = true;
    LineRecipe around;
    around.kind = LineKind::perforated;
    around.offset = 2;
    design.recipe.lines.push_back(around);
    job.plan.medium.width = 1370;
    job.profile.marks.corners = 4;
    return job;
}

/// What a frame of the cut itself takes, with all that belongs to it.
void aCutOf25000Lines(benchmark::State& state) {
    for (auto _ : state) {
        MainWindow window;
        window.resize(1280, 800);
        window.show();
        Day day(window);
        window.document().restore(std::make_shared<const Job>(jobOf25000Lines()), {});
        day.settle();
        day.toMarks();
        day.goOn(1);
        RunControl& run = window.runPlace().run();
        run.setSpeed(64);
        const Heartbeat heartbeat;
        run.next();
        day.goOn(5);
        run.act(hasami::RunAction::pause);
        day.goOn(0.5);
        run.act(hasami::RunAction::resume);
        day.goOn(2);
        run.act(hasami::RunAction::stop);
        day.goOn(1);
        state.SetIterationTime(heartbeat.longest());
    }
}

void frame(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(0.016);
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
    add("longest time without an answer, a cut of 25,000 lines, to 16 ms/most:1/ours", aCutOf25000Lines);
    add("longest time without an answer, a cut of 25,000 lines, to 16 ms/most:1/peer", frame);
    add("one offset of 5,000 designs, to the history and the list, to 50 ms/most:1/ours",
        offsetAmong5000Designs);
    add("one offset of 5,000 designs, to the history and the list, to 50 ms/most:1/peer", mostWithoutAnswer);
}

} // namespace hasami::bench
