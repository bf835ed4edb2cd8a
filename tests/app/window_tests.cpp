#include "app/kit/theme.h"
#include "app/sheet/sheet_place.h"
#include "app/sheet/sheet_view.h"
#include "app/stickers/bench.h"
#include "app/stickers/making_strip.h"
#include "app/stickers/stickers_place.h"
#include "base/error.h"
#include "files/job_file.h"
#include "files/read_file.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <catch2/catch.hpp>

#include <filesystem>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

double kissOffsetSeen(const Document& document) {
    // From the outermost points of the edge and of the kiss line.
    const Sticker& sticker = *document.made()->designs.at(0).sticker;
    const Box edge = bounds(flatten(sticker.edge, 0.001));
    Box line;
    for (const CutLine& cut : sticker.lines)
        line.add(bounds(flatten(cut.curve, 0.001)));
    return edge.least.x - line.least.x;
}

} // namespace

TEST_CASE("the program's font has figures of equal width") {
    const QFontInfo info(QApplication::font());
    CHECK(info.family() == "Open Sans");
    const QFontMetricsF metrics(QApplication::font());
    for (const QChar digit : QString("0123456789"))
        CHECK(metrics.horizontalAdvance(digit) == metrics.horizontalAdvance('0'));
}

TEST_CASE("an empty job says what to do, and the sheet sends one back") {
    WindowDriver w;
    CHECK(w.prompt() == "Start with the artwork of your first sticker.");
    w.keys(Qt::Key_2, Qt::ControlModifier);
    CHECK(w.prompt() == "There are no stickers yet.");
    w.click("Prompt button");
    CHECK(w.prompt() == "Start with the artwork of your first sticker.");
}

TEST_CASE("a dropped picture becomes a design with its kiss line") {
    WindowDriver w;
    w.drop({bee});
    const Document& document = w.window().document();
    REQUIRE(document.job().designs.size() == 1);
    CHECK(document.job().designs[0].name == "bee");
    REQUIRE(document.made()->designs[0].sticker->lines.size() == 1);
    CHECK(kissOffsetSeen(document) == Approx(2).margin(0.03));
    CHECK(document.undoLabel() == "Add bee");
    CHECK(w.prompt().contains("lay copies out"));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().designs.empty());
    w.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(document.job().designs.size() == 1);
}

TEST_CASE("a typed width counts on Enter, in any unit, and the line follows") {
    WindowDriver w;
    w.drop({bee});
    w.click("Artwork frame");
    w.type("Width field", "2in");
    const Document& document = w.window().document();
    CHECK(bounds(document.job().designs[0].artwork).width() == Approx(50.8));
    CHECK(bounds(document.job().designs[0].artwork).height() == Approx(50.8 * 0.86));
    CHECK(document.undoLabel() == "Width 50.8 mm");
    CHECK(document.made()->designs[0].sticker->footprint.width() > 50);
    CHECK(w.find<QLineEdit>("Width field")->text() == "50.8 mm");
}

TEST_CASE("nonsense in a field is marked and the old value stays") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    for (const char* nonsense : {"wide", "900 mm", ""}) {
        w.type("Offset field", nonsense);
        CHECK(w.find<QLineEdit>("Offset field")->property("wrong").toBool());
        CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == 2);
        QTest::keyClick(w.find<QLineEdit>("Offset field"), Qt::Key_Escape);
        CHECK(w.find<QLineEdit>("Offset field")->text() == "2 mm");
    }
    CHECK(w.window().document().undoLabel() == "Add bee");
}

TEST_CASE("a drag of the offset slider moves the line all along and is one entry to undo") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    const Document& document = w.window().document();
    int changes = 0;
    const auto count = QObject::connect(&document, &Document::jobChanged, [&] { ++changes; });
    w.dragSlider("Offset slider", 60);
    QObject::disconnect(count);
    const double offset = document.job().designs[0].recipe.lines[0].offset;
    CHECK(offset > 3);
    CHECK(changes > 5);
    CHECK(kissOffsetSeen(document) == Approx(offset).margin(0.03));
    CHECK(document.undoLabel() == QString("Offset %1 mm").arg(std::round(offset * 100) / 100));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().designs[0].recipe.lines[0].offset == 2);
    CHECK(kissOffsetSeen(document) == Approx(2).margin(0.03));
    CHECK(document.undoLabel() == "Add bee");
}

