#include "app/run/mark_lens.h"
#include "support/operator.h"

#include <QListWidget>
#include <QToolButton>
#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

TEST_CASE("a sheet is printed, loaded, read, cut with two tools and weeded") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    CHECK(w.find<QListWidget>("Queue of the run")->item(1)->text().contains("Perforated die cut"));
    CHECK(w.run().model().plan().steps.size() == 7);
    w.next();
    CHECK(w.run().model().task() == RunTask::load);
    w.next();
    CHECK(w.run().model().task() == RunTask::findMarks);
    w.next();
    CHECK(w.instruction().contains("4 of 4 marks found"));
    CHECK(w.facts().contains("Mark 4: off by 0.0"));
    w.next();
    CHECK(w.run().model().task() == RunTask::changeTool);
    CHECK(w.instruction().contains("into holder 2"));
    CHECK(w.run().model().record().size() == 2);
    w.next();
    CHECK(w.run().model().task() == RunTask::weed);
    CHECK(w.trouble().isEmpty());
    CHECK(w.run().model().errors().lines.size() == 4);
    CHECK(w.run().model().errors().largest < 0.1);
    CHECK(w.facts().contains("Off the print: 0.0"));
    // What is weeded are the stickers' colour on the backing, and no marks.
    const QImage seen = w.window().runPlace().view().grab().toImage();
    int sticker = 0, dark = 0;
    for (int y = 30; y < seen.height(); ++y)
        for (int x = 30; x < seen.width(); ++x) {
            const QColor c = seen.pixelColor(x, y);
            sticker += std::abs(c.red() - 0xCC) < 14 && std::abs(c.green() - 0x88) < 14 && c.blue() < 0x80;
            dark += c.lightness() < 40;
        }
    CHECK(sticker > 1000);
    CHECK(dark < 200);
    w.click("Next run");
    CHECK(w.run().model().task() == RunTask::print);
}

TEST_CASE("a sheet with kiss, crease and die lines on three holders is cut, with a change before each") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder, [](Job& job) {
        LineRecipe crease;
        crease.kind = LineKind::crease;
        crease.offset = 2;
        job.designs.front().recipe.lines.push_back(crease);
        job.profile.cutter.tools[std::size_t(LineKind::crease)].holder = 3;
    });
    w.toMarks();
    QStringList asked;
    for (int i = 0; i < 6 && !w.run().model().isDone(); ++i) {
        w.next();
        if (w.run().model().task() == RunTask::changeTool)
            asked << w.instruction();
    }
    REQUIRE(w.run().model().isDone());
    REQUIRE(asked.size() == 2);
    CHECK(asked[0].contains("Tool 2 of 3: put the one for Crease into holder 3"));
    CHECK(asked[1].contains("Tool 3 of 3: put the one for Perforated die cut into holder 2"));
    CHECK(w.run().model().errors().lines.size() == 6);
    CHECK(w.run().model().errors().largest < 0.1);
}

TEST_CASE("each fault that is tried is noticed, by the machine or by the check after it") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    struct Tried {
        TrainingFault fault;
        const char* says;
        bool isSeenInMarks;
    };
    for (const Tried& tried : {Tried{TrainingFault::wrongWayRound, "the wrong way round", true},
                               Tried{TrainingFault::scaledPrint, "percent of its size", true},
                               Tried{TrainingFault::smudgedMark, "2 of 4 marks", true},
                               Tried{TrainingFault::shortMedium, "ends before the last marks", true},
                               Tried{TrainingFault::otherSheet, "marks", true},
                               Tried{TrainingFault::slippingSheet, "moved by 1.7 mm", false},
                               Tried{TrainingFault::littleForce, "raise the force", false},
                               Tried{TrainingFault::muchForce, "lower the force", false},
                               Tried{TrainingFault::wrongTool, "the right tool", false}}) {
        INFO(englishNameOf(tried.fault));
        w.choose("Training of the run", englishNameOf(tried.fault));
        w.toMarks();
        if (!tried.isSeenInMarks) {
            CHECK(w.trouble().isEmpty());
            w.toWeed();
        }
        CAPTURE(w.trouble().toStdString());
        CHECK(w.trouble().contains(tried.says));
    }
    // A corner that is torn off leaves three marks, which are enough.
    w.choose("Training of the run", "Corner torn off");
    w.toMarks();
    CHECK(w.trouble().isEmpty());
    CHECK(w.facts().contains("Mark 1: not found"));
    w.toWeed();
    CHECK(w.run().model().errors().largest < 0.2);
    // What slipped was cut beside the print from then on.
    w.choose("Training of the run", "Sheet slips half-way");
    w.toMarks();
    w.toWeed();
    CHECK(w.run().model().errors().largest == Approx(length(slip)).margin(0.1));
    CHECK(w.run().model().errors().rms < w.run().model().errors().largest);
}

