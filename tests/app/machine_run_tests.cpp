#include "files/hpgl.h"
#include "support/cutter_stand_in.h"
#include "support/temporary_folder.h"

#include <QComboBox>
#include <QLabel>
#include <QToolButton>
#include <catch2/catch.hpp>

#include <regex>

using namespace hasami;
using namespace hasami::test;

namespace {

/// The places that a file draws through, mm along its axes.
std::vector<Point> placesIn(const QByteArray& hpgl) {
    std::vector<Point> places;
    const std::string text = hpgl.toStdString();
    const std::regex pair("(-?[0-9]+),(-?[0-9]+)");
    for (auto found = std::sregex_iterator(text.begin(), text.end(), pair); found != std::sregex_iterator();
         ++found)
        places.push_back({std::stod((*found)[1]) / 40, std::stod((*found)[2]) / 40});
    return places;
}

} // namespace

TEST_CASE("a sheet is cut on a real machine, by marks that are touched, tool by tool") {
    Cutting c;
    REQUIRE(c.run().model().registration().marks.size() == 4);
    // The print lies shifted, turned and stretched.
    const PrintMap print({{3, -2}, 0.6, 0.003, -0.002}, {{0, 0}, {200, Cutting::width}});
    for (std::size_t i = 0; i < 4; ++i) {
        CHECK(c.instruction().contains("mark " + QString::number(i + 1)));
        c.cutter.headAt(c.axesOf(print(c.run().model().registration().marks[i].expected)));
        c.next();
    }
    REQUIRE(c.isReady());
    CHECK(c.run().model().registration().residual < 0.03);
    CHECK(c.instruction().contains("Tool 1 of 2"));
    CHECK(c.instruction().contains("Kiss cut"));
    CHECK(c.cutter.got().isEmpty());
    c.next();
    const QByteArray kiss = c.cutter.got();
    CHECK(kiss.count("SP1;") == 1);
    CHECK_FALSE(kiss.contains("SP2;"));
    REQUIRE(c.isReady());
    CHECK(c.instruction().contains("Tool 2 of 2"));
    CHECK(c.instruction().contains("holder 2"));
    c.next();
    CHECK(c.cutter.got().contains("SP2;"));
    CHECK(c.isDone());
    // Each place that is cut lies where the print is.
    const Document& document = c.w.window().document();
    const CutProgram program =
        programOf(document.job(), *document.made(), document.made()->layout.sheets.front());
    std::vector<Point> wanted;
    for (const CutStep& step : program)
        if (const Cut* cut = std::get_if<Cut>(&step))
            for (const Point p : cut->path)
                wanted.push_back(c.axesOf(print(p)));
    REQUIRE(wanted.size() > 100);
    for (const Point place : placesIn(kiss)) {
        if (place == Point{})
            continue; // home
        double nearest = 1e9;
        for (const Point p : wanted)
            nearest = std::min(nearest, distance(p, place));
        CHECK(nearest < 0.06);
    }
}

