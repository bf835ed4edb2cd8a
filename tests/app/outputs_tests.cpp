#include "app/document/output_writer.h"
#include "app/kit/elided_label.h"
#include "base/error.h"
#include "files/job_file.h"
#include "files/print_look.h"
#include "files/read_file.h"
#include "support/window_driver.h"
#include "workshop/route_sheet.h"

#include <QCheckBox>
#include <QImage>
#include <QLabel>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

/// A bee on the sheet, with the panel of outputs open and its folder chosen.
struct Written {
    Written() {
        w.drop({bee});
        w.click("Sheet place");
        w.click("Outputs");
        w.type("Folder field", folder.path());
    }

    QString text(const QString& name) { return w.find<ElidedLabel>(name)->whole(); }
    const OutputPlan& plan() { return w.window().document().job().outputs; }
    QStringList files() { return QDir(folder.path()).entryList(QDir::Files, QDir::Name); }
    std::string bytes(const char* name) {
        const auto read = readFile(folder / name, 1 << 26);
        return {reinterpret_cast<const char*>(read.data()), read.size()};
    }

    TemporaryFolder folder;
    WindowDriver w;
};

} // namespace

TEST_CASE("all outputs are written by one key, named by the pattern, and again after a change") {
    Written t;
    CHECK(t.text("Output names 1") == "bee-1-print.pdf");
    CHECK(t.text("Output contents 1").startsWith("1 sticker · Kiss cut · 4 marks · "));
    CHECK(t.text("Output last 1") == "Not written yet");
    t.w.type("Names field", "{what} of {job} {sheet}");
    CHECK(t.text("Output names 2") == "cut of bee 1.svg");
    t.w.keys(Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(t.files() == QStringList{"cut of bee 1.svg", "print of bee 1.pdf"});
    CHECK(t.text("Output last 2").startsWith("Written "));

    const std::string before = t.bytes("cut of bee 1.svg");
    t.w.type("Copies field", "2");
    CHECK(t.text("Output last 1").startsWith("Out of date: written "));
    t.w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.text("Output last 1").startsWith("Written "));
    t.w.type("Copies field", "2");
    t.w.keys(Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier); // its own files are replaced unasked
    CHECK(t.text("Output last 1").startsWith("Written "));
    CHECK(t.bytes("cut of bee 1.svg") != before);
}

TEST_CASE("files that are there are asked about, all of an output, and left alone where one says no") {
    Written t;
    t.w.window().document().change("Sheets", [](Job& job) {
        job.plan.medium = a4Sheet;
        job.designs[0].count = 60;
    });
    t.w.settle();
    writeSafely(t.folder / "bee-2-cut.svg", "old");
    const auto asked = t.w.answerNextQuestion(QString("Cancel"));
    t.w.click("Write all");
    CHECK(*asked == "bee-2-cut.svg exists already. Replace it?");
    CHECK(t.files() == QStringList{"bee-2-cut.svg"});
    CHECK(t.bytes("bee-2-cut.svg") == "old");
    const auto agreed = t.w.answerNextQuestion(QString("Replace"));
    t.w.click("Write all");
    CHECK_FALSE(agreed->isEmpty());
    CHECK(t.files().contains("bee-all-print.pdf"));
    CHECK(t.bytes("bee-2-cut.svg").size() > 100);

    t.w.click("A file for each sheet of output 1");
    t.w.click("Write output 1");
    CHECK(t.files().contains("bee-2-print.pdf"));
}