TEST_CASE("a sheet of another job is known by its code") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder, [](Job& job) {
        job.plan.medium.length = 170;
        job.profile.lead.code = CodeKind::dataMatrix;
    });
    w.toMarks();
    CHECK(w.trouble().isEmpty());
    w.choose("Training of the run", "Sheet of another job");
    w.toMarks();
    CHECK(w.trouble().contains("This is another sheet"));
}

TEST_CASE("a wrong sheet is put right: loaded again, printed again, or its marks placed by hand") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    w.choose("Training of the run", "Wrong way round");
    w.toMarks();
    CHECK(w.trouble().contains("the wrong way round"));
    w.click("Load again run");
    w.idle();
    CHECK(w.run().model().task() == RunTask::load);
    w.next();
    w.next();
    CHECK(w.trouble().isEmpty());

    w.choose("Training of the run", "Two marks smudged");
    w.toMarks();
    REQUIRE(w.run().model().registration().fault == RunFault::tooFewMarks);
    for (int mark = 0; mark < 2; ++mark) {
        w.click("Place a mark by hand run");
        auto* lens = w.find<MarkLens>("Mark lens");
        // The operator sees the mark's rim through the smudge; here, where it was printed is known.
        const int id = w.find<QPushButton>("Next run")->text().contains("3") ? 3 : 4;
        const Point before = lens->place();
        QTest::keyClick(lens, Qt::Key_Right, Qt::ShiftModifier);
        QTest::keyClick(lens, Qt::Key_Down);
        CHECK(distance(lens->place(), before + Point{1, 0.1}) < 1e-9);
        QTest::keyClick(lens, Qt::Key_Left, Qt::ShiftModifier);
        QTest::keyClick(lens, Qt::Key_Up);
        QTest::keyClick(lens, Qt::Key_Return);
        w.settle();
        CHECK(w.run().model().registration().marks.at(std::size_t(id) - 1).isByHand);
        if (w.trouble().isEmpty())
            break; // three are enough
    }
    CHECK(w.trouble().isEmpty());
    CHECK(w.facts().contains("placed by hand"));
    w.toWeed();
    CHECK(w.run().model().errors().largest < 0.5);
}

TEST_CASE("a pass is paused, stopped, and continued; some stickers are cut again") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    w.toMarks();
    w.run().setSpeed(1);
    w.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return w.cutLength() > 5; }, 20'000));
    w.click("Next run");
    CHECK(w.run().model().activity() == RunActivity::paused);
    const double paused = w.cutLength();
    w.settle();
    CHECK(w.cutLength() == paused);
    CHECK(w.find<QPushButton>("Next run")->text() == "Go on cutting");
    w.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return w.cutLength() > paused + 1; }, 20'000));
    w.click("Stop the cut run");
    CHECK_FALSE(w.run().model().isCutting());
    w.run().setSpeed(400);
    w.toWeed();
    const double whole = w.cutLength();
    CHECK(w.run().model().record().size() == 4);
    w.run().choosePieces({1});
    w.click("Cut again run");
    w.idle();
    CHECK(w.run().model().task() != RunTask::weed);
    w.toWeed();
    CHECK(w.cutLength() == Approx(whole));
}

