#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QClipboard>
#include <QFile>
#include <QPainter>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

QImage boxOf(int width) {
    QImage image(300, 200, QImage::Format_RGBA8888);
    image.setDotsPerMeterX(10'000);
    image.setDotsPerMeterY(10'000);
    image.fill(Qt::transparent);
    QPainter(&image).fillRect(QRect(20, 20, width, 150), Qt::red);
    return image;
}

double edgeWidth(WindowDriver& w) {
    const MadeDesign* made = w.window().document().newest(w.window().document().selected());
    return bounds(flatten(made->sticker->edge, 0.01)).width();
}

/// Waits for a notice that says so.
void waitForNotice(WindowDriver& w, const QString& text) {
    const auto* notice = w.find<QLabel>("Notice");
    REQUIRE(QTest::qWaitFor([&] { return notice->isVisible() && notice->text() == text; }, 20'000));
}

} // namespace

TEST_CASE("a picture, a drawing and files are pasted as new designs") {
    TemporaryFolder folder;
    WindowDriver w;
    const auto designs = [&]() -> const SharedElements<Design>& {
        return w.window().document().job().designs;
    };
    auto* clipboard = QGuiApplication::clipboard();
    clipboard->setImage(boxOf(200));
    w.keys(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(designs().size() == 1);
    CHECK(designs()[0].name == "Pasted picture");
    CHECK(edgeWidth(w) == Approx(20).margin(0.02));
    CHECK(w.window().document().undoLabel() == "Add Pasted picture");

    auto* drawing = new QMimeData;
    drawing->setData("image/svg+xml", "<svg xmlns='http://www.w3.org/2000/svg' width='30mm' height='20mm' "
                                      "viewBox='0 0 30 20'><rect x='2' y='3' width='11' height='9'/></svg>");
    clipboard->setMimeData(drawing);
    w.keys(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(designs().size() == 2);
    CHECK(designs()[1].artwork.items[0].isVector());
    CHECK(edgeWidth(w) == Approx(11).margin(0.01));

    REQUIRE(boxOf(100).save(folder.path("file.png")));
    auto* files = new QMimeData;
    files->setUrls({QUrl::fromLocalFile(folder.path("file.png"))});
    clipboard->setMimeData(files);
    w.keys(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(designs().size() == 3);
    CHECK(designs()[2].name == "file");

    clipboard->setText("words");
    w.keys(Qt::Key_V, Qt::ControlModifier);
    CHECK(w.find<QLabel>("Notice")->text() ==
          "▲ Nothing to paste: the clipboard holds no picture, drawing or file");
    CHECK(designs().size() == 3);
    w.click("Artwork frame");
    auto* name = w.find<QLineEdit>("Name field"); // a field takes the text itself
    name->setFocus();
    name->selectAll();
    QTest::keyClick(name, Qt::Key_V, Qt::ControlModifier);
    CHECK(name->text() == "words");
}

TEST_CASE("a file that changes on disk is offered, and taken with the recipe and place kept") {
    TemporaryFolder folder;
    const QString path = folder.path("box.png");
    REQUIRE(boxOf(200).save(path));
    WindowDriver w;
    w.drop({path});
    const std::string id = w.window().document().selected();
    w.window().document().change("Offset", [&](Job& job) {
        job.find(id)->recipe.lines[0].offset = 3;
        job.find(id)->artwork.items[0].place.turn = 90;
    });
    w.settle();
    CHECK(edgeWidth(w) == Approx(15).margin(0.02));

    // Written again under another name and renamed, as careful programs do.
    REQUIRE(boxOf(120).save(folder.path("box.tmp.png")));
    REQUIRE(QFile::remove(path));
    REQUIRE(QFile::rename(folder.path("box.tmp.png"), path));
    waitForNotice(w, "box.png has changed on disk.");
    CHECK(w.window().document().job().find(id)->artwork.items[0].file()->asset.size() == 64);
    w.click("First answer");
    w.settle();
    const Design& design = *w.window().document().job().find(id);
    CHECK(design.recipe.lines[0].offset == 3);
    CHECK(design.artwork.items[0].place.turn == 90);
    CHECK(bounds(flatten(w.window().document().newest(id)->sticker->edge, 0.01)).height() ==
          Approx(12).margin(0.02));
    CHECK(w.window().document().undoLabel() == "Take the new box.png");

    // Written over; what is shown is kept, and not asked for again.
    REQUIRE(boxOf(80).save(path));
    waitForNotice(w, "box.png has changed on disk.");
    w.click("Second answer");
    QTest::qWait(700);
    CHECK_FALSE(w.find<QLabel>("Notice")->isVisible());
    CHECK(w.window().document().undoLabel() == "Take the new box.png");
    REQUIRE(boxOf(100).save(path));
    waitForNotice(w, "box.png has changed on disk.");
    w.window().document().undo();
    CHECK(w.window().document().job().find(id)->recipe.lines[0].offset == 3);
}
