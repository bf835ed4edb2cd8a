#include "app/kit/elided_label.h"
#include "app/proof/drift_pad.h"
#include "app/proof/proof_place.h"
#include "app/sheet/profile_editor.h"
#include "app/sheet/sheet_place.h"
#include "files/colour_profile.h"
#include "support/temporary_folder.h"
#include "support/window_driver.h"

#include <QClipboard>
#include <QComboBox>
#include <QImageReader>
#include <QLabel>
#include <QTableWidget>
#include <QTimer>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Looks at stickers in the third place of the window.
class Proofreader : public WindowDriver {
public:
    ProofPlace& place() { return window().proofPlace(); }
    Document& document() { return window().document(); }
    FindingsWatch& watch() { return window().findings(); }

    /// Until what was found is of the job as it is, and how far the cut may be off is known.
    void proof() {
        window().goTo(MainWindow::proof);
        settle();
        REQUIRE(QTest::qWaitFor([&] { return watch().isUpToDate(); }, 20'000));
        settle();
        QTest::qWait(100);
    }
    void show(const QString& subject) {
        choose("Shown in proof", subject);
        REQUIRE(QTest::qWaitFor([&] { return !verdict().isEmpty(); }, 20'000));
    }
    QString verdict() { return find<QLabel>("Drift verdict")->text(); }
    void shift(Point by) {
        QTest::mouseClick(&place().pad(), Qt::LeftButton, {}, place().pad().placeOf(by));
        settle();
    }
    void edit(const std::function<void(Job&)>& change) {
        document().change("Test", change);
        proof();
    }
    QString partsOfCosts() {
        QStringList texts;
        for (const QLabel* label : find<QWidget>("Cost parts")->findChildren<QLabel*>())
            texts << label->text();
        return texts.join("; ");
    }
    std::vector<std::string_view> codes() {
        std::vector<std::string_view> codes;
        for (const Finding& finding : watch().findings())
            codes.push_back(codeName(finding.code));
        return codes;
    }
};

using Codes = std::vector<std::string_view>;

/// A green square of 20 mm, cut along its edge.
void dropSquare(Proofreader& w, const TemporaryFolder& folder, double bleed) {
    QFile file(folder.path("square.svg"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'>"
               "<path d='M0 0H20V20H0Z' fill='#0a0'/></svg>");
    file.close();
    w.drop({folder.path("square.svg")});
    w.edit([&](Job& job) {
        Design& design = job.designs.front();
        design.recipe.edge.takesBackdrop = true;
        design.recipe.lines.front().offset = 0;
        design.recipe.bleed.amount = bleed;
        job.profile.printer.error = 0.2;
        job.profile.cutter.error = 0.3;
    });
    w.show("square");
    w.choose("Background of proof", "On black cloth");
}

/// How much of what is shown has colours like these, mm².
double areaOf(ProofView& view, double scale, const std::function<bool(QColor)>& isCounted) {
    const QImage image = view.picture(scale); // pixels a mm
    double count = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            count += isCounted(image.pixelColor(x, y));
    return count / (scale * scale);
}

/// How much is white medium, mm².
double whiteArea(ProofView& view) {
    return areaOf(view, 20, [](QColor c) { return c.red() > 170 && c.green() > 170 && c.blue() > 170; });
}

} // namespace

TEST_CASE("the third place lists what is wrong, and a fix is one undo step") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 0.3);
    CHECK(w.codes() == Codes{"bleed-short"});
    CHECK(w.find<QPushButton>("Proof place")->text().contains("1"));
    CHECK(w.find<QLabel>("Finding 0")->text().contains("0.5 mm off together"));
    w.click("Fix 0");
    w.proof();
    CHECK(w.codes() == Codes{});
    CHECK(w.document().selectedDesign()->recipe.bleed.amount == Approx(0.5));
    CHECK(w.document().undoLabel() == "Set the bleed to 0.5 mm");
    CHECK(w.find<QLabel>("Findings count")->text() == "Nothing is wrong.");
    CHECK_FALSE(w.find<QPushButton>("Proof place")->text().contains("1"));
    w.document().undo();
    w.proof();
    CHECK(w.codes() == Codes{"bleed-short"});
}

TEST_CASE("a click on a finding shows the sticker and the place") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.drop({HASAMI_SOURCE_DIR "/data/demo/bee.png"});
    w.edit([](Job& job) {
        job.designs.back().recipe.lines.front().offset = 0.2;
        job.profile.cutter.error = 0.3;
    });
    w.choose("Shown in proof", "Roll 1");
    REQUIRE_FALSE(w.place().view().design());
    const auto& findings = w.watch().findings();
    const auto cut = std::ranges::find(findings, FindingCode::artworkCut, &Finding::code);
    REQUIRE(cut != findings.end());
    w.click("Show finding " + QString::number(cut - findings.begin()));
    REQUIRE(w.place().view().design());
    CHECK(*w.place().view().design() == w.document().job().designs.back().id);
    CHECK(w.find<QComboBox>("Shown in proof")->currentText() == "bee");
}

TEST_CASE("white shows once the cut is off by more than the safe drift, and none before") {
    const TemporaryFolder folder;
    Proofreader w;
    for (const double bleed : {0.0, 0.6}) {
        if (bleed == 0)
            dropSquare(w, folder, bleed);
        else
            w.edit([&](Job& job) { job.designs.front().recipe.bleed.amount = bleed; });
        w.show("square");
        w.shift({0, 0});
        CHECK(whiteArea(w.place().view()) < 0.3);
        w.shift({bleed + 0.3, 0});
        CHECK(whiteArea(w.place().view()) == Approx(20 * 0.3).margin(1.2));
        if (bleed > 0.1) {
            w.shift({bleed - 0.1, 0});
            CHECK(whiteArea(w.place().view()) < 0.3);
        }
    }
    CHECK(w.verdict().contains("0.6 mm in every direction"));
}

TEST_CASE("the demo's designs show the medium above their safe drift, and no more of it below") {
    Proofreader w;
    const QString demo = HASAMI_SOURCE_DIR "/data/demo/";
    w.drop({demo + "bee.png", demo + "comb-ring.png", demo + "honey-label.svg", demo + "smoke-can.jpg"});
    REQUIRE(w.document().job().designs.size() == 4);
    w.proof();
    w.choose("Background of proof", "On black cloth");
    const auto mediumShown = [&](Point shift) { // in a colour that no artwork has
        w.shift(shift);
        return areaOf(w.place().view(), 10,
                      [](QColor c) { return c.red() > 200 && c.green() < 60 && c.blue() > 200; });
    };
    std::size_t counted = 0;
    for (const double bleed : {0.0, 0.5}) {
        w.edit([&](Job& job) {
            job.plan.medium.colour = Rgba{255, 0, 255, 255};
            for (Design& design : job.designs) {
                design.recipe.border.width = 0;
                design.recipe.lines.front().offset = 0;
                design.recipe.bleed.amount = bleed;
            }
        });
        for (const Design& design : w.document().job().designs) {
            w.show(QString::fromStdString(design.name));
            const auto made = w.document().made()->find(design.id);
            const SafeDrift drift = safeDrift(DriftRims(*made->sticker));
            for (const std::size_t direction : {0, 18, 36, 54}) {
                INFO(design.name << " with " << bleed << " mm of bleed, towards " << direction);
                const double reach = drift.limits[direction].reach;
                const Point towards = SafeDrift::direction(direction);
                const double before = mediumShown({0, 0});
                if (reach > 0.1)
                    CHECK(mediumShown(towards * (reach - 0.1)) < before + 0.3);
                if (drift.limits[direction].fault == DriftFault::whiteShows && reach < 1) {
                    CHECK(mediumShown(towards * (reach + 0.4)) > before + 0.3);
                    ++counted;
                }
            }
        }
    }
    CHECK(counted >= 24);
}

TEST_CASE("the pad is dragged and moved by keys, and says whether that is safe") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 0.6);
    CHECK(w.verdict().contains("that is safe"));
    w.shift({0.4, 0});
    CHECK(w.place().view().drift().shift.x == Approx(0.4).margin(0.02));
    CHECK(w.find<QLabel>("Drift here")->text().contains("nothing is lost"));
    QTest::keyClick(&w.place().pad(), Qt::Key_Right, Qt::ShiftModifier);
    CHECK(w.place().view().drift().shift.x == Approx(1.4).margin(0.02));
    CHECK(w.find<QLabel>("Drift here")->text().contains("too far off"));
    QTest::keyClick(&w.place().pad(), Qt::Key_Up);
    CHECK(w.place().view().drift().shift.y == Approx(-0.1).margin(0.02));
    QTest::keyClick(&w.place().pad(), Qt::Key_Home);
    CHECK(w.place().view().drift().shift == Point{});
    w.click("Show the worst");
    CHECK(length(w.place().view().drift().shift) == Approx(0.5).margin(0.01));
    w.click("No error");
    CHECK(w.place().view().drift() == CutDrift{});
    // A stretched cut leaves less: 1 percent of 20 mm is 0.1 mm at each side.
    w.type("Stretch along field", "1");
    CHECK(w.place().view().drift().stretchAlong == Approx(0.01));
    REQUIRE(QTest::qWaitFor([&] { return w.verdict().contains("0.5 mm in every direction"); }, 20'000));
    w.edit([](Job& job) { job.profile.cutter.error = 0.5; });
    REQUIRE(QTest::qWaitFor([&] { return w.verdict().contains("too much"); }, 20'000));
}

TEST_CASE("assumed errors are shown as that until the profile says what was measured") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 0);
    w.edit([](Job& job) { job.profile.printer.error = job.profile.cutter.error = 0; });
    CHECK(w.codes() == Codes{"bleed-short"});
    CHECK(w.find<QLabel>("Finding 0")->text().contains("0.6 mm (assumed) off together"));
    CHECK(w.verdict().contains("assumed to be up to 0.6 mm off: that would be too much"));
    w.click("Show the worst");
    CHECK(length(w.place().view().drift().shift) == Approx(0.6).margin(0.01));
    bool wasOpen = false;
    QTimer::singleShot(50, &w.window(), [&] {
        auto* editor = qobject_cast<ProfileEditor*>(QApplication::activeModalWidget());
        wasOpen = editor != nullptr;
        if (editor)
            editor->accept();
    });
    w.click("Measured errors");
    CHECK(wasOpen);
    w.click("Fix 0");
    w.proof();
    CHECK(w.codes() == Codes{});
    CHECK(w.verdict().contains("assumed to stay within 0.6 mm: that would be safe"));
    w.edit([](Job& job) { job.profile.printer.error = job.profile.cutter.error = 0.1; });
    CHECK(w.verdict().contains("expected to stay within 0.2 mm: that is safe"));
    CHECK_FALSE(w.window().findChild<QPushButton*>("Measured errors")->isVisible());
}

TEST_CASE("the ground is chosen, and the print is seen beside what comes out") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    ProofView& view = w.place().view();
    const auto corner = [&] { return view.picture(4).pixelColor(1, 1); };
    CHECK(corner().lightness() < 80);
    w.choose("Background of proof", "On white");
    CHECK(corner().lightness() > 240);
    w.choose("Background of proof", "On kraft paper");
    CHECK(corner().red() > corner().blue() + 30);
    w.choose("Background of proof", "On glass");
    CHECK(corner().blue() > corner().red());
    const auto squares = [&] { // that the middle row of the view goes through
        const QImage seen = view.grab().toImage();
        int count = 0;
        bool wasGreen = false;
        for (int x = 0; x < seen.width(); ++x) {
            const QColor c = seen.pixelColor(x, seen.height() / 2);
            const bool isGreen = c.green() > 130 && c.red() < 60 && c.blue() < 60;
            count += isGreen && !wasGreen;
            wasGreen = isGreen;
        }
        return count;
    };
    CHECK(squares() == 1);
    w.click("Before and after");
    CHECK(squares() > 1); // its cut line is beside it
    w.click("Before and after");
    CHECK(squares() == 1);
}