TEST_CASE("outputs are added, changed and removed, each in one step; pictures with their resolution") {
    Written t;
    t.w.click("Add a print output"); // what is not planned yet
    CHECK(t.plan().outputs.at(2).print == PrintFormat::eps);
    t.w.choose("Format of output 3", "PNG picture");
    CHECK_FALSE(t.w.window().findChild<QCheckBox*>("Cut lines of output 3")->isVisible());
    for (QLineEdit* field : t.w.window().findChildren<QLineEdit*>("Dots an inch field"))
        if (field->isVisible()) {
            field->setFocus();
            field->selectAll();
            QTest::keyClicks(field, "100");
            QTest::keyClick(field, Qt::Key_Return);
        }
    CHECK(t.plan().outputs.at(2).dotsPerInch == 100);
    t.w.click("Write output 3");
    const QImage picture(t.folder.path("bee-1-print.png"));
    CHECK(picture.dotsPerMeterX() == Approx(100 / 0.0254).margin(1));
    CHECK(picture.width() == Approx(t.w.window().document().job().plan.medium.width / 25.4 * 100).margin(2));
    auto* inks = t.w.window().findChild<QCheckBox*>("CMYK of output 3");
    CHECK_FALSE(inks->isVisible()); // PNG has none
    t.w.choose("Format of output 3", "TIFF picture");
    REQUIRE(inks->isVisible());
    t.w.click("CMYK of output 3");
    CHECK(t.plan().outputs.at(2).isInInks);
    t.w.keys(Qt::Key_Z, Qt::ControlModifier);
    t.w.keys(Qt::Key_Z, Qt::ControlModifier);
    t.w.click("Remove output 1");
    CHECK(t.plan().outputs.size() == 2);
    t.w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(t.plan().outputs.size() == 3);
    CHECK(t.text("Output last 3").startsWith("Written "));
}

TEST_CASE("kinds of line are chosen for a cut file") {
    Written t;
    t.w.trigger("Kind Die cut of output 2"); // all but these
    CHECK_FALSE(holds(t.plan().outputs.at(1).kinds, LineKind::die));
    t.w.trigger("Kind Crease of output 2");
    t.w.trigger("Kind Perforated die cut of output 2");
    CHECK(t.plan().outputs.at(1).kinds == std::vector{LineKind::kiss});
    t.w.trigger("Kind Kiss cut of output 2"); // none is as good as all
    CHECK(t.plan().outputs.at(1).kinds.empty());

    t.w.trigger("Kind Kiss cut of output 2");
    t.w.click("A file for each tool of output 2");
    t.w.click("Write output 2");
    CHECK(t.w.find<QLabel>("Write result")->text() ==
          "No sheet has lines of the kinds that are to be written");
}

TEST_CASE(
    "names that can't be told apart, and words that mean nothing, are told before anything is written") {
    Written t;
    t.w.choose("Format of output 2", "PDF of lines");
    t.w.type("Names field", "{job}");
    CHECK(t.text("Output names 1").contains("two outputs would be called bee.pdf"));
    t.w.click("Write all");
    CHECK(t.w.find<QLabel>("Write result")->text().contains("two outputs would be called"));
    t.w.type("Names field", "{jobb}-{what}");
    CHECK(t.text("Output names 1").contains("{jobb}"));
    CHECK(t.files().isEmpty());
}

TEST_CASE("the plan of outputs is kept with the job, beside whose file they go") {
    Written t;
    t.w.type("Folder field", "");
    t.w.type("Names field", "{job} {what}");
    t.w.choose("Format of output 2", "HPGL");
    t.w.click("Cut lines of output 1");
    t.w.keysAndSave(Qt::Key_S, Qt::ControlModifier, t.folder.path("honey.hasami"));
    const Job saved = openJob(t.folder / "honey.hasami");
    CHECK(saved.outputs == t.plan());
    CHECK_FALSE(saved.outputs.outputs.at(0).cutLines);
    CHECK(saved.outputs.outputs.at(1).cut == CutLanguage::hpgl);
    t.w.click("Write all");
    CHECK(t.files() == QStringList{"honey cut.plt", "honey print.pdf", "honey.hasami"});
}

