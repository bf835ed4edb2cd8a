#include "app/kit/settings.h"
#include "app/kit/theme.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "files/paint_sticker.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

int greatestDifference(const QImage& a, const QImage& b) {
    REQUIRE(a.size() == b.size());
    int greatest = 0;
    for (int y = 0; y < a.height(); ++y)
        for (int x = 0; x < a.width(); ++x) {
            const QRgb p = a.pixel(x, y), q = b.pixel(x, y);
            greatest = std::max({greatest, std::abs(qRed(p) - qRed(q)), std::abs(qGreen(p) - qGreen(q)),
                                 std::abs(qBlue(p) - qBlue(q))});
        }
    return greatest;
}

/// A square of 100 mm in one colour, ready to be shown or not.
class PlainView : public CanvasView {
public:
    QColor colour;
    bool isReady = true;

protected:
    QRectF content() const override { return {0, 0, 100, 100}; }
    bool prepareContent(const QRectF&, const QDeadlineTimer&) override { return isReady; }
    void paintContent(QPainter& painter, const QRectF&) override { painter.fillRect(content(), colour); }
    LengthUnit unit() const override { return LengthUnit::millimetre; }
    void paintEmpty(QPainter&) override {}
};

} // namespace

TEST_CASE("the kiss line is drawn on the bench, in its place over the picture") {
    WindowDriver w;
    w.drop({bee});
    Bench& bench = w.window().stickersPlace().bench();
    // The bee's yellow cheek shows in the middle of its head, once the picture is read.
    const Box art = bounds(w.window().document().job().designs[0].artwork);
    QImage seen;
    CHECK(QTest::qWaitFor([&] {
        seen = WindowDriver::pictureOf(bench);
        const QPointF head =
            bench.toScreen({art.width() * 0.2, art.height() * 0.68}) * seen.devicePixelRatio();
        const QColor yellow = seen.pixelColor(int(head.x()), int(head.y()));
        return yellow.red() > 200 && yellow.blue() < 150;
    }));
    const CutLine& line = w.window().document().made()->designs[0].sticker->lines[0];
    int green = 0, asked = 0;
    for (const Point p : flatten(line.curve, 0.05)) {
        const QPointF at = bench.toScreen({p.x, p.y}) * seen.devicePixelRatio();
        const QColor colour = seen.pixelColor(int(at.x()), int(at.y()));
        ++asked;
        green += colour.green() > colour.red() + 25 && colour.green() > colour.blue() + 15;
    }
    CHECK(green > asked * 95 / 100);
}

TEST_CASE("the frames of the making strip tell their figures and can be walked by keys") {
    WindowDriver w;
    w.drop({bee});
    CHECK(w.find<StripFrame>("Cut lines frame")->figure() == "2 mm outside");
    CHECK(w.find<StripFrame>("Edge frame")->figure().endsWith(" points"));
    CHECK(w.find<StripFrame>("Artwork frame")->figure().endsWith(" mm wide"));
    MakingStrip& strip = w.window().stickersPlace().strip();
    w.keys(Qt::Key_F6);
    CHECK(strip.step() == RecipeStep::bleed);
    w.keys(Qt::Key_F6);
    w.keys(Qt::Key_F6);
    CHECK(strip.step() == RecipeStep::artwork); // round and round
    w.keys(Qt::Key_F6, Qt::ShiftModifier);
    w.keys(Qt::Key_F6, Qt::ShiftModifier);
    w.keys(Qt::Key_F6, Qt::ShiftModifier);
    CHECK(strip.step() == RecipeStep::cutLines);
    w.keys(Qt::Key_Up, Qt::AltModifier);
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == Approx(2.1));
    w.type("Offset field", "-0.3");
    CHECK(w.find<StripFrame>("Cut lines frame")->figure() == "0.3 mm inside");
}

