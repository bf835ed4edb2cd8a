#include "app/document/print_run.h"
#include "app/kit/elided_label.h"
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
    CHECK(paper.end() == "2 0");
}
