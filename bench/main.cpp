// Speed as ratios: each target stands beside a peer measured in the same run. A pair is named WHAT/most:RATIO
// and ends in /ours and /peer; bench/ratios.py puts them together.

#include "app/document/document.h"
#include "app/document/nest_run.h"
#include "app/kit/theme.h"
#include "app/sheet/change_profile.h"
#include "app/sheet/piece_hand.h"
#include "app/sheet/sheet_view.h"
#include "app/stickers/bench.h"
#include "big_picture.h"
#include "edge/find_edge.h"
#include "files/dxf.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/picture_file.h"
#include "files/print_eps.h"
#include "files/print_file.h"
#include "files/print_picture.h"
#include "files/read_file.h"
#include "files/safe_write.h"
#include "geometry/fit_curves.h"
#include "geometry/region_operations.h"
#include "lettering.h"
#include "making.h"
#include "proof.h"
#include "raster/level_lines.h"
#include "responsiveness.h"
#include "run.h"
#include "support/shapes.h"

#include <QApplication>
#include <QBuffer>
#include <QImage>
#include <QImageReader>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QProcess>
#include <QTemporaryDir>
#include <QThread>
#include <benchmark/benchmark.h>

#include <numbers>
#include <numeric>

namespace {

using namespace hasami;
using namespace hasami::bench;

void edgeOf24Megapixels(benchmark::State& state) {
    const Picture picture = readPicture(bigPicture());
    const Item item{"", picture.pixels.width(), picture.pixels.height(), {{0, 0}, 300, 200}};
    for (auto _ : state)
        benchmark::DoNotOptimize(findEdge(item, findCoverage(picture, EdgeWay::automatic, 0), {}));
}

/// A fine outline as it is found, some 20,000 points of the level line, and the line fitted to it.
struct FineOutline {
    Loop points;
    std::vector<Curve> fitted;
};

const FineOutline& fineOutline() {
    static const FineOutline outline = [] {
        QImage image(6000, 4000, QImage::Format_Grayscale8);
        image.fill(Qt::black);
        QPolygonF blob;
        for (int i = 0; i < 50'000; ++i) {
            const double angle = 2 * std::numbers::pi * i / 50'000;
            const double reach = 1600 + 150 * std::sin(5 * angle) + 60 * std::sin(40 * angle);
            blob << QPointF(3000 + 1.4 * reach * std::cos(angle), 2000 + reach * std::sin(angle));
        }
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::white);
        painter.drawPolygon(blob);
        painter.end();
        Coverage coverage;
        coverage.cells = Grid<std::uint8_t>(6000, 4000);
        for (int y = 0; y < 4000; ++y)
            std::copy_n(image.constScanLine(y), 6000, &coverage.cells.at(0, y));
        const Item item{"", 6000, 4000, {{0, 0}, 300, 200}};
        FineOutline made;
        made.points = levelLines(coverage.cells, 127.5).front();
        for (Point& p : made.points)
            p = item.fromPixels()(p);
        made.fitted = findEdge(item, coverage, {});
        return made;
    }();
    return outline;
}

void offsetOfOurs(benchmark::State& state) {
    const FineOutline& outline = fineOutline();
    for (auto _ : state)
        benchmark::DoNotOptimize(offset(flatten(outline.fitted, flatteningTolerance), 2));
    state.counters["points"] = double(flatten(outline.fitted, flatteningTolerance).loops.at(0).size());
}

void offsetOfPoints(benchmark::State& state) {
    const Region region{{fineOutline().points}};
    for (auto _ : state)
        benchmark::DoNotOptimize(offset(region, 2));
    state.counters["points"] = double(region.loops[0].size());
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
    const PictureSource source = [&](const Asset& asset, const PictureWish& wish,
                                     const std::stop_token& stop) { return pictures.get(asset, wish, stop); };
    Job job;
    addDesign(job, openArtwork(HASAMI_BEE, pictures), 50).count = count;
    Cache cache;
    const Made made = makeAll(job, 1, source, cache);
    for (auto _ : state)
        benchmark::DoNotOptimize(printPdf(job, made, source, {}));
}