TEST_CASE("views zoom to the pointer, move, and fit again") {
    WindowDriver w;
    w.drop({bee});
    Bench& bench = w.window().stickersPlace().bench();
    const double fitted = bench.pixelsPerMillimetre();
    const QPointF pointer(300, 200);
    const QPointF under = bench.toMillimetres(pointer);
    w.wheel(bench, pointer, 120 * 5);
    CHECK(bench.pixelsPerMillimetre() == Approx(fitted * std::pow(1.2, 5)));
    CHECK((bench.toMillimetres(pointer) - under).manhattanLength() < 1e-9);
    const QPointF before = bench.toScreen({0, 0});
    QTest::mousePress(&bench, Qt::MiddleButton, {}, {100, 100});
    QTest::mouseMove(&bench, {140, 130});
    QTest::mouseRelease(&bench, Qt::MiddleButton, {}, {140, 130});
    CHECK((bench.toScreen({0, 0}) - before - QPointF(40, 30)).manhattanLength() < 1);
    w.keys(Qt::Key_0, Qt::ControlModifier);
    CHECK(bench.pixelsPerMillimetre() == Approx(fitted));
    w.keys(Qt::Key_T, Qt::ControlModifier);
    const QScreen& screen = *bench.screen();
    CHECK(bench.pixelsPerMillimetre() ==
          Approx(screen.geometry().width() / screen.physicalSize().width()).epsilon(0.001));
}

TEST_CASE("a view that was moved shows what one drawn anew shows") {
    WindowDriver w;
    w.drop({bee});
    for (const auto place : {MainWindow::stickers, MainWindow::sheet}) {
        w.window().goTo(place);
        w.settle();
        CanvasView& view = place == MainWindow::stickers
                               ? static_cast<CanvasView&>(w.window().stickersPlace().bench())
                               : w.window().sheetPlace().view();
        view.zoomBy(2.5);
        WindowDriver::pictureOf(view);
        for (const auto& [key, times] :
             {std::pair(Qt::Key_Left, 2), {Qt::Key_Down, 3}, {Qt::Key_Right, 5}, {Qt::Key_Up, 4}})
            for (int i = 0; i < times; ++i) {
                QTest::keyClick(&view, key);
                WindowDriver::pictureOf(view);
            }
        const QImage moved = WindowDriver::pictureOf(view);
        QEvent anew(QEvent::PaletteChange);
        QApplication::sendEvent(&view, &anew);
        constexpr int most = 4; // of 255: pictures are scaled, and smooth lines flattened, per part
        CHECK(greatestDifference(moved, WindowDriver::pictureOf(view)) <= most);
    }
}