TEST_CASE("a machine that answers is asked how far it came, after a stop and at the end") {
    Cutting c;
    c.w.window().document().change("Many", [](Job& job) { job.designs.front().count = 400; });
    c.w.settle();
    REQUIRE(QTest::qWaitFor([&] { return !c.run().isBusy(); }, 20'000));
    for (std::size_t i = 0; i < 4; ++i) {
        c.cutter.headAt(c.axesOf(c.run().model().registration().marks[i].expected));
        c.next();
    }
    REQUIRE(c.isReady());
    c.cutter.setBusy(true);
    c.w.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return !c.run().model().record().empty(); }, 20'000));
    REQUIRE(c.isSending());
    c.w.click("Stop the cut run");
    REQUIRE(QTest::qWaitFor([&] { return !c.run().model().isCutting(); }, 20'000));
    CHECK_FALSE(c.run().model().isConfirmed());
    CHECK(c.instruction().contains("Check which line the machine cut last"));
    c.cutter.setBusy(false);
    REQUIRE(QTest::qWaitFor([&] { return c.run().model().isConfirmed(); }, 20'000));
    CHECK(c.instruction().contains("says that it has cut those before"));
    c.next();
    c.next(); // the other tool
    REQUIRE(c.isDone());
    REQUIRE(QTest::qWaitFor([&] { return c.run().model().isConfirmed(); }, 20'000));
    CHECK(c.instruction().contains("The machine says that it has ended"));
}

TEST_CASE("positions are typed, wrong ones refused; a machine may be cut on without marks") {
    Cutting c;
    c.w.type("Along of the mark", "11");
    for (int i = 0; i < 4; ++i)
        c.w.click("Take the typed position run");
    CHECK(c.isReady()); // one was off by little: a shift of a mark
    c.w.click("Load again run");
    CHECK(c.isAtMarks());
    c.w.type("Along of the mark", "60"); // far off
    for (int i = 0; i < 4; ++i)
        c.w.click("Take the typed position run");
    CHECK((c.isAtMarks() || c.run().model().registration().dropped() == std::vector<int>{1}));
    c.run().act(RunAction::locateAgain);
    c.w.click("Cut without marks run");
    REQUIRE(c.isReady());
    c.next();
    const Document& document = c.w.window().document();
    CHECK(c.cutter.got().toStdString() ==
          cutHpgl(*document.namedJob(), *document.made(), 0, {LineKind::kiss}));
}

TEST_CASE("a machine that is not there, or says nothing that helps, gives a sentence") {
    Cutting c;
    c.cutter.answer("where?");
    c.next();
    CHECK(c.run().trouble().contains("is no position"));
    CHECK(c.run().model().mark() == 0);
    c.w.window().document().change("Gone",
                                   [](Job& job) { job.profile.cutter.connection = "tcp:127.0.0.1:1"; });
    c.w.settle();
    c.useCutter();
    c.next();
    CHECK(c.run().trouble().contains("There is no connection"));
    c.w.window().document().change("None", [](Job& job) { job.profile.cutter.connection.clear(); });
    c.w.settle();
    c.useCutter();
    CHECK(c.instruction().contains("has no connection"));
    CHECK_FALSE(c.w.find<QPushButton>("Next run")->isEnabled());
}

TEST_CASE("a machine on a serial line is asked and sent to as well") {
    const int master = posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK);
    REQUIRE(master >= 0);
    REQUIRE(grantpt(master) == 0);
    REQUIRE(unlockpt(master) == 0);
    const std::string name = ptsname(master);               // NOLINT(concurrency-mt-unsafe)
    const int keep = open(name.c_str(), O_RDWR | O_NOCTTY); // the line stays up between two senders
    std::mutex mutex;
    std::string got;
    std::jthread machine([&](const std::stop_token& stop) {
        while (!stop.stop_requested()) {
            std::array<char, 512> some{};
            const ssize_t count = read(master, some.data(), some.size());
            if (count <= 0) {
                std::this_thread::sleep_for(std::chrono::milliseconds(5));
                continue;
            }
            const std::lock_guard lock(mutex);
            got.append(some.data(), std::size_t(count));
            if (got.ends_with("OA;")) {
                got.clear();
                CHECK(write(master, "520,5680,0\r", 11) == 11);
            }
        }
    });
    {
        Cutting c;
        c.w.window().document().change("Serial",
                                       [&](Job& job) { job.profile.cutter.connection = "device:" + name; });
        c.w.settle();
        c.useCutter();
        c.next();
        CHECK(c.run().trouble().isEmpty());
        REQUIRE(c.run().model().registration().marks[0].found);
        CHECK(distance(*c.run().model().registration().marks[0].found, {13, 8}) < 1e-9);
        c.w.click("Cut without marks run");
        c.next();
        const Document& document = c.w.window().document();
        const std::lock_guard lock(mutex);
        CHECK(got == cutHpgl(*document.namedJob(), *document.made(), 0, {LineKind::kiss}));
    }
    machine.request_stop();
    machine.join();
    close(keep);
    close(master);
}

TEST_CASE("a pass that was stopped continues with the line that was not sent, after a restart too") {
    FullMachine machine;
    const TemporaryFolder folder;
    std::string whole;
    std::size_t line = 0, lines = 0;
    std::set<std::size_t> some; // stickers that are cut alone
    for (std::size_t piece = 0; piece < 50; ++piece)
        some.insert(piece);
    {
        Cutting c(folder.path("state"));
        c.w.window().document().change("Serial", [&](Job& job) {
            job.profile.cutter.connection = machine.connection();
            job.designs.front().count = 60;
        });
        c.w.settle();
        c.useCutter();
        c.run().choosePieces(some);
        REQUIRE(QTest::qWaitFor([&] { return !c.run().isBusy(); }, 20'000));
        c.w.click("Cut without marks run");
        lines = c.run().model().linesOfPass();
        const Document& document = c.w.window().document();
        whole = cutHpgl(*document.namedJob(), *document.made(), 0, {LineKind::kiss});
        c.w.click("Next run");
        REQUIRE(QTest::qWaitFor(
            [&] {
                const auto sent = c.run().model().kept();
                return sent && !sent->record.empty() && machine.isFull();
            },
            20'000));
        REQUIRE(c.isSending());
        c.w.click("Stop the cut run");
        REQUIRE(QTest::qWaitFor([&] { return !c.run().model().isCutting(); }, 20'000));
        line = c.run().model().firstLine();
        REQUIRE(line > 0);
        CHECK(line < c.run().model().linesOfPass());
        CHECK(c.instruction().contains("Stopped before line " + QString::number(line + 1)));
        CHECK(c.run().model().startOfLine());
        // Where the machine lost some, the operator says with which one to go on.
        c.w.type("Continue with line of the run", QString::number(line));
        CHECK(c.run().model().firstLine() == line - 1);
    }
    Cutting next(folder.path("state"), false);
    next.w.window().goTo(MainWindow::run);
    next.w.settle();
    CHECK(next.w.prompt().contains("A cut was interrupted"));
    next.w.click("Prompt button");
    REQUIRE(QTest::qWaitFor([&] { return next.isReady() && !next.run().isBusy(); }, 20'000));
    CHECK(next.run().model().firstLine() == line - 1);
    CHECK(next.w.find<QComboBox>("Cutter of the run")->currentText() == "Of the profile");
    CHECK(next.run().model().linesOfPass() == lines);
    // It is left for the simulated machines, and taken up again.
    next.w.choose("Cutter of the run", "Simulated");
    CHECK(next.run().isOfJob());
    CHECK(next.w.prompt().contains("A cut was interrupted"));
    next.w.click("Prompt button");
    REQUIRE(QTest::qWaitFor([&] { return !next.run().isBusy(); }, 20'000));
    REQUIRE(QTest::qWaitFor([&] { return !next.run().isBusy(); }, 20'000));
    CHECK(next.isReady());
    CHECK(next.run().model().firstLine() == line - 1);
    machine.readAll();
    next.next();
    REQUIRE(next.run().model().step().pass == 1);
    REQUIRE(QTest::qWaitFor([&] { return machine.got().ends_with("PU0,0;SP0;\n"); }, 20'000));
    const std::string got = machine.got();
    const auto all = cutLines(whole);
    CHECK(lines < all.size());
    CHECK(std::ranges::count_if(all, [&](const std::string& cut) {
              return got.find(cut) != std::string::npos;
          }) == long(lines));
    next.next(); // the other tool
    CHECK(next.isDone());
    const auto& entries = next.w.window().queue().entries();
    REQUIRE(entries.size() == 1);
    CHECK(entries.front().isDone());
    CHECK_FALSE(next.w.window().queue().interrupted());
}

TEST_CASE("a test cut is sent to a real machine, and the force that is taken is cut with") {
    Cutting c;
    c.w.window().document().change("Longer", [](Job& job) { job.plan.medium.length = 300; });
    c.w.settle();
    c.useCutter();
    c.w.click("Cut without marks run");
    c.w.click("Test cut first run");
    REQUIRE(QTest::qWaitFor([&] { return c.run().model().testCut().has_value(); }, 20'000));
    const QByteArray test = c.cutter.got();
    for (const char* force : {"FS70;", "FS85;", "FS100;", "FS115;", "FS130;"})
        CHECK(test.count(force) == 1);
    CHECK(cutLines(test.toStdString()).size() == 10); // a drop and a ring each
    CHECK(c.instruction().contains("Peel the drops"));
    c.w.type("Blade depth of the test", "0.35");
    QTest::mouseClick(c.w.find<QToolButton>("Drop 115"), Qt::LeftButton);
    c.w.settle();
    CHECK(c.isReady());
    const Tool& kiss = c.w.window().document().job().profile.cutter.tool(LineKind::kiss);
    CHECK(kiss.force == 115);
    CHECK(kiss.bladeDepth == 0.35);
    CHECK(c.instruction().contains("Its blade stands out by 0.35 mm"));
    c.next();
    CHECK(c.cutter.got().mid(test.size()).contains("FS115;"));
    CHECK(c.run().model().step().pass == 1);
}

TEST_CASE("one kind of line, of chosen stickers, is cut alone on a real machine") {
    Cutting c;
    c.w.window().document().change("Two", [](Job& job) { job.designs.front().count = 2; });
    c.w.settle();
    c.useCutter();
    c.w.choose("Lines of the run", "Kiss cut");
    REQUIRE(QTest::qWaitFor([&] { return !c.run().isBusy(); }, 20'000));
    CHECK(c.run().model().plan().passes.size() == 1);
    c.w.click("Cut without marks run");
    const std::size_t all = c.run().model().linesOfPass();
    c.run().choosePieces({1});
    CHECK(c.isReady()); // the sheet lies as it did
    CHECK(c.run().model().linesOfPass() * 2 == all);
    c.next();
    CHECK(cutLines(c.cutter.got().toStdString()).size() == all / 2);
    std::vector<PastRun> runs;
    c.w.window().queue().readHistory(&c.w.window(), [&](const std::vector<PastRun>& read) { runs = read; });
    REQUIRE(QTest::qWaitFor([&] { return !runs.empty(); }, 20'000));
    CHECK_FALSE(runs.front().isSimulated);
    CHECK(runs.front().lines == all / 2);
}

TEST_CASE("the window asks before it closes while a real cutter is sent to") {
    const FullMachine machine; // nobody reads there
    {
        Cutting c;
        c.w.window().document().change("Serial", [&](Job& job) {
            job.profile.cutter.connection = machine.connection();
            job.designs.front().count = 40;
        });
        c.w.settle();
        c.useCutter();
        c.w.click("Cut without marks run");
        c.w.click("Next run");
        REQUIRE(QTest::qWaitFor([&] { return machine.isFull(); }, 20'000));
        REQUIRE(c.isSending());
        const auto asked = c.w.answerNextQuestion(QString("Go on"));
        c.w.window().close();
        CHECK(asked->contains("still cutting"));
        CHECK(c.w.window().isVisible());
        c.w.click("Stop the cut run");
        REQUIRE(QTest::qWaitFor([&] { return !c.run().model().isCutting(); }, 20'000));
    }
}