TEST_CASE("a drag there and back leaves nothing to undo, and a new drag is a new entry") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    w.dragSliderAndBack("Offset slider", 50);
    CHECK(w.window().document().undoLabel() == "Add bee");
    w.dragSlider("Offset slider", 20);
    w.dragSlider("Offset slider", 20);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset > 2);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == 2);
}

TEST_CASE("a drag there and back leaves what can be redone") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    w.dragSlider("Offset slider", 20);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    const QString label = w.window().document().redoLabel();
    REQUIRE_FALSE(label.isEmpty());
    w.dragSliderAndBack("Offset slider", 50);
    CHECK(w.window().document().redoLabel() == label);
    w.keys(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset > 2);
}

TEST_CASE("arrow keys on the level slider change the edge and are one entry; reset goes back") {
    WindowDriver w;
    w.drop({bee});
    w.click("Edge frame");
    auto* slider = w.find<QSlider>("Level slider");
    slider->setFocus();
    const auto before = w.window().document().made()->designs[0].sticker->edge;
    for (int i = 0; i < 8; ++i)
        QTest::keyClick(slider, Qt::Key_Left);
    w.settle();
    CHECK(w.window().document().job().designs[0].recipe.edge.level == 42);
    CHECK(w.window().document().made()->designs[0].sticker->edge != before);
    CHECK(w.window().document().undoLabel() == "Edge level 42 %");
    w.click("Level reset");
    CHECK(w.window().document().job().designs[0].recipe.edge.level.value_or(50) == 50);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window().document().undoLabel() == "Add bee");
}

TEST_CASE("an offset that eats everything is told in words, and undone") {
    WindowDriver w;
    w.drop({bee});
    w.click("Cut lines frame");
    w.type("Offset field", "-50");
    CHECK(w.prompt().contains("inward offset"));
    CHECK(w.find<StripFrame>("Cut lines frame")->figure() == "none");
    CHECK(w.find<StripFrame>("Cut lines frame")->report().state == StepState::finding);
    CHECK(w.find<StripFrame>("Edge frame")->report().state == StepState::fine);
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.prompt().contains("lay copies out"));
}

TEST_CASE("bad files are told in a sentence each, good ones beside them are taken") {
    WindowDriver w;
    const TemporaryFolder folder;
    writeSafely(folder / "notes.png", "Buy more jars.\n");
    w.drop({folder.path("notes.png"), bee, folder.path("missing.png")});
    CHECK(w.window().document().job().designs.size() == 1);
    auto* notice = w.find<QLabel>("Notice");
    REQUIRE(notice->isVisible());
    CHECK(notice->text().contains("notes.png is not artwork that Hasami reads"));
    CHECK(notice->text().contains("missing.png can't be read"));
    w.click("Dismiss notice");
    CHECK_FALSE(notice->isVisible());

    const Job before = w.window().document().job();
    w.drop({folder.path("notes.png")});
    CHECK(w.window().document().job() == before);
    CHECK(w.window().document().undoLabel() == "Add bee");
}

TEST_CASE("designs are picked and deleted on the shelf") {
    WindowDriver w;
    w.drop({bee, bee});
    Document& document = w.window().document();
    REQUIRE(document.job().designs.size() == 2);
    CHECK(document.undoLabel() == "Add 2 designs");
    auto* shelf = w.shelf();
    QTest::mouseClick(shelf->viewport(), Qt::LeftButton, {},
                      shelf->visualRect(shelf->model()->index(0, 0)).center());
    CHECK(document.selected() == document.job().designs[0].id);
    const std::string second = document.job().designs[1].id;
    QTest::keyClick(shelf, Qt::Key_Delete);
    w.settle();
    REQUIRE(document.job().designs.size() == 1);
    CHECK(document.selected() == second);
    CHECK(document.undoLabel() == "Delete bee");
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().designs.size() == 2);
}