TEST_CASE("stubs of tabs, folds, white ink and gloss are seen on what comes out") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    const auto area = [&](const auto& isCounted) { return areaOf(w.place().view(), 10, isCounted); };
    const auto onCloth = [&] { return area([](QColor c) { return c.lightness() > 60; }); };
    w.edit([](Job& job) {
        LineRecipe& die = job.designs.front().recipe.lines.front();
        die.kind = LineKind::die;
        die.course = LineCourse::shape;
        die.shape = {PlainShapeKind::box, 3};
    });
    const double plain = onCloth();
    CHECK(plain == Approx(26 * 26).margin(8));
    w.edit([](Job& job) {
        LineRecipe& die = job.designs.front().recipe.lines.back();
        die.kind = LineKind::perforated;
        die.tabs.count = 4;
        die.tabs.length = 5;
    });
    CHECK(onCloth() == Approx(plain + 4 * 5 * 0.3).margin(2)); // each stands out by 0.3 mm
    w.edit([](Job& job) { job.designs.front().recipe.lines.back().kind = LineKind::die; });
    CHECK(onCloth() == plain);

    const auto green = [](QColor c) { return c.red() < 30 && c.green() == 170 && c.blue() < 30; };
    const double flat = area(green);
    w.edit([](Job& job) {
        LineRecipe fold;
        fold.kind = LineKind::crease;
        fold.course = LineCourse::fold;
        job.designs.front().recipe.lines.push_back(fold);
    });
    CHECK(area(green) == Approx(flat - 20 * 1.2).margin(4)); // its shading is 1.2 mm wide

    // On a red medium the green is black, but over white ink.
    w.edit([](Job& job) {
        job.designs.front().recipe.lines.pop_back();
        job.plan.medium.colour = Rgba{255, 0, 0, 255};
    });
    CHECK(area(green) < 1);
    w.edit([](Job& job) { job.designs.front().recipe.inks = {{InkKind::white, InkArea::silhouette}}; });
    CHECK(area(green) == Approx(flat).margin(16)); // choked by 0.2 mm
    w.edit([](Job& job) {
        job.designs.front().recipe.inks.push_back({InkKind::gloss, InkArea::silhouette});
    });
    CHECK(area(green) < 20);
    CHECK(area([](QColor c) { return c.green() > 180 && c.red() > 60 && c.red() < 90; }) > 300);
}