TEST_CASE(
    "what is cut is seen while the head moves, when it pauses, and at another scale; until it is cut again") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    RunView& view = w.window().runPlace().view();
    const auto green = [&] { // pixels of kiss lines
        const QImage seen = WindowDriver::pictureOf(view);
        int count = 0;
        for (int y = 30; y < seen.height(); ++y)
            for (int x = 30; x < seen.width(); ++x) {
                const QColor c = seen.pixelColor(x, y);
                count += std::abs(c.red() - 0x2E) < 20 && std::abs(c.green() - 0x8B) < 20 &&
                         std::abs(c.blue() - 0x57) < 20;
            }
        return count;
    };
    w.toMarks();
    const int none = green();
    w.run().setSpeed(1);
    w.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return w.run().model().record().size() == 2; },
                            20'000)); // one whole, one begun
    REQUIRE(w.run().model().isCutting());
    const int moving = green() - none;
    CHECK(moving > 300);
    w.click("Next run"); // pause
    const int paused = green() - none;
    CHECK(paused >= moving);
    w.queueChangesElsewhere(); // nothing of it is lost when the queue changes
    CHECK(green() - none == Approx(paused).margin(paused * 0.02));
    view.zoomBy(1.3);
    CHECK(green() - none > paused);
    view.fit();
    CHECK(green() - none == Approx(paused).margin(paused * 0.1));
    w.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return w.cutLength() > 120; }, 20'000));
    CHECK(green() - none > paused);
    w.run().setSpeed(400);
    w.toWeed();
    CHECK(green() < moving); // the stickers alone
    w.run().setSpeed(0.02);
    w.click("Cut again run");
    CHECK(green() - none < moving);
    w.click("Stop the cut run");
}