TEST_CASE("the medium, copies and gap lay out the sheet and tell what it takes") {
    WindowDriver w;
    w.drop({bee});
    w.click("Artwork frame");
    w.type("Width field", "50");
    w.click("Sheet place");
    w.type("Copies field", "24");
    const Document& document = w.window().document();
    CHECK(document.made()->layout.pieces() == 24);
    CHECK(w.find<QLabel>("Stickers figure")->text() == "24");
    const double used = document.made()->layout.usedLength();
    CHECK(w.find<QLabel>("Length used figure")->text() ==
          QString::number(std::round(used * 100) / 100) + " mm");
    CHECK(w.prompt().startsWith("Laid out: 24 stickers on"));

    w.choose("Medium kind", "Sheet A4");
    CHECK(document.job().plan.medium.isAsLarge(210, 297));
    CHECK(document.made()->layout.sheets.size() > 1);
    CHECK(document.made()->layout.pieces() == 24);
    w.type("Gap along field", "10 mm");
    CHECK(document.undoLabel() == "Gap along 10 mm");
    CHECK(document.job().plan.rows.along == 10.0);
    CHECK_FALSE(document.job().plan.rows.across);
    w.choose("Medium kind", "Sheet of own size");
    w.type("Medium width field", "40");
    CHECK(w.prompt().contains("24 of bee not placed"));
    for (int i = 0; i < 3; ++i)
        w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(document.job().plan.medium.isRoll());
}