/// 24 bees on a roll of 600 mm, made.
struct SheetOfBees {
    SheetOfBees() {
        addDesign(job, openArtwork(HASAMI_BEE, pictures), 50).count = 24;
        made = makeAll(job, 1, source, cache);
    }
    PictureStore pictures;
    const PictureSource source = [this](const Asset& asset, const PictureWish& wish,
                                        const std::stop_token& stop) {
        return pictures.get(asset, wish, stop);
    };
    Job job;
    Cache cache;
    Made made;
};

constexpr double dotsOfPicture = 150;

void pictureOfAPrint(benchmark::State& state) {
    const SheetOfBees sheet;
    for (auto _ : state)
        benchmark::DoNotOptimize(PrintPicture{PrintPicture::Format::png, dotsOfPicture}.drawn(
            "print.png", sheet.job, sheet.made, sheet.source, 0, {}, {}));
}

/// The same page by Poppler's own program, to a PNG file.
void pictureByPdftoppm(benchmark::State& state) {
    const SheetOfBees sheet;
    const QTemporaryDir folder;
    const QString pdf = folder.filePath("print.pdf");
    writeSafely(toPath(pdf), printPdf(sheet.job, sheet.made, sheet.source, {false}));
    for (auto _ : state)
        QProcess::execute("pdftoppm",
                          {"-png", "-r", QString::number(dotsOfPicture), pdf, folder.filePath("out")});
}

/// With its route, as it is sent to a machine.
void hpglOf2000Bees(benchmark::State& state) {
    SheetOfBees sheet;
    sheet.job.designs[0].count = 2000;
    sheet.made = makeAll(sheet.job, 1, sheet.source, sheet.cache);
    for (auto _ : state)
        benchmark::DoNotOptimize(cutHpgl(sheet.job, sheet.made, 0));
}

void epsOf2000Bees(benchmark::State& state) {
    SheetOfBees sheet;
    sheet.job.designs[0].count = 2000;
    sheet.made = makeAll(sheet.job, 1, sheet.source, sheet.cache);
    for (auto _ : state)
        benchmark::DoNotOptimize(printEps("print.eps", sheet.job, sheet.made, sheet.source, 0, true));
}

/// Bytes as if they were microseconds.
void sizeOfPrintFile(benchmark::State& state) {
    const SheetOfBees sheet;
    for (auto _ : state)
        state.SetIterationTime(double(printPdf(sheet.job, sheet.made, sheet.source, {}).size()) * 1e-6);
}

void sizeOfArtwork(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(double(std::filesystem::file_size(HASAMI_BEE)) * 1e-6);
}

/// A sheet with 2,000 bees, all of them in view.
std::unique_ptr<Document> crowdedSheet() {
    PictureStore pictures;
    Job job;
    addDesign(job, openArtwork(HASAMI_BEE, pictures), 12).count = 2000;
    auto document = std::make_unique<Document>();
    document->restore(std::make_shared<const Job>(std::move(job)), {});
    return document;
}

/// The same, each turned its own way and laid by hand.
std::unique_ptr<Document> turnedSheet(int copies = 2000) {
    PictureStore pictures;
    Job job;
    job.plan.medium.width = 1600;
    Design& bee = addDesign(job, openArtwork(HASAMI_BEE, pictures), 12);
    bee.count = copies;
    job.plan.packing = Packing::nest;
    constexpr double apart = 24, margin = 60; // mm
    constexpr int inARow = 60;
    for (int i = 0; i < copies; ++i)
        job.plan.laid.edit().push_back({bee.id,
                                        0,
                                        {margin + i / inARow * apart, margin + i % inARow * apart},
                                        i * 37.0 - 360 * (i * 37 / 360)});
    auto document = std::make_unique<Document>();
    document->restore(std::make_shared<const Job>(std::move(job)), {});
    return document;
}

/// Until all is made and pictures are read.
void settle(const Document& document) {
    for (int quiet = 0; quiet < 20; quiet = document.isMade() ? quiet + 1 : 0) {
        QApplication::processEvents();
        QThread::msleep(5);
    }
}

constexpr QSize windowSize(1280, 800);

/// Until nothing that was seen before is shown in place of what there is.
void drawWhole(CanvasView& view, QImage& screen) {
    do
        view.render(&screen);
    while (!view.isUpToDate());
}

