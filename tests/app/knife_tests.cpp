// Nothing but Pause, Stop or its end moves a running cut, whatever else is done in the window.

#include "app/document/job_files.h"
#include "app/document/send_run.h"
#include "app/run/queue_list.h"
#include "app/window/cut_bar.h"
#include "app/window/end_signals.h"
#include "files/hpgl.h"
#include "support/cutter_stand_in.h"

#include <QComboBox>
#include <QLabel>
#include <QSignalSpy>

#include <csignal>

using namespace hasami;
using namespace hasami::test;

namespace {

/// A sheet of many stickers that is being sent to a machine which reads nothing yet.
struct Stalled {
    explicit Stalled(const QString& state = {}) : c(state) {
        c.w.window().document().change("Serial", [&](Job& job) {
            job.profile.cutter.connection = machine.connection();
            job.designs.front().count = 60;
            job.plan.medium.length = 3000;
        });
        c.w.settle();
        c.useCutter();
        c.w.click("Cut without marks run");
        whole = cutHpgl(*c.w.window().document().namedJob(), *c.w.window().document().made(), 0,
                        {LineKind::kiss});
    }
    void send() {
        c.w.click("Next run");
        REQUIRE(QTest::qWaitFor(
            [&] {
                const auto sent = c.run().model().kept();
                return sent && !sent->record.empty() && machine.isFull();
            },
            20'000));
        REQUIRE(c.isSending());
    }
    bool isStopped() {
        return QTest::qWaitFor([&] { return !c.run().model().isCutting(); }, 20'000);
    }

    FullMachine machine;
    std::string whole;
    Cutting c;
};

/// How often each cut of the file is in what the machine got.
bool hasEachOnce(const std::string& got, const std::string& whole) {
    return std::ranges::all_of(cutLines(whole), [&](const std::string& line) {
        const auto first = got.find(line);
        return first != std::string::npos && got.find(line, first + 1) == std::string::npos;
    });
}

} // namespace

TEST_CASE("while a sheet is sent, other sheets, cutters and kinds of line can't be chosen") {
    const TemporaryFolder folder;
    std::string cut;
    {
        Stalled s(folder.path("state"));
        s.c.w.window().queue().addSheets();
        s.c.w.settle();
        const std::string other = s.c.w.window().queue().entries().back().id;
        s.send();
        cut = s.c.run().entryId();
        CHECK(cut != other);
        s.c.run().chooseEntry(other);
        CHECK(s.c.run().entryId() == cut);
        s.c.run().choose(0);
        s.c.run().setWork(RunWork::printOnly);
        s.c.run().act(RunAction::printAgain);
        CHECK(s.c.run().entryId() == cut);
        s.c.run().useMachine(RunControl::Machine::simulated);
        CHECK(s.c.w.find<QComboBox>("Cutter of the run")->currentText() == "Of the profile");
        CHECK_FALSE(s.c.w.find<QComboBox>("Cutter of the run")->isEnabled());
        CHECK_FALSE(s.c.w.find<QComboBox>("Lines of the run")->isEnabled());
        s.c.run().choosePieces({1});
        s.c.w.window().document().change("Others", [](Job& job) { job.designs.front().count = 2; });
        s.c.w.settle();
        s.c.w.window().document().undo();
        s.c.w.settle();
        for (const char* place : {"Stickers place", "Sheet place", "Proof place", "Run place"})
            s.c.w.click(place);
        CHECK(s.c.isSending());
        CHECK(s.c.w.find<QPushButton>("Stop the cut run")->isVisible());
        s.c.w.click("Stop the cut run");
        REQUIRE(s.isStopped());
        CHECK(s.c.w.window().queue().isTaken(cut));
    }
    Cutting next(folder.path("state"), false);
    const RunQueue& queue = next.w.window().queue();
    REQUIRE(queue.find(cut));
    for (const QueueEntry& entry : queue.entries())
        CHECK(entry.isBegun == (entry.id == cut));
}

TEST_CASE("after a stop the same tool goes on only once the machine has the end of the last cut") {
    Stalled s;
    s.send();
    s.c.w.click("Stop the cut run");
    CHECK(s.c.isStopping());
    CHECK_FALSE(s.c.w.find<QPushButton>("Next run")->isEnabled());
    s.c.run().next(); // pressed all the same
    CHECK(s.c.isStopping());
    s.machine.readAll();
    REQUIRE(s.isStopped());
    CHECK(s.c.run().trouble().isEmpty());
    REQUIRE(s.c.run().model().firstLine() > 0);
    s.c.next();
    CHECK(s.c.run().model().step().pass == 1);
    REQUIRE(QTest::qWaitFor([&] { return s.machine.got().ends_with("PU0,0;SP0;\n"); }, 20'000));
    CHECK(hasEachOnce(s.machine.got(), s.whole));
}

TEST_CASE("a test cut that is stopped ends with the knife up, and the sheet is cut whole after it") {
    Stalled s;
    s.machine.fillAllBut(2000);
    s.c.w.click("Test cut first run");
    REQUIRE(QTest::qWaitFor([&] { return s.machine.isFull(); }, 20'000));
    REQUIRE(s.c.run().model().isTesting());
    s.c.w.click("Stop the cut run");
    CHECK(s.c.isStopping());
    s.machine.readAll();
    REQUIRE(s.isStopped());
    const std::string test = s.machine.got();
    REQUIRE(test.find("PD") != std::string::npos);
    CHECK(test.substr(test.rfind("PD")).find(";PU;SP0;") != std::string::npos);
    CHECK(cutLines(test).size() < 10); // a drop and a ring each for five forces
    CHECK_FALSE(s.c.run().model().testCut());
    CHECK(s.c.run().model().record().empty());
    s.c.next();
    REQUIRE(QTest::qWaitFor([&] { return s.machine.got().ends_with("PU0,0;SP0;\n"); }, 20'000));
    CHECK(hasEachOnce(s.machine.got().substr(test.size()), s.whole));
}

TEST_CASE("a cut that is cancelled while its lines are worked out sends nothing, and is cut whole later") {
    Cutting c;
    c.run().useMachine(RunControl::Machine::simulated);
    c.run().useMachine(RunControl::Machine::ofProfile);
    REQUIRE(c.run().model().activity() == RunActivity::preparing);
    c.run().act(RunAction::stop); // nothing runs yet
    CHECK(c.run().model().activity() == RunActivity::preparing);
    c.run().act(RunAction::cancel);
    c.w.settle();
    CHECK_FALSE(c.run().isBusy());
    CHECK_FALSE(c.run().model().isPrepared());
    c.next(); // works the lines out
    c.w.click("Cut without marks run");
    CHECK(c.cutter.got().isEmpty());
    c.next(); // the first tool
    c.next(); // the second one
    CHECK(c.isDone());
    CHECK(cutLines(c.cutter.got().toStdString()).size() == 2);
}

TEST_CASE("a cut is in sight in every place, and is paused and stopped there") {
    Stalled s;
    s.send();
    auto* bar = s.c.w.find<CutBar>("Cut bar");
    CHECK_FALSE(bar->isVisible()); // the steps show it
    for (const char* place : {"Stickers place", "Sheet place", "Proof place"}) {
        INFO(place);
        s.c.w.click(place);
        REQUIRE(bar->isVisible());
        CHECK(s.c.w.find<QPushButton>("Stop cut")->isVisible());
    }
    s.c.w.click("Pause cut");
    CHECK(s.c.run().model().activity() == RunActivity::paused);
    s.c.w.click("Pause cut");
    CHECK_FALSE(s.c.run().model().activity() == RunActivity::paused);
    s.c.w.click("Stop cut");
    CHECK(s.c.isStopping());
    REQUIRE(s.isStopped());
    CHECK_FALSE(bar->isVisible());
    CHECK(s.c.run().model().kept());
}

TEST_CASE("marks that were touched in another order are asked about before anything is cut") {
    Cutting c;
    const std::vector<MarkReading> marks = c.run().model().registration().marks;
    REQUIRE(marks.size() == 4);
    for (std::size_t i = 0; i < 4; ++i) {
        c.cutter.headAt(c.axesOf(marks[3 - i].expected));
        c.next();
    }
    CHECK(c.isAtMarks());
    CHECK(c.run().model().doubt().find("turned by") != std::string::npos);
    CHECK(c.w.find<QPushButton>("Next run")->text() == "Touch the marks again");
    CHECK(c.w.find<QLabel>("Run facts")->text().contains("The sheet lies turned by"));
    CHECK(c.cutter.got().isEmpty());
    c.w.click("Use these marks run");
    CHECK(c.isReady());
    c.w.click("Load again run");
    CHECK(c.isAtMarks());
    CHECK(c.run().model().doubt().empty());
    // The sheet is shown once: as one of the job's, not in the queue too.
    CHECK(c.w.window().queue().entries().size() == 1);
    CHECK(std::ranges::none_of(c.w.window().findChild<QueueList*>()->rows(),
                               [](const QueueRow& row) { return row.kind == QueueRow::Kind::entry; }));
}

TEST_CASE("a sticker that is chosen and left between two tools changes neither marks nor what is cut") {
    Cutting c;
    for (std::size_t i = 0; i < 4; ++i) {
        c.cutter.headAt(c.axesOf(c.run().model().registration().marks[i].expected));
        c.next();
    }
    c.next(); // the kiss lines
    REQUIRE(c.run().model().step().pass == 1);
    const QByteArray kiss = c.cutter.got();
    c.run().choosePieces({0});
    c.run().choosePieces({});
    CHECK(c.isReady());
    CHECK(c.run().model().registration().found() == 4);
    CHECK(c.run().model().step().pass == 1);
    c.next();
    CHECK(c.isDone());
    CHECK_FALSE(c.cutter.got().mid(kiss.size()).contains("SP1;"));
}

TEST_CASE("a tested force and blade depth hold for the next print too, and lines of a print are cut again") {
    Cutting c;
    c.w.click("Cut without marks run");
    c.run().takeForce(115);
    c.run().takeBladeDepth(0.4);
    c.next();
    c.next();
    REQUIRE(c.isDone());
    const qsizetype first = c.cutter.got().size();
    c.w.click("Cut again run");
    CHECK(c.isReady());
    c.next();
    CHECK(c.cutter.got().mid(first).contains("FS115;"));
    c.next();
    REQUIRE(c.isDone());
    c.w.click("Next run"); // another print
    REQUIRE(QTest::qWaitFor([&] { return !c.run().isBusy(); }, 20'000));
    CHECK(c.isAtMarks());
    const qsizetype second = c.cutter.got().size();
    c.w.click("Cut without marks run");
    CHECK(c.run().model().cutter().tool(LineKind::kiss).bladeDepth == 0.4);
    c.next();
    CHECK(c.cutter.got().mid(second).contains("FS115;"));
}

TEST_CASE("a late answer of a machine is not taken for another question") {
    Cutting c;
    c.cutter.answer("520,5680,0");
    c.run().next();
    c.run().act(RunAction::withoutMarks); // before it has answered
    REQUIRE(c.isReady());
    c.run().act(RunAction::locateAgain);
    c.w.settle();
    REQUIRE(QTest::qWaitFor([&] { return !c.run().isBusy(); }, 20'000));
    CHECK(c.run().model().mark() == 0);
    CHECK_FALSE(c.run().model().registration().marks.front().found);
}

TEST_CASE("a system that ends the program gets the knife lifted first, and unsaved work is kept") {
    const TemporaryFolder folder;
    Stalled s(folder.path("state"));
    s.send();
    const EndSignals signals;
    QObject::connect(&signals, &EndSignals::received, &s.c.w.window(), &MainWindow::endNow);
    const QSignalSpy ended(&s.c.w.window(), &MainWindow::ended);
    std::raise(SIGTERM);
    REQUIRE(QTest::qWaitFor([&] { return s.c.isStopping(); }, 20'000));
    s.machine.readAll();
    REQUIRE(QTest::qWaitFor([&] { return ended.count() == 1; }, 20'000));
    REQUIRE(QTest::qWaitFor([&] { return s.machine.got().ends_with(hpglLift); }, 20'000));
    const std::string part = s.machine.got().substr(0, s.machine.got().size() - hpglLift.size());
    CHECK(s.whole.starts_with(part));
    CHECK((part.back() == ';' || part.back() == '\n'));
    CHECK(s.c.run().model().kept());
    REQUIRE(QTest::qWaitFor(
        [&] {
            return !QDir(folder.path("state/hasami/recovery"))
                        .entryList(QDir::Dirs | QDir::NoDotAndDotDot)
                        .isEmpty();
        },
        20'000));
}

TEST_CASE("a sending from Sheet is paused and stopped in every place too") {
    Stalled s;
    s.c.w.click("Sheet place");
    SendRun& sending = *s.c.w.window().findChild<SendRun*>();
    sending.start(0, {});
    REQUIRE(QTest::qWaitFor([&] { return sending.share() > 0; }, 20'000));
    s.c.w.click("Stickers place");
    CHECK(s.c.w.find<CutBar>("Cut bar")->isVisible());
    s.c.w.click("Run place"); // to the same machine: refused, not mixed
    s.c.w.click("Next run");
    REQUIRE(s.isStopped());
    CHECK(s.c.run().trouble().contains("in use by another cut"));
    sending.stop();
    REQUIRE(QTest::qWaitFor([&] { return !sending.isOn(); }, 20'000));
}