TEST_CASE("reading many artworks shows how far it is and can be stopped; nothing comes in") {
    WindowDriver w;
    QImage large(3000, 2500, QImage::Format_ARGB32);
    large.fill(Qt::red);
    const TemporaryFolder folder;
    const QString path = folder.path() + "/large.png";
    REQUIRE(large.save(path));
    w.window().document().addArtworks(QStringList(3000, path));
    REQUIRE(QTest::qWaitFor([&] { return w.find<QPushButton>("Stop reading")->isVisible(); }, 10'000));
    auto* stop = w.find<QPushButton>("Stop reading");
    CHECK(w.find<QLabel>("Reading")->text().startsWith("Reading 3000 artworks: "));
    CHECK(w.prompt() == "Reading 3000 artworks…");
    QTest::mouseClick(stop, Qt::LeftButton);
    CHECK(w.window().document().filesUnderWay().empty());
    CHECK_FALSE(stop->isVisible());
    w.settle();
    QTest::qWait(300);
    CHECK(w.window().document().job().designs.empty());
    w.drop({bee}); // and it goes on as before
    CHECK(w.window().document().job().designs.size() == 1);
}

TEST_CASE("from drop to both files: the first walk, W1, in at most 8 operations") {
    WindowDriver w;
    const TemporaryFolder folder;
    w.countOperations();
    w.drop({bee});                // 1
    w.click("Artwork frame");     // 2
    w.type("Width field", "50");  // 3; the margin of 2 mm, the roll and the gap are start values
    w.click("Prompt button");     // 4, to the sheet
    w.type("Copies field", "24"); // 5
    w.clickAndSave("Write all", folder.path()); // 6
    CHECK(w.operations() <= 8);
    CHECK(w.find<QLabel>("Write result")->text().startsWith("Wrote bee-1-print.pdf, bee-1-cut.svg in "));
    CHECK(readFile(folder / "bee-1-print.pdf", 1 << 24).size() > 10'000);
    const auto cut = readFile(folder / "bee-1-cut.svg", 1 << 24);
    const QByteArray svg(reinterpret_cast<const char*>(cut.data()), qsizetype(cut.size()));
    CHECK(svg.count("<path ") == 24);
    CHECK(svg.count("<circle ") == 4);
}

TEST_CASE("an output that can't be written says so, where the result would be") {
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    w.click("Outputs");
    w.type("Folder field", "/nonexistent/folder");
    w.click("Write output 2");
    CHECK(w.window().document().findChild<OutputWriter*>()->state() == OutputWriter::State::failed);
    CHECK(w.find<QLabel>("Write result")->text().contains("bee-1-cut.svg can't be written"));
}

TEST_CASE("a job is saved, opened again, and is the same") {
    const TemporaryFolder folder;
    Job saved;
    {
        WindowDriver w;
        w.drop({bee});
        w.click("Cut lines frame");
        w.type("Offset field", "1.5");
        CHECK(w.window().isWindowModified());
        w.keysAndSave(Qt::Key_S, Qt::ControlModifier, folder.path("mine.hasami"));
        CHECK_FALSE(w.window().isWindowModified());
        CHECK(w.window().windowTitle().startsWith("mine"));
        w.type("Offset field", "1.8");
        CHECK(w.window().isWindowModified());
        w.keys(Qt::Key_S, Qt::ControlModifier);
        CHECK_FALSE(w.window().isWindowModified());
        saved = w.window().document().job();
    }
    WindowDriver w;
    w.drop({folder.path("mine.hasami")});
    CHECK(w.window().document().job().designs == saved.designs);
    CHECK_FALSE(w.window().isWindowModified());
    CHECK(w.window().document().made()->designs.size() == 1);

    writeSafely(folder / "broken.hasami", "PK\3\4 not really");
    w.drop({folder.path("broken.hasami")});
    CHECK(w.find<QLabel>("Notice")->text().contains("broken.hasami can't be opened"));
    CHECK(w.window().document().job().designs == saved.designs);
}

TEST_CASE("a save or an output under way never takes the job that is opened after it") {
    WindowDriver w;
    const TemporaryFolder folder;
    w.drop({bee});
    Document& document = w.window().document();
    const Job before = document.job();
    document.change("Gap", [](Job& job) { job.plan.gap = 8; }); // its result is still being made
    REQUIRE_FALSE(document.isMade());
    document.save(folder.path("mine.hasami"));
    document.change("Folder", [&](Job& job) { job.outputs.folder = folder.path().toStdString(); });
    document.findChild<OutputWriter*>()->writeAll();
    document.startNew();
    w.settle();
    CHECK(openJob(folder / "mine.hasami").designs == before.designs);
    CHECK(openJob(folder / "mine.hasami").plan.gap == 8);
    CHECK(document.path().isEmpty());
    CHECK(document.job().designs.empty());
    CHECK_FALSE(std::filesystem::exists(folder / "bee-1-cut.svg"));
    CHECK_FALSE(std::filesystem::exists(folder / "mine-1-cut.svg"));
}

TEST_CASE("a drive taken away is told when saving; the job stays open, unsaved, and can go elsewhere") {
    const TemporaryFolder folder;
    WindowDriver w;
    w.drop({bee});
    std::filesystem::create_directory(folder / "drive");
    const QString path = folder.path() + "/drive/bees.hasami";
    w.keysAndSave(Qt::Key_S, Qt::ControlModifier, path);
    REQUIRE_FALSE(w.window().document().isModified());
    w.click("Cut lines frame");
    w.type("Offset field", "4");
    std::filesystem::remove_all(folder / "drive");
    w.keys(Qt::Key_S, Qt::ControlModifier);
    CHECK(w.find<QLabel>("Notice")->text().contains("bees.hasami can't be written: the folder "));
    CHECK(w.find<QLabel>("Notice")->isVisible());
    CHECK(w.window().document().isModified());
    CHECK(w.window().document().job().designs[0].recipe.lines[0].offset == 4);
    w.keysAndSave(Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier, folder.path() + "/elsewhere.hasami");
    CHECK_FALSE(w.window().document().isModified());
    CHECK(openJob(folder / "elsewhere.hasami").designs[0].recipe.lines[0].offset == 4);
}

TEST_CASE("closing with unsaved changes asks: stay, discard or save") {
    const TemporaryFolder folder;
    {
        WindowDriver w;
        w.drop({bee});
        w.answerNextQuestion(QMessageBox::Cancel);
        w.window().close();
        CHECK(w.window().isVisible());
        w.answerNextQuestion(QMessageBox::Discard);
        w.window().close();
        w.settle();
        CHECK_FALSE(w.window().isVisible());
    }
    {
        WindowDriver w;
        w.drop({bee});
        w.answerNextQuestion(QMessageBox::Save, folder.path("kept.hasami"));
        w.window().close();
        w.settle();
        CHECK_FALSE(w.window().isVisible());
        CHECK(openJob(folder / "kept.hasami").designs.size() == 1);
    }
    WindowDriver untouched;
    untouched.window().close();
    CHECK_FALSE(untouched.window().isVisible());
}