TEST_CASE("what was seen before is shown, stretched, until what a view shows is ready") {
    PlainView view;
    view.resize(524, 424); // 500 x 400 pixels without the rulers
    view.show();
    view.colour = Qt::red;
    CHECK(WindowDriver::pictureOf(view).pixelColor(270, 220) == QColor(Qt::red));
    view.isReady = false;
    view.colour = Qt::blue;
    view.zoomBy(0.5);
    const QImage during = view.grab().toImage();
    CHECK_FALSE(view.isUpToDate());
    CHECK(during.pixelColor(270, 220) == QColor(Qt::red));
    CHECK(during.pixelColor(60, 60) == coloursOf(view.palette()).ground); // beyond it, half as large
    QTest::qWait(20);
    CHECK_FALSE(view.isUpToDate());
    view.isReady = true;
    REQUIRE(QTest::qWaitFor([&] { return view.isUpToDate(); }, 10'000)); // nobody asked again
    CHECK(view.grab().toImage().pixelColor(270, 220) == QColor(Qt::blue));
}

TEST_CASE("a page that was not seen while the job changed shows the present when it is") {
    WindowDriver w;
    w.drop({bee});
    w.type("Offset field", "3");
    w.click("Artwork frame");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    REQUIRE(w.window().document().job().designs[0].recipe.lines[0].offset == 2);
    w.click("Cut lines frame");
    CHECK(w.find<QLineEdit>("Offset field")->text() == "2 mm");
    // Neither does the place.
    w.type("Offset field", "4");
    w.click("Sheet place");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.click("Stickers place");
    CHECK(w.find<QLineEdit>("Offset field")->text() == "2 mm");
}

TEST_CASE("true size follows a ruler held against the screen, and can go back to what the screen tells") {
    WindowDriver w;
    w.drop({bee});
    Bench& bench = w.window().stickersPlace().bench();
    const double told = Settings::screenScaleTold(*bench.screen());
    w.calibrate([](QDialog& dialog) {
        auto* length = dialog.findChild<QLineEdit*>("Bar length field");
        length->selectAll();
        QTest::keyClicks(length, "10 cm");
        QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok),
                          Qt::LeftButton);
    });
    CHECK(bench.pixelsPerMillimetre() == Approx(4)); // 400 pixels on 100 mm
    w.keys(Qt::Key_0, Qt::ControlModifier);
    w.keys(Qt::Key_T, Qt::ControlModifier);
    CHECK(bench.pixelsPerMillimetre() == Approx(4));
    w.calibrate([](QDialog& dialog) {
        QTest::mouseClick(dialog.findChild<QPushButton*>("Screen's own scale"), Qt::LeftButton);
        QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Cancel),
                          Qt::LeftButton);
    });
    CHECK(Settings::screenScale(*bench.screen()) == Approx(4));
    w.calibrate([](QDialog& dialog) {
        QTest::mouseClick(dialog.findChild<QPushButton*>("Screen's own scale"), Qt::LeftButton);
        QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok),
                          Qt::LeftButton);
    });
    CHECK(bench.pixelsPerMillimetre() == Approx(told));
}

TEST_CASE("the level line follows the slider before the edge is made") {
    WindowDriver w;
    w.drop({bee});
    w.click("Edge frame");
    Document& document = w.window().document();
    const Design& design = document.job().designs[0];
    CHECK(document.liveEdge(design).isEmpty()); // the made one holds
    const QRectF made = painterPath(document.newest(design.id)->sticker->edge).boundingRect();
    const QImage before = w.window().stickersPlace().bench().grab().toImage();
    QTest::keyClick(w.find<QSlider>("Level slider"),
                    Qt::Key_Home); // no event goes by between this and what is seen
    const QRectF live = document.liveEdge(document.job().designs[0]).boundingRect();
    CHECK(live.width() > made.width());
    CHECK(live.width() == Approx(made.width()).margin(0.3));
    CHECK(w.find<StripFrame>("Edge frame")->report().state == StepState::beingMade);
    CHECK(w.window().stickersPlace().bench().grab().toImage() != before);
    w.settle();
    CHECK(document.liveEdge(document.job().designs[0]).isEmpty());
    CHECK(w.find<StripFrame>("Edge frame")->report().state == StepState::fine);
}

TEST_CASE("each frame tells whether it is fine, being made, or what was found") {
    WindowDriver w;
    w.drop({bee});
    const auto state = [&](const char* frame) { return w.find<StripFrame>(frame)->report().state; };
    CHECK(state("Artwork frame") == StepState::fine);
    w.find<QSlider>("Offset slider"); // an offset leaves the edge as it is
    w.window().document().change("Offset", [](Job& job) { job.designs[0].recipe.lines[0].offset = 3; });
    CHECK(state("Edge frame") == StepState::fine);
    CHECK(state("Cut lines frame") == StepState::beingMade);
    w.settle();
    CHECK(state("Cut lines frame") == StepState::fine);
    w.click("Artwork frame");
    w.type("Width field", "80 cm");
    CHECK(state("Artwork frame") == StepState::finding);
    CHECK(w.find<StripFrame>("Artwork frame")->report().finding.contains("coarse"));
    CHECK(w.find<StripFrame>("Artwork frame")->toolTip().contains("dots per inch"));
}