void panningOf2000Pieces(benchmark::State& state) {
    const auto document = crowdedSheet();
    NestRun nest(*document);
    PieceHand hand(*document, nest);
    SheetView view(*document, nest, hand);
    view.resize(windowSize);
    view.show();
    settle(*document);
    view.zoomBy(1.5);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    drawWhole(view, screen);
    settle(*document);
    drawWhole(view, screen);
    bool left = false;
    for (auto _ : state) {
        left = !left;
        QKeyEvent arrow(QEvent::KeyPress, left ? Qt::Key_Left : Qt::Key_Right, {});
        QApplication::sendEvent(&view, &arrow);
        drawWhole(view, screen);
    }
}

/// Zoomed in and out, with all its pieces redrawn.
void zoomingOf(benchmark::State& state, const std::unique_ptr<Document>& document) {
    NestRun nest(*document);
    PieceHand hand(*document, nest);
    SheetView view(*document, nest, hand);
    view.resize(windowSize);
    view.show();
    settle(*document);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    drawWhole(view, screen);
    settle(*document);
    bool in = false;
    for (auto _ : state) {
        in = !in;
        view.zoomBy(in ? 1.25 : 1 / 1.25);
        drawWhole(view, screen);
    }
}

void zoomingOf2000Pieces(benchmark::State& state) {
    zoomingOf(state, crowdedSheet());
}

void zoomingOf2000TurnedPieces(benchmark::State& state) {
    zoomingOf(state, turnedSheet());
}

/// One among 2,000, to and fro over its neighbours: each frame with what it collides with and its distances.
void draggingAmong2000(benchmark::State& state) {
    const auto document = turnedSheet();
    NestRun nest(*document);
    PieceHand hand(*document, nest);
    SheetView view(*document, nest, hand);
    view.resize(windowSize);
    view.show();
    settle(*document);
    view.zoomBy(2);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    drawWhole(view, screen);
    settle(*document);
    const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button) {
        QMouseEvent event(type, at, view.mapToGlobal(at), button, Qt::LeftButton, {});
        QApplication::sendEvent(&view, &event);
    };
    const Point centre = hand.laid()[1000].centre;
    const QPointF from = view.toScreen({centre.x, centre.y});
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    send(QEvent::MouseMove, from + QPointF(20, 0), Qt::NoButton);
    drawWhole(view, screen);
    int step = 0;
    for (auto _ : state) {
        ++step;
        send(QEvent::MouseMove, from + QPointF(20 + step % 40, step % 23), Qt::NoButton);
        drawWhole(view, screen);
    }
    if (!hand.isDragging())
        state.SkipWithError("nothing is dragged");
}

/// A step of the slider of the marks' distance, until the sheet with its marks is drawn.
void movingMarksOf2000Pieces(benchmark::State& state) {
    const auto document = crowdedSheet();
    NestRun nest(*document);
    PieceHand hand(*document, nest);
    SheetView view(*document, nest, hand);
    view.resize(windowSize);
    view.show();
    settle(*document);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    drawWhole(view, screen);
    settle(*document);
    int step = 0;
    for (auto _ : state) {
        ++step;
        changeProfile(
            *document, "Mark distance",
            [&](Profile& profile) { profile.marks.distance = 8 + step % 20 * 0.5; }, "Mark distance");
        while (!document->isMade())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        drawWhole(view, screen);
    }
    if (document->made()->layout.pieces() != 2000)
        state.SkipWithError("pieces are missing");
}

/// Twenty marks between 500 pieces of a nest.
void marksBetween500Pieces(benchmark::State& state) {
    const auto document = turnedSheet(500);
    settle(*document);
    Job job = document->job();
    const std::vector<Copies> copies = copiesOf(job, document->made()->designs);
    job.profile.marks.size = 3;
    job.profile.marks.quiet = 1;
    job.profile.marks.between = 20;
    for (auto _ : state) {
        const Layout layout = layOut(copies, job.plan, job.profile, Checking::no);
        if (layout.sheets.front().marks.size() != 24)
            state.SkipWithError("marks are missing");
    }
}

/// Closed lines of 1,000 points each, a fifth of them arcs.
void dxfOf100000Points(benchmark::State& state) {
    Subpath line{{0, 0}, {}, true};
    Point from = line.start;
    for (int i = 1; i < 1000; ++i) {
        const double angle = i * 2 * std::numbers::pi / 1000;
        const Point to{50 - 50 * std::cos(angle), 50 * std::sin(angle)};
        line.segments.push_back(straightSegment(from, to));
        line.segments.back().straight = i % 5 > 0;
        line.segments.back().bulge = i % 5 == 0 ? 0.1 : 0;
        from = to;
    }
    for (auto _ : state) {
        DxfDrawing drawing({{0, 0}, {1000, 1000}}, {"kiss", "marks"});
        for (int i = 0; i < 100; ++i)
            drawing.add("kiss", line);
        benchmark::DoNotOptimize(drawing.text());
    }
}