TEST_CASE("whether prints are PDF/X-4 follows designs that come and go") {
    Written t;
    const std::string page = "BT /F1 60 Tf 20 40 Td (Bee) Tj ET";
    writeSafely(
        t.folder / "text.pdf",
        "%PDF-1.6\n1 0 obj << /Type /Catalog /Pages 2 0 R >> endobj\n"
        "2 0 obj << /Type /Pages /Kids [3 0 R] /Count 1 >> endobj\n"
        "3 0 obj << /Type /Page /Parent 2 0 R /MediaBox [0 0 200 150] /Contents 4 0 R /Resources << /Font << "
        "/F1 << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >> endobj\n"
        "4 0 obj << /Length " +
            std::to_string(page.size()) + " >> stream\n" + page +
            "\nendstream endobj\ntrailer << /Root 1 0 R >>\n%%EOF\n");
    t.w.drop({t.folder.path("text.pdf")});
    Document& document = t.w.window().document();
    REQUIRE(document.job().designs.size() == 2);
    t.w.click("Sheet place");
    t.w.chooseAndOpen("Choose an ICC profile…", "/usr/share/color/icc/ghostscript/default_cmyk.icc");
    const auto* colours = t.w.find<QPushButton>("Colour profile");
    CHECK(colours->toolTip().contains("no PDF/X-4, since a font of text is not in its artwork"));
    document.deleteDesign(document.job().designs[1].id); // what was made is of two designs for a moment
    t.w.settle();
    CHECK(colours->toolTip().contains("Print files are PDF/X-4."));
}

TEST_CASE("a folder that can't be looked into is said, and the program goes on") {
    Written t;
    t.w.type("Folder field",
             "/" + QString(300, 'x')); // longer than a name can be: not even looking is possible
    t.w.click("Write all");
    t.w.settle();
    CHECK(t.w.window().document().findChild<OutputWriter*>()->state() == OutputWriter::State::failed);
    t.w.type("Folder field", t.folder.path());
    t.w.click("Write all");
    t.w.settle();
    CHECK(t.files().size() == 2);
}

TEST_CASE("a print is read again once it is written, and differences from the job are said") {
    Written t;
    CHECK_FALSE(t.w.find<ElidedLabel>("Look at output 1")->isVisible());
    t.w.click("Write output 1");
    auto* line = t.w.find<ElidedLabel>("Look at output 1");
    REQUIRE(QTest::qWaitFor([&] { return line->whole().startsWith("Read again: "); }, 60'000));
    CHECK(line->isVisible());
    CHECK(line->whole().startsWith("Read again: 1 page · "));
    CHECK(line->whole().contains("CutContour"));
    CHECK(line->whole().contains("RGB objects"));
    auto* details = t.w.find<QLabel>("Plates in output 1");
    CHECK_FALSE(details->isVisible());
    t.w.click("Plates of output 1");
    CHECK(details->isVisible());
    CHECK(details->text().contains("CutContour: cut lines"));
    CHECK(details->text().contains("Cyan: prints on "));

    const Job& job = t.w.window().document().job();
    const Made& made = *t.w.window().document().made();
    const PictureSource pictures = t.w.window().document().pictures().source();
    const auto path = t.folder / "bee-1-print.pdf";
    const PrintLook look = lookAtPrint(path);
    REQUIRE(look.pages.size() == 1);
    CHECK(look.pages[0].width == Approx(job.plan.medium.width).margin(0.01));
    CHECK(look.pages[0].height == Approx(made.layout.sheets[0].length).margin(0.01));
    CHECK(differencesOf(look, "a.pdf", {}, {}, job, made, pictures).empty());
    Job other = job;
    other.profile.names.lines[std::size_t(LineKind::kiss)].name = "Outer rim";
    other.plan.medium.width += 1;
    const auto differences = differencesOf(look, "a.pdf", {}, {}, other, made, pictures);
    REQUIRE(differences.size() == 3);
    CHECK(differences[0].starts_with("Page 1 of a.pdf measures "));
    CHECK(differences[1] == "a.pdf has no plate \"Outer rim\", which the job asks for");
    CHECK(differences[2] == "a.pdf has a plate \"CutContour\", which the job does not ask for");

    t.w.type("Copies field", "2"); // what was read is of an older state
    CHECK_FALSE(line->isVisible());
    writeSafely(path, "no print");
    CHECK_THROWS_AS(lookAtPrint(path), InputError);
}

TEST_CASE("a print is read to its end while another one is written") {
    Written t;
    t.w.click("Add a print output");
    REQUIRE(t.plan().outputs.at(2).print == PrintFormat::eps);
    t.w.click("Write output 1");
    t.w.click("Write output 3");
    for (const char* name : {"Look at output 1", "Look at output 3"}) {
        auto* line = t.w.find<ElidedLabel>(name);
        CHECK(QTest::qWaitFor([&] { return line->whole().startsWith("Read again: "); }, 60'000));
    }
}
