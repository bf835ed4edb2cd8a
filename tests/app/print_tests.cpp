#include "app/document/print_run.h"
#include "app/kit/elided_label.h"
#include "app/sheet/scale_test_dialog.h"
#include "support/window_driver.h"

#include <QProcess>

using namespace hasami;
using namespace hasami::test;

namespace {

const QString bee = HASAMI_SOURCE_DIR "/data/demo/bee.png";

/// The tests' printer (tests/cli/printer.py) in a process of its own, with A4 paper.
struct Paper {
    Paper() {
        process.start("/usr/bin/python3", {"-uc",
                                           "import sys; sys.path.insert(0, sys.argv[1]); import printer\n"
                                           "there = printer.Printer([(210, 297)], states=[5, 5, 9])\n"
                                           "print(there.uri)\n"
                                           "sys.stdin.read()\n"
                                           "print(len(there.jobs), len(there.cancelled))\n",
                                           HASAMI_SOURCE_DIR "/tests/cli"});
        REQUIRE(process.waitForReadyRead(20'000));
        uri = QString::fromUtf8(process.readLine()).trimmed();
    }
    /// How many jobs it got, and how many of them were cancelled.
    QString end() {
        process.closeWriteChannel();
        process.waitForFinished(20'000);
        return QString::fromUtf8(process.readAllStandardOutput()).trimmed();
    }
    QProcess process;
    QString uri;
};

} // namespace

TEST_CASE("sheets are printed from the window, and the printer's refusal is told") {
    Paper paper;
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    w.click("Outputs");
    CHECK_FALSE(w.find<QPushButton>("Print")->isEnabled());
    w.type("Printer field", paper.uri);
    auto& run = *w.window().findChild<PrintRun*>();
    const auto print = [&] {
        w.click("Print");
        REQUIRE(QTest::qWaitFor([&] { return !run.isOn(); }, 60'000));
    };
    print(); // on a roll of 600 mm
    CHECK(run.state() == PrintRun::State::failed);
    CHECK(w.find<ElidedLabel>("Print state")->whole().contains("larger than every medium"));
    w.choose("Medium kind", "Sheet A4");
    w.type("Copies field", "5"); // two sheets
    REQUIRE(w.window().document().made()->layout.sheets.size() == 2);
    print();
    CHECK(run.state() == PrintRun::State::done);
    CHECK(w.find<ElidedLabel>("Print state")->whole() == "Printed on " + paper.uri + ": 2 sheets");
    auto* type = w.window().findChild<QComboBox*>("Type of medium");
    REQUIRE(QTest::qWaitFor([&] { return type->count() == 3; }, 20'000));
    CHECK(type->itemText(2) == "labels");
    CHECK(paper.end() == "2 0");
}

TEST_CASE("a printer's scale is measured on a page with rulers, and kept in the profile") {
    Paper paper;
    WindowDriver w;
    w.drop({bee});
    w.click("Sheet place");
    w.choose("Medium kind", "Sheet A4");
    w.click("Outputs");
    w.type("Printer field", paper.uri);
    auto& run = *w.window().findChild<PrintRun*>();
    const auto inDialog = [&](const std::function<void(ScaleTestDialog&)>& act) {
        QTimer timer;
        bool isDone = false;
        QObject::connect(&timer, &QTimer::timeout, &timer, [&] {
            if (auto* dialog = qobject_cast<ScaleTestDialog*>(QApplication::activeModalWidget());
                dialog && !isDone) {
                isDone = true;
                act(*dialog);
            }
        });
        timer.start(20);
        w.click("Scale test");
        REQUIRE(isDone);
    };
    const auto type = [](ScaleTestDialog& dialog, const char* name, const char* text) {
        auto* field = dialog.findChild<QLineEdit*>(name);
        REQUIRE(field);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
    };
    inDialog([&](ScaleTestDialog& dialog) {
        QTest::mouseClick(dialog.findChild<QPushButton*>("Print the test page"), Qt::LeftButton);
        CHECK(QTest::qWaitFor([&] { return run.state() == PrintRun::State::done; }, 30'000));
        CHECK(dialog.findChild<QLabel*>("Scale test state")->text().startsWith("Printed on "));
        type(dialog, "Measured across field", "171.7"); // of 170
        type(dialog, "Measured along field", "247.5");  // of 250
        QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok),
                          Qt::LeftButton);
    });
    const PrintScale& scale = w.window().document().job().profile.printer.scale;
    CHECK(scale.across == Approx(171.7 / 170));
    CHECK(scale.along == Approx(247.5 / 250));
    w.keys(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window().document().job().profile.printer.scale == PrintScale{});
    inDialog([&](ScaleTestDialog& dialog) {
        type(dialog, "Measured across field", "17"); // a slip of the hand
        QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok),
                          Qt::LeftButton);
        CHECK(dialog.isVisible());
        dialog.reject();
    });
    CHECK(w.window().document().job().profile.printer.scale == PrintScale{});
    CHECK(paper.end() == "1 0");
}

TEST_CASE("the page of a scale test has rulers as long as it says") {
    const ScaleTest test{210, 297};
    CHECK(test.across() == 170);
    CHECK(test.along() == 250);
    CHECK(ScaleTest{60, 45}.along() == 10);
}