/// From the job to the first picture of its sheet.
void openingOfASheet(benchmark::State& state, int copies) {
    for (auto _ : state) {
        const auto document = turnedSheet(copies);
        NestRun nest(*document);
        PieceHand hand(*document, nest);
        SheetView view(*document, nest, hand);
        view.resize(windowSize);
        view.show();
        while (!document->isMade())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
        drawWhole(view, screen);
    }
}

/// A thousand dots on nothing, in the step Edge.
std::shared_ptr<Document> dotted() {
    QImage image(1250, 1000, QImage::Format_ARGB32);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::black);
    for (int i = 0; i < 1000; ++i)
        painter.drawEllipse(QPointF(i % 40 * 31 + 20, i / 40 * 39 + 20), 12, 12);
    painter.end();
    QTemporaryDir folder;
    image.save(folder.filePath("dots.png"));
    auto document = std::make_shared<Document>();
    document->addArtworks({folder.filePath("dots.png")});
    while (document->job().designs.empty())
        QApplication::processEvents();
    settle(*document);
    return document;
}

/// From letting the button go to all lines drawn as switched.
void sweepOverAThousandLines(benchmark::State& state) {
    const auto document = dotted();
    TouchUpHand hand(*document);
    ItemHand items(*document);
    LetteringHand lettering(items);
    Bench bench(*document, hand, items, lettering);
    bench.setStep(RecipeStep::edge);
    bench.resize(windowSize);
    bench.show();
    settle(*document);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    bench.render(&screen);
    const hasami::Box all = bounds(document->selectedDesign()->artwork);
    const QPointF from = bench.toScreen({all.least.x - 1, all.least.y - 1}),
                  to = bench.toScreen({all.most.x + 1, all.most.y + 1});
    const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button) {
        QMouseEvent event(type, at, bench.mapToGlobal(at), button, Qt::LeftButton, {});
        QApplication::sendEvent(&bench, &event);
    };
    for (auto _ : state) {
        state.PauseTiming();
        settle(*document);
        send(QEvent::MouseButtonPress, from, Qt::LeftButton);
        send(QEvent::MouseMove, to, Qt::NoButton);
        bench.render(&screen);
        state.ResumeTiming();
        send(QEvent::MouseButtonRelease, to, Qt::LeftButton);
        bench.render(&screen);
    }
}

void oneFrame(benchmark::State& state) {
    for (auto _ : state)
        QThread::usleep(1'000'000 / 60);
}

void tenSeconds(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(10);
}

void blitOfAWindow(benchmark::State& state) {
    QPixmap drawn(windowSize);
    drawn.fill(Qt::white);
    QImage screen(windowSize, QImage::Format_ARGB32_Premultiplied);
    for (auto _ : state) {
        QPainter painter(&screen);
        painter.drawPixmap(0, 0, drawn);
    }
}

/// From starting a program to its first window drawn.
void firstWindow(benchmark::State& state, const char* program) {
    for (auto _ : state) {
        QProcess process;
        process.start(program, {});
        if (!process.waitForReadyRead())
            state.SkipWithError("the program drew nothing");
        state.PauseTiming();
        process.waitForFinished();
        state.ResumeTiming();
    }
}

/// A photograph as JPEG.
const Asset& photograph() {
    static const Asset asset = [] {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        artwork(6000, 4000).convertToFormat(QImage::Format_RGB32).save(&buffer, "JPEG", 92);
        return assetOf("photograph.jpg", bytes);
    }();
    return asset;
}

void openingOfAJpeg(benchmark::State& state) {
    photograph(); // made before the time is taken
    for (auto _ : state)
        benchmark::DoNotOptimize(readPicture(photograph()));
}

void decodingOfAJpeg(benchmark::State& state) {
    photograph();
    for (auto _ : state) {
        QImage image;
        image.loadFromData(reinterpret_cast<const uchar*>(photograph().bytes.data()),
                           int(photograph().bytes.size()), "JPEG");
        benchmark::DoNotOptimize(image.constBits());
    }
}