TEST_CASE("a clear medium shows what is behind it, and stickers are seen from both sides") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.edit([](Job& job) {
        job.designs.front().recipe.bleed.amount = 0;
        job.designs.front().recipe.lines.front().offset = 3;
        job.plan.medium.isClear = true;
    });
    w.takeInNextColourDialog(QColor(0x20, 0x60, 0xA0));
    w.choose("Background of proof", "On a colour…");
    const auto at = [&](double x, double y) { // mm of the design
        const QImage image = w.place().view().picture(10);
        return image.pixelColor(image.width() / 2 + int(10 * (x - 10)),
                                image.height() / 2 + int(10 * (y - 10)));
    };
    const QColor ground(0x20, 0x60, 0xA0), green(0, 0xAA, 0);
    CHECK(at(-1.5, 10) == ground);    // film beside the print
    CHECK(at(10, 10).green() < 0x60); // ink that lets the ground through
    w.edit([](Job& job) { job.designs.front().recipe.inks = {{InkKind::white, InkArea::silhouette, 1}}; });
    CHECK(at(10, 10) == green); // white under it
    CHECK(at(0.5, 10).green() < 0x60);
    CHECK(at(-1.5, 10) == ground);
    w.click("From behind");
    CHECK(at(10, 10) == QColor(Qt::white)); // which hides the colours from there
    w.edit(
        [](Job& job) { job.profile.printer.inkOrder = job.profile.printer.inkOrder.with(WhitePlace::over); });
    CHECK(at(10, 10) == green);
    CHECK(w.codes() == Codes{"white-hides"}); // as it is not mirrored
    w.edit([](Job& job) { job.designs.front().recipe.isMirrored = true; });
    CHECK(w.codes() == Codes{});
    w.show("square"); // shown as it is used: from behind
    CHECK(w.find<QPushButton>("From behind")->isChecked());
    CHECK_FALSE(w.place().view().isLeftToRight());
    CHECK(at(10, 10) == green);
    w.click("From behind");
    CHECK(w.place().view().isLeftToRight());
    CHECK(at(10, 10) == QColor(Qt::white));
    const Point right{0.1, 0};
    w.place().pad().showShift({});
    QTest::keyClick(&w.place().pad(), Qt::Key_Right); // as it is seen
    CHECK(w.place().view().drift().shift.x == Approx(-right.x));
}