TEST_CASE("a stop and a power failure of a cutter with a memory are practised: lines are lost, and noticed") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder, [](Job& job) {
        job.designs.front().count = 20;
        job.plan.medium = {400, {}};
    });
    for (const TrainingFault fault : {TrainingFault::forgetfulStop, TrainingFault::powerFailure})
        for (const bool looks : {false, true}) {
            INFO(englishNameOf(fault) << looks);
            w.choose("Training of the run", englishNameOf(fault));
            w.toMarks();
            w.run().setSpeed(16);
            w.click("Next run");
            const CutRecord& knife = *w.run().machine().knife();
            const bool fails = fault == TrainingFault::powerFailure;
            REQUIRE(QTest::qWaitFor([&] { return fails ? !w.run().model().isCutting() : knife.size() > 6; },
                                    20'000));
            if (!fails)
                w.click("Stop the cut run");
            w.run().setSpeed(400);
            CHECK(w.run().model().record().size() > knife.size());
            CHECK(w.trouble().contains("The power failed") == fails);
            if (fails) {
                CHECK(w.run().model().task() == RunTask::load);
                w.next();
                w.next();
                w.next(); // the marks are read again; before it cuts the line is asked for
            }
            REQUIRE(w.run().model().task() == RunTask::cut);
            CHECK(w.instruction().contains("Check which line the machine cut last"));
            std::size_t whole = 0;
            const CutLines& lines = *w.run().model().cutLines();
            for (const auto& [key, along] : knife)
                whole += along >= lines[lines.find(key).value()].length - 1e-6;
            if (looks)
                w.type("Continue with line of the run", QString::number(whole + 1));
            w.toWeed();
            CHECK(w.trouble().contains("lost with the machine's memory") == !looks);
        }
}

TEST_CASE("a run that ended with the program is continued by the next one") {
    const TemporaryFolder folder;
    double cut = 0, whole = 0;
    {
        Operator w(folder.path("state"));
        w.layOut(folder);
        w.toMarks();
        w.run().setSpeed(2);
        w.click("Next run");
        REQUIRE(QTest::qWaitFor([&] { return w.run().model().record().size() == 2; }, 20'000));
        const QueueFolder kept(folder.path("state/hasami/queue").toStdString());
        REQUIRE(QTest::qWaitFor(
            [&] {
                return QFile::exists(folder.path("state/hasami/queue/runs/") +
                                     QString::fromStdString(w.run().entryId()) + ".json") &&
                       kept.run(w.run().entryId()).record.size() == 2;
            },
            20'000));
        cut = w.cutLength();
        whole = 0;
        for (const CutStep& step : w.run().model().program())
            if (const Cut* one = std::get_if<Cut>(&step))
                for (std::size_t i = 1; i < one->path.size(); ++i)
                    whole += distance(one->path[i - 1], one->path[i]);
    }
    Operator next(folder.path("state"));
    next.window().goTo(MainWindow::run);
    next.settle();
    REQUIRE(next.window().queue().interrupted());
    next.click("Prompt button");
    next.idle();
    REQUIRE(next.run().sheet());
    CHECK(next.cutLength() >= cut - 30);
    CHECK(next.cutLength() < whole);
    CHECK(next.run().model().registration().found() == 4);
    next.run().setSpeed(400);
    next.toWeed();
    CHECK(next.cutLength() == Approx(whole));
    CHECK(next.run().model().errors().largest < 0.1);
    CHECK_FALSE(next.window().queue().interrupted());
}

TEST_CASE("one kind of line is cut alone, the other one later") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    w.toMarks();
    w.choose("Lines of the run", "Kiss cut");
    w.toWeed();
    CHECK(w.run().model().record().size() == 2);
    for (const auto& [key, along] : w.run().model().record())
        CHECK(key.kind == LineKind::kiss);
    CHECK(w.run().model().errors().lines.size() == 2);
    w.choose("Lines of the run", "Perforated die cut"); // which is not cut yet
    CHECK_FALSE(w.run().model().isDone());
    w.toWeed();
    CHECK_FALSE(w.run().model().kept()); // it was one copy
    std::set<LineKind> kinds;
    for (const auto& [key, along] : w.run().model().record())
        kinds.insert(key.kind);
    CHECK(kinds == std::set{LineKind::kiss, LineKind::perforated});
    CHECK(w.run().model().errors().lines.size() == 4);
}

TEST_CASE("a job that changes after its sheet was printed is reported, and printed again") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    w.toMarks();
    const auto prompt = [&] { return w.window().runPlace().findChild<QLabel*>("Prompt")->text(); };
    CHECK(prompt().startsWith("Rehearse the sheet"));
    w.window().document().change("Price", [](Job& job) { job.profile.cutter.toolChange = 20; });
    w.settle();
    CHECK(prompt().startsWith("Rehearse the sheet")); // the sheet is the same
    w.window().document().change("Fewer", [](Job& job) { job.designs.front().count = 1; });
    w.settle();
    CHECK(prompt().contains("has changed since this sheet was printed"));
    CHECK(w.run().sheet()->pieces.size() == 2);
    w.window().runPlace().findChild<QPushButton*>("Prompt button")->click();
    w.settle();
    CHECK(w.run().model().task() == RunTask::print);
    CHECK(w.run().sheet()->pieces.size() == 1);
    CHECK(prompt().startsWith("Rehearse the sheet"));
}

TEST_CASE("a test cut sets the kiss cut's force, which is one undo step") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder, [](Job& job) { job.plan.medium.length = 180; });
    w.choose("Training of the run", "Too little force");
    w.toMarks();
    w.click("Test cut first run");
    REQUIRE(w.run().model().testCut());
    REQUIRE(w.run().model().testCut()->drops.size() == 5);
    CHECK(w.instruction().contains("Peel the drops"));
    // It lies off the work, and only the most force is enough.
    CHECK_FALSE(testCutBox(w.run().model().testCut()->drops[2].centre).meets(w.run().sheet()->work));
    for (const TestDrop& drop : w.run().model().testCut()->drops)
        CHECK((w.run().machine().depthOf(drop.force) == CutDepth::right) == (drop.force == 130));
    QTest::mouseClick(w.find<QToolButton>("Drop 130"), Qt::LeftButton);
    w.settle();
    CHECK_FALSE(w.run().model().testCut());
    const auto kissForce = [&] {
        return w.window().document().job().profile.cutter.tool(LineKind::kiss).force;
    };
    CHECK(kissForce() == 130);
    CHECK(w.window().document().undoLabel() == "Set the kiss cut's force to 130 g");
    w.toWeed();
    CHECK(w.trouble().isEmpty());
    w.window().document().undo();
    CHECK_FALSE(kissForce());
}

TEST_CASE("from the nest to the weeded sheet, loaded wrongly once: the walk W7, in 10 operations") {
    WindowDriver w;
    w.drop({HASAMI_SOURCE_DIR "/data/demo/comb-ring.png"});
    w.window().document().change("Kiss and perforated lines", [](Job& job) {
        Design& design = job.designs.front();
        design.artwork = scaledToWidth(design.artwork, 60);
        design.count = 2;
        LineRecipe die;
        die.kind = LineKind::perforated;
        die.offset = 3;
        design.recipe.lines.push_back(die);
        job.plan.medium.width = 200;
    });
    w.settle();
    w.countOperations();
    w.click("Run place"); // 1
    RunControl& run = w.window().runPlace().run();
    run.setSpeed(400);
    const auto next = [&](const char* button) {
        w.click(button);
        REQUIRE(QTest::qWaitFor([&] { return !run.isBusy() && !run.model().isCutting(); }, 60'000));
        w.settle();
    };
    w.choose("Training of the run", "Wrong way round"); // 2: a mistake that is made on purpose
    next("Next run");                                   // 3: print
    next("Next run");                                   // 4: it is in
    next("Next run");                                   // 5: find the marks
    CHECK(w.find<QLabel>("Run trouble")->text().contains("the wrong way round"));
    next("Load again run"); // 6
    next("Next run");       // 7: it is in
    next("Next run");       // 8: find the marks
    CHECK(run.model().registration().found() == 4);
    next("Next run"); // 9: the kiss pass
    CHECK(run.model().task() == RunTask::changeTool);
    next("Next run"); // 10: the tool is in, the die pass
    CHECK(w.operations() <= 10);
    REQUIRE(run.model().task() == RunTask::weed);
    CHECK(run.trouble().isEmpty());
    CHECK(run.model().errors().lines.size() >= 4);
    CHECK(run.model().errors().largest < 0.2);
}

TEST_CASE("decals with a test cut: the walk W16, in 14 operations") {
    WindowDriver w;
    w.countOperations();
    w.drop({HASAMI_SOURCE_DIR "/data/demo/smoke-can.jpg"}); // 1
    w.click("Artwork frame");                               // 2
    w.type("Width field", "85");                            // 3
    w.click("Prompt button");                               // 4
    w.type("Medium width field", "610");                    // 5
    w.type("Copies field", "12");                           // 6: two rows
    w.click("Arrow");                                       // 7
    const Document& document = w.window().document();
    std::set<long> rows;
    for (const Piece& piece : document.made()->layout.sheets.front().pieces)
        rows.insert(std::lround(piece.place.e));
    CHECK(rows.size() == 2);
    w.click("Run place"); // 8
    RunControl& run = w.window().runPlace().run();
    run.setSpeed(400);
    const auto next = [&] {
        w.click("Next run");
        REQUIRE(QTest::qWaitFor([&] { return !run.isBusy() && !run.model().isCutting(); }, 60'000));
        w.settle();
    };
    next();                        // 9: print
    next();                        // 10: it is in
    next();                        // 11: find the marks
    w.click("Test cut first run"); // 12
    REQUIRE(run.model().testCut());
    const Sheet& sheet = *run.sheet();
    const Box room = testCutBox(run.model().testCut()->drops[2].centre);
    for (const Mark& mark : sheet.marks)
        CHECK_FALSE(room.meets(bounds(flatten(mark.quiet, 0.01))));
    for (const Piece& piece : sheet.pieces)
        CHECK_FALSE(
            room.meets(boundsOfMapped(document.made()->find(piece.design)->sticker->footprint, piece.place)));
    REQUIRE(std::ranges::any_of(sheet.lead,
                                [](const LeadMark& mark) { return mark.kind == LeadMark::Kind::arrow; }));
    for (const LeadMark& mark : sheet.lead) // the wedge is in front of the work
        CHECK(mark.box.most.x <= sheet.work.least.x);
    QTest::mouseClick(w.find<QToolButton>("Drop 100"), Qt::LeftButton); // 13
    w.settle();
    next();                          // 14: cut
    CHECK(w.operations() + 1 <= 14); // the drop is clicked beside the count
    REQUIRE(run.model().task() == RunTask::weed);
    CHECK(run.model().errors().largest < 0.2);
}

TEST_CASE("the focus stays with the run's next thing, and a key meant for Pause begins no other run") {
    const TemporaryFolder folder;
    Operator w;
    w.layOut(folder);
    auto* next = w.find<QPushButton>("Next run");
    next->setFocus();
    const auto press = [&] {
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space);
        CHECK(w.find<QWidget>("Steps of the run")->isAncestorOf(QApplication::focusWidget()));
    };
    for (int i = 0; i < 8 && !w.run().model().isDone(); ++i) {
        INFO(w.instruction().toStdString());
        REQUIRE(next->hasFocus());
        const RunTask task = w.run().model().task();
        press();
        if (task == RunTask::print || task == RunTask::findMarks)
            QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space); // too soon: nothing happens
        w.idle();
    }
    REQUIRE(w.run().model().isDone());
    CHECK(QApplication::focusWidget() == w.find<QWidget>("Steps of the run"));
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space);
    w.settle();
    CHECK(w.run().model().isDone());
}