/// A page of some 5 MB: leaves and twigs, filled and stroked.
const Asset& drawing() {
    static const Asset asset = [] {
        std::mt19937 random(3);
        const auto number = [&](int most) { return QByteArray::number(int(random() % unsigned(most))); };
        QByteArray content;
        while (content.size() < 5'000'000) {
            for (int i = 0; i < 3; ++i)
                content += "0." + number(10) + " ";
            const int x = int(random() % 780), y = int(random() % 580);
            content += "rg " + QByteArray::number(x) + " " + QByteArray::number(y) + " m ";
            for (int i = 0; i < 3; ++i) {
                for (int k = 0; k < 3; ++k)
                    content += QByteArray::number(x + int(random() % 16)) + " " +
                               QByteArray::number(y + int(random() % 16)) + " ";
                content += "c ";
            }
            content += random() % 2 == 0 ? "f\n" : "S\n";
        }
        QByteArray pdf =
            "%PDF-1.4\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n"
            "2 0 obj\n<< /Type /Pages /Kids [3 0 R] /Count 1 >>\nendobj\n"
            "3 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 800 600] /Contents 4 0 R >>\nendobj\n"
            "4 0 obj\n<< /Length " +
            QByteArray::number(content.size()) + " >>\nstream\n" + content +
            "\nendstream\nendobj\ntrailer\n<< /Root 1 0 R /Size 5 >>\n%%EOF\n";
        return assetOf("drawing.pdf", pdf);
    }();
    return asset;
}

/// To the picture that is shown and the paint that the edge is found by.
void showingOfAPage(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(readPicture(drawing()));
}

void renderingOfAPage(benchmark::State& state) {
    QTemporaryDir folder;
    QFile file(folder.filePath("drawing.pdf"));
    if (!file.open(QIODevice::WriteOnly) ||
        file.write(reinterpret_cast<const char*>(drawing().bytes.data()), qint64(drawing().bytes.size())) < 0)
        state.SkipWithError("no file to draw");
    file.close();
    for (auto _ : state)
        QProcess::execute("pdftoppm", {"-scale-to", "2400", file.fileName(), folder.filePath("page")});
}

} // namespace