TEST_CASE("stickers are seen on a colour and a picture of one's own, not on a damaged one") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    const auto corner = [&] { return w.place().view().picture(4).pixelColor(1, 1); };
    w.takeInNextColourDialog(QColor(0x20, 0x60, 0xA0));
    w.choose("Background of proof", "On a colour…");
    CHECK(corner() == QColor(0x20, 0x60, 0xA0));
    QImage picture(40, 40, QImage::Format_RGB32);
    picture.fill(QColor(0xC0, 0x80, 0x20));
    picture.save(folder.path("table.png"));
    w.saveInNextDialogAs(folder.path("table.png"));
    w.choose("Background of proof", "On a picture…");
    CHECK(corner() == QColor(0xC0, 0x80, 0x20));
    QFile damaged(folder.path("damaged.png"));
    REQUIRE(damaged.open(QIODevice::WriteOnly));
    damaged.write("no picture");
    damaged.close();
    w.saveInNextDialogAs(folder.path("damaged.png"));
    w.choose("Background of proof", "On a picture…");
    CHECK(corner() == QColor(0xC0, 0x80, 0x20));
    CHECK(w.find<QLabel>("Notice")->text().contains("damaged.png is no picture that can be read."));
}

TEST_CASE("a picture for the customer has its true size and a scale") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.saveInNextDialogAs(folder.path("proof.png"));
    w.pick("Picture ways", "With a ruler and a disc for scale…");
    const QImage image(folder.path("proof.png"));
    REQUIRE_FALSE(image.isNull());
    const double scale = image.dotsPerMeterX() / 1000.0;
    CHECK(scale == Approx(300 / 25.4).margin(0.02));
    // The disc is 24 mm across.
    int across = 0;
    const int row = image.height() - int(15 * scale);
    for (int x = 0; x < image.width(); ++x)
        across += image.pixelColor(x, row) != QColor(Qt::white);
    CHECK(across / scale == Approx(24).margin(0.6));
    // The sticker is 20 mm wide.
    int green = 0;
    for (int x = 0; x < image.width(); ++x)
        if (const QColor c = image.pixelColor(x, (image.height() - int(30 * scale)) / 2);
            c.green() > 120 && c.red() < 80)
            ++green;
    CHECK(green / scale == Approx(20).margin(0.3));
}