int main(int argc, char** argv) {
    QTemporaryDir settings;
    for (const char* place : {"XDG_STATE_HOME", "XDG_CONFIG_HOME"})
        qputenv(place, settings.path().toUtf8());
    QApplication application(argc, argv);
    applyTheme(application);
    QImageReader::setAllocationLimit(1024);
    const auto in = benchmark::kMillisecond;
    benchmark::RegisterBenchmark("edge of a 24-megapixel PNG to its decoding/most:1/ours", edgeOf24Megapixels)
        ->Unit(in)
        ->Iterations(1);
    benchmark::RegisterBenchmark("edge of a 24-megapixel PNG to its decoding/most:1/peer",
                                 decodingOf24Megapixels)
        ->Unit(in)
        ->Iterations(1);
    const std::pair<const char*, void (*)(benchmark::State&)> openings[] = {
        {"24-megapixel JPEG opened, to its decoding/most:1.5/ours", openingOfAJpeg},
        {"24-megapixel JPEG opened, to its decoding/most:1.5/peer", decodingOfAJpeg},
        {"PDF of 5 MB opened and shown, to its drawing by Poppler/most:2/ours", showingOfAPage},
        {"PDF of 5 MB opened and shown, to its drawing by Poppler/most:2/peer", renderingOfAPage}};
    for (const auto& [name, run] : openings)
        benchmark::RegisterBenchmark(name, run)->Unit(in)->UseRealTime()->Iterations(1);
    registerMaking();
    registerLettering();
    registerProof();
    registerRun();
    registerResponsiveness();
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
    const std::pair<const char*, void (*)(benchmark::State&)> offsets[] = {
        {"offset of an outline found by 20,000 points to Clipper on the points/most:0.3/ours", offsetOfOurs},
        {"offset of an outline found by 20,000 points to Clipper on the points/most:0.3/peer",
         offsetOfPoints}};
    for (const auto& [name, run] : offsets)
        benchmark::RegisterBenchmark(name, run)->Unit(in)->Iterations(5);
    benchmark::RegisterBenchmark("1,000 lines switched by a sweep and drawn, to a frame/most:1/ours",
                                 sweepOverAThousandLines)
        ->Unit(in)
        ->Iterations(1);
    benchmark::RegisterBenchmark("1,000 lines switched by a sweep and drawn, to a frame/most:1/peer",
                                 oneFrame)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(1);
    const std::pair<const char*, void (*)(benchmark::State&)> frames[] = {
        {"2,000 pieces moved, a frame to a window's blit/most:3/ours", panningOf2000Pieces},
        {"2,000 pieces moved, a frame to a window's blit/most:3/peer", blitOfAWindow},
        {"2,000 pieces zoomed, a frame to a window's blit/most:100/ours", zoomingOf2000Pieces},
        {"2,000 pieces zoomed, a frame to a window's blit/most:100/peer", blitOfAWindow},
        {"2,000 turned pieces zoomed, a frame to a window's blit/most:100/ours", zoomingOf2000TurnedPieces},
        {"2,000 turned pieces zoomed, a frame to a window's blit/most:100/peer", blitOfAWindow}};
    for (const auto& [name, run] : frames)
        benchmark::RegisterBenchmark(name, run)->Unit(in)->Iterations(40);
    benchmark::RegisterBenchmark("one of 2,000 pieces dragged, to a frame/most:1/ours", draggingAmong2000)
        ->Unit(in)
        ->Iterations(40);
    benchmark::RegisterBenchmark("one of 2,000 pieces dragged, to a frame/most:1/peer", oneFrame)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("marks of 2,000 pieces moved and drawn, to a frame/most:1/ours",
                                 movingMarksOf2000Pieces)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(20);
    benchmark::RegisterBenchmark("marks of 2,000 pieces moved and drawn, to a frame/most:1/peer", oneFrame)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("DXF of 100,000 points, to a frame/most:60/ours", dxfOf100000Points)
        ->Unit(in)
        ->Iterations(3);
    benchmark::RegisterBenchmark("DXF of 100,000 points, to a frame/most:60/peer", oneFrame)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(1);
    const std::pair<const char*, void (*)(benchmark::State&)> outputs[] = {
        {"PNG of a print with 150 dots an inch, to pdftoppm/most:1.5/ours", pictureOfAPrint},
        {"PNG of a print with 150 dots an inch, to pdftoppm/most:1.5/peer", pictureByPdftoppm},
        {"HPGL of 2,000 bees, to a frame/most:60/ours", hpglOf2000Bees},
        {"HPGL of 2,000 bees, to a frame/most:60/peer", oneFrame},
        {"EPS of 2,000 bees, to 10 s/most:1/ours", epsOf2000Bees}};
    for (const auto& [name, run] : outputs)
        benchmark::RegisterBenchmark(name, run)->Unit(in)->UseRealTime()->Iterations(3);
    benchmark::RegisterBenchmark("EPS of 2,000 bees, to 10 s/most:1/peer", tenSeconds)
        ->Unit(in)
        ->UseManualTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("size of a print file of 24 bees to their artwork's/most:2/ours",
                                 sizeOfPrintFile)
        ->Unit(in)
        ->UseManualTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("size of a print file of 24 bees to their artwork's/most:2/peer",
                                 sizeOfArtwork)
        ->Unit(in)
        ->UseManualTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("20 marks between 500 pieces, to a frame/most:6/ours", marksBetween500Pieces)
        ->Unit(in)
        ->Iterations(10);
    benchmark::RegisterBenchmark("20 marks between 500 pieces, to a frame/most:6/peer", oneFrame)
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(1);
    benchmark::RegisterBenchmark("sheet of 2,000 pieces opened and shown, to one of 1/most:3/ours",
                                 [](benchmark::State& s) { openingOfASheet(s, 2000); })
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(5);
    benchmark::RegisterBenchmark("sheet of 2,000 pieces opened and shown, to one of 1/most:3/peer",
                                 [](benchmark::State& s) { openingOfASheet(s, 1); })
        ->Unit(in)
        ->UseRealTime()
        ->Iterations(5);
    const std::pair<const char*, const char*> windows[] = {
        {"first window to a bare Qt program's/most:3/ours", HASAMI_OWN_WINDOW},
        {"first window to a bare Qt program's/most:3/peer", HASAMI_BARE_WINDOW}};
    for (const auto& [name, program] : windows)
        benchmark::RegisterBenchmark(name,
                                     [program = program](benchmark::State& s) { firstWindow(s, program); })
            ->Unit(in)
            ->Iterations(1);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