TEST_CASE("what stickers cost follows prices, and is copied and written") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.edit([](Job& job) {
        job.designs.front().count = 12;
        job.plan.medium.price = 10;
    });
    w.click("Costs page");
    auto* table = w.find<QTableWidget>("Costs table");
    REQUIRE(QTest::qWaitFor([&] { return table->rowCount() == 2; }, 20'000));
    CHECK(table->item(0, 0)->text() == "square");
    CHECK(table->item(0, 1)->text() == "12");
    CHECK(table->item(1, 0)->text() == "All");
    const double medium = w.document().made()->layout.usedLength() / 1000 * 10;
    CHECK(table->item(1, 3)->text().toDouble() == Approx(medium).margin(0.006));
    // 22 by 22 mm are printed of each, with the bleed.
    w.type("Ink for a square metre field", "1000");
    REQUIRE(QTest::qWaitFor([&] { return table->item(1, 3)->text().toDouble() > medium + 1; }, 20'000));
    CHECK(table->item(1, 3)->text().toDouble() == Approx(medium + 12 * 22 * 22 / 1000.0).margin(0.06));
    w.type("Margin in percent field", "100");
    REQUIRE(QTest::qWaitFor([&] { return w.partsOfCosts().contains("100 % margin"); }, 20'000));
    CHECK(w.document().job().prices.margin == 100);
    w.click("Copy table");
    const QStringList lines = QGuiApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts);
    REQUIRE(lines.size() == 3);
    CHECK(lines[1].startsWith("square\t12\t"));
    w.clickAndSave("Save as CSV", folder.path("costs.csv"));
    QFile csv(folder.path("costs.csv"));
    REQUIRE(csv.open(QIODevice::ReadOnly));
    CHECK(csv.readAll().contains("\"square\",12,"));
    REQUIRE(QTest::qWaitFor([&] { return w.find<QLabel>("Good counts")->text().contains("Good counts"); },
                            20'000));
    w.document().undo();
    CHECK(w.document().job().prices.margin == 0);
}

TEST_CASE("unknown costs are no zeros, and lead to where the price is entered") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.click("Costs page");
    auto* table = w.find<QTableWidget>("Costs table");
    REQUIRE(QTest::qWaitFor([&] { return table->rowCount() == 2; }, 20'000));
    for (const int row : {0, 1})
        for (const int column : {2, 3})
            CHECK(table->item(row, column)->text() == "–");
    CHECK_FALSE(w.partsOfCosts().contains("0.0"));
    w.type("Ink for a square metre field", "1000");
    REQUIRE(QTest::qWaitFor([&] { return table->item(1, 3)->text().toDouble() > 0; }, 20'000));
    w.click("Enter the price");
    CHECK(w.window().sheetPlace().isVisible());
    CHECK(QApplication::focusWidget() == w.find<QLineEdit>("Price field"));
    w.type("Price field", "10");
    w.proof();
    CHECK_FALSE(w.window().findChild<QPushButton*>("Enter the price")->isVisible());
}

TEST_CASE("a file that changed on disk, and one that was written of an older state, are found") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.edit([&](Job& job) { job.outputs.folder = folder.path("").toStdString(); });
    CHECK(w.codes() == Codes{});
    w.window().goTo(MainWindow::sheet);
    w.click("Write all");
    REQUIRE(
        QTest::qWaitFor([&] { return w.find<QLabel>("Write result")->text().startsWith("Wrote"); }, 20'000));
    w.edit([](Job& job) { job.designs.front().recipe.lines.front().offset = -0.5; });
    REQUIRE(QTest::qWaitFor([&] { return !w.codes().empty(); }, 20'000));
    CHECK(w.codes() == Codes{"out-of-date", "out-of-date"});
    QFile file(folder.path("square.svg"));
    REQUIRE(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'>"
               "<path d='M0 0H20V20H0Z' fill='#00a'/></svg>");
    file.close();
    REQUIRE(QTest::qWaitFor([&] { return w.codes().size() == 3; }, 20'000));
    CHECK(w.codes().front() == "file-changed");
    w.click("Second answer"); // what is shown is kept
    REQUIRE(QTest::qWaitFor([&] { return w.codes().size() == 2; }, 20'000));
}

TEST_CASE("a print that is not what the job asks for is found until it is written anew") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.edit([&](Job& job) { job.outputs.folder = folder.path("").toStdString(); });
    w.window().goTo(MainWindow::sheet);
    const QByteArray programs = qgetenv("PATH");
    qputenv("PATH", ""); // so that nothing reads the print again
    w.click("Write all");
    REQUIRE(QTest::qWaitFor([&] { return w.codes() == Codes{"print-differs"}; }, 20'000));
    qputenv("PATH", programs);
    w.window().goTo(MainWindow::sheet);
    w.click("Outputs");
    w.click("Write all");
    REQUIRE(QTest::qWaitFor(
        [&] { return w.find<ElidedLabel>("Look at output 1")->whole().startsWith("Read again: "); }, 60'000));
    REQUIRE(QTest::qWaitFor([&] { return w.codes().empty(); }, 20'000));
}

TEST_CASE("writing a job that has errors asks once") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1);
    w.edit([&](Job& job) {
        job.outputs.folder = folder.path("").toStdString();
        job.plan.medium = sheetOf(210, 297);
        job.designs.push_back(job.designs.front());
        job.designs.back().id = "too large";
        job.designs.back().artwork = scaledToWidth(job.designs.back().artwork, 500);
    });
    CHECK(w.codes().front() == "copies-lost");
    w.window().goTo(MainWindow::sheet);
    auto asked = w.answerNextQuestion(QString("Look at them"));
    w.click("Write all");
    REQUIRE(QTest::qWaitFor([&] { return !asked->isEmpty(); }, 20'000));
    CHECK(asked->contains("1 error"));
    w.settle();
    CHECK(w.find<QPushButton>("Proof place")->isChecked());
    CHECK(QDir(folder.path("")).entryList({"*.pdf"}).isEmpty());
    w.window().goTo(MainWindow::sheet);
    asked = w.answerNextQuestion(QString("Write all the same"));
    w.click("Write all");
    REQUIRE(
        QTest::qWaitFor([&] { return w.find<QLabel>("Write result")->text().startsWith("Wrote"); }, 20'000));
    CHECK_FALSE(QDir(folder.path("")).entryList({"*.pdf"}).isEmpty());
    w.click("Write all"); // without a question, which would stand in the way
    REQUIRE(
        QTest::qWaitFor([&] { return w.find<QLabel>("Write result")->text().startsWith("Wrote"); }, 20'000));
}

TEST_CASE("colours are shown as the printer's profile says, and those marked that it has not") {
    const TemporaryFolder folder;
    Proofreader w;
    dropSquare(w, folder, 1); // a strong green, which no press of four inks has
    ProofView& view = w.place().view();
    CHECK_FALSE(w.find<QComboBox>("Colours of proof")->isEnabled());
    const auto middle = [&] {
        const QImage image = view.picture(10);
        return image.pixelColor(image.width() / 2, image.height() / 2);
    };
    CHECK(middle() == QColor(0, 0xaa, 0));
    w.edit([](Job& job) {
        const auto profile = readColourProfile("/usr/share/color/icc/ghostscript/default_cmyk.icc");
        job.assets.edit()[profile->sha256] = profile;
        job.outputs.colours = profile->sha256;
    });
    REQUIRE(w.find<QComboBox>("Colours of proof")->isEnabled());
    w.choose("Colours of proof", "Printer's colours");
    const QColor proofed = middle();
    CHECK(proofed.saturation() < QColor(0, 0xaa, 0).saturation());
    CHECK(proofed.green() > proofed.red());
    w.choose("Colours of proof", "What it can't print");
    const QImage marked = view.picture(10);
    int persimmon = 0;
    for (int x = 0; x < marked.width(); ++x)
        persimmon += marked.pixelColor(x, marked.height() / 2) == QColor(0xC8, 0x50, 0x1E);
    CHECK(persimmon > 20);
    w.choose("Colours of proof", "Artwork's colours");
    CHECK(middle() == QColor(0, 0xaa, 0));
    w.edit([](Job& job) { job.outputs.colours.clear(); });
    CHECK_FALSE(w.find<QComboBox>("Colours of proof")->isEnabled());
}
