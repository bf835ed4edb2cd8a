#include "app/run/history_dialog.h"
#include "app/run/queue_list.h"
#include "support/operator.h"

#include <QListWidget>
#include <QTableWidget>
#include <catch2/catch.hpp>

#include <fstream>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Works with the queue.
class QueueOperator : public Operator {
public:
    using Operator::Operator;

    RunQueue& queue() { return window().queue(); }
    QueueList& list() { return *find<QueueList>("Queue of the run"); }
    QString told() { return find<QLabel>("Notice")->text(); }
    std::string id(std::size_t place) { return queue().entries().at(place).id; }
    std::vector<std::string> ids() {
        std::vector<std::string> all;
        for (const QueueEntry& entry : queue().entries())
            all.push_back(entry.id);
        return all;
    }
    /// What the list says of an entry.
    QString textOf(const std::string& id) {
        for (int i = 0; i < list().count(); ++i)
            if (list().rows().at(std::size_t(i)).id == id)
                return list().item(i)->text();
        return {};
    }
    void select(const std::string& id) {
        for (int i = 0; i < list().count(); ++i)
            if (list().rows().at(std::size_t(i)).id == id)
                list().setCurrentRow(i);
        settle();
    }
    void clickEntry(const std::string& id) {
        select(id);
        QTest::mouseClick(list().viewport(), Qt::LeftButton, {},
                          list().visualItemRect(list().currentItem()).center());
        idle();
    }
    void addThisJob() {
        click("Add this job queue");
        settle();
    }
    void readAll() {
        REQUIRE(QTest::qWaitFor([&] { return queue().reading() == 0; }, 60'000));
        settle();
    }
    std::vector<PastRun> history() {
        std::vector<PastRun> runs;
        bool isRead = false;
        queue().readHistory(&window(), [&](const std::vector<PastRun>& read) {
            runs = read;
            isRead = true;
        });
        REQUIRE(QTest::qWaitFor([&] { return isRead; }, 20'000));
        return runs;
    }
};

/// With a code at its leading edge.
void addCode(Job& job) {
    job.plan.medium.length = 170;
    job.profile.lead.code = CodeKind::dataMatrix;
}

} // namespace

TEST_CASE("sheets are added to the queue from Sheet, and are there after a restart") {
    const TemporaryFolder folder;
    std::string added;
    {
        QueueOperator w(folder.path("state"));
        w.layOut(folder, [](Job& job) { job.designs.front().count = 8; });
        w.window().goTo(MainWindow::sheet);
        w.click("Add to queue");
        w.settle();
        const std::size_t sheets = w.window().document().made()->layout.sheets.size();
        REQUIRE(sheets == 2);
        CHECK(w.prompt() == "2 sheets were added to the queue.");
        CHECK(w.queue().entries().size() == sheets);
        w.click("Prompt button");
        w.settle();
        CHECK(w.textOf(w.id(0)) == "square · 1 of 2: Kiss cut, Perforated die cut\nwaiting");
        w.window().document().change("Fewer", [](Job& job) { job.designs.front().count = 1; });
        w.settle();
        added = w.id(1);
        CHECK(w.queue().find(added)->sheets == 2); // as it was
    }
    QueueOperator next(folder.path("state"));
    next.window().goTo(MainWindow::run);
    next.settle();
    REQUIRE(next.queue().entries().size() == 2);
    next.clickEntry(added);
    REQUIRE(next.run().sheet());
    CHECK(next.run().sheetNumber() == 1);
    CHECK(next.run().made()->layout.sheets.size() == 2);
    CHECK_FALSE(next.run().isOfJob());
    next.run().setSpeed(400);
    next.toMarks();
    next.toWeed();
    CHECK(next.queue().find(added)->isDone());
    CHECK(next.queue().find(added)->largest.value() < 0.1);
    CHECK(next.find<QPushButton>("Next run")->text() == "Next in the queue");
    next.next();
    CHECK(next.run().entryId() == next.id(0));
    CHECK(next.textOf(added).endsWith("mm off at most"));
}

TEST_CASE("jobs and artwork dropped on Run go into the queue, what can't be used is said, the job stays") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder, [](Job& job) { job.plan.medium.width = 120; });
    const auto before = w.window().document().sharedJob();
    QFile bad(folder.path("bad.png"));
    REQUIRE(bad.open(QIODevice::WriteOnly));
    bad.write("no picture");
    bad.close();
    const QString job = folder.path("honey.hasami");
    bool isSaved = false;
    w.window().document().save(job, [&](bool saved) { isSaved = saved; });
    w.settle();
    REQUIRE(isSaved);
    w.drop({folder.path("square.svg"), job, bad.fileName()});
    w.readAll();
    CHECK(w.window().document().sharedJob() == before);
    CHECK(w.told().contains("bad.png"));
    REQUIRE(w.queue().entries().size() == 2);
    const bool isFirst = w.queue().entries()[0].job == "square";
    const QueueEntry artwork = w.queue().entries()[isFirst ? 0 : 1],
                     whole = w.queue().entries()[isFirst ? 1 : 0];
    CHECK(artwork.job == "square");
    CHECK(artwork.kinds == std::vector{LineKind::kiss});
    CHECK(artwork.size.y == 120); // the medium of the job that is open
    CHECK(whole.job == "honey");
    CHECK(whole.kinds.size() == 2);
    w.clickEntry(artwork.id);
    REQUIRE(w.run().sheet());
    CHECK(w.run().sheet()->pieces.size() == 1);
    w.toMarks();
    CHECK(w.trouble().isEmpty());
}

TEST_CASE("entries are moved, held, run again and removed") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    for (int i = 0; i < 3; ++i)
        w.addThisJob();
    const auto was = w.ids();
    REQUIRE(was.size() == 3);
    w.select(was[0]);
    CHECK_FALSE(w.find<QPushButton>("Up queue")->isEnabled());
    w.click("Down queue");
    CHECK(w.ids() == std::vector{was[1], was[0], was[2]});
    w.list().setFocus();
    QTest::keyClick(&w.list(), Qt::Key_Down, Qt::AltModifier);
    CHECK(w.ids() == std::vector{was[1], was[2], was[0]});
    QTest::keyClick(&w.list(), Qt::Key_Up, Qt::AltModifier);
    w.click("Up queue");
    CHECK(w.ids() == was);

    w.select(was[1]);
    w.click("Hold queue");
    CHECK(w.textOf(was[1]).endsWith("on hold"));
    CHECK(w.find<QPushButton>("Hold queue")->text() == "Release");
    w.clickEntry(was[0]);
    w.choose("Work of the run", "Print only");
    CHECK(w.run().model().plan().steps == std::vector{RunStep{RunTask::print}});
    w.next();
    CHECK(w.run().model().isDone());
    CHECK(w.instruction() == "Printed.");
    w.next(); // the held one is passed over
    CHECK(w.run().entryId() == was[2]);
    w.select(was[0]);
    CHECK(w.textOf(was[0]).endsWith("printed"));
    w.addThisJob();
    const std::string fresh = w.ids().back();
    w.queue().change(fresh, [](QueueEntry& entry) { entry.done = 1; });
    w.select(was[0]);
    w.click("Hold queue"); // it says Again
    CHECK_FALSE(w.queue().find(was[0])->isDone());
    w.pick("Queue menu", "Remove all that are done");
    CHECK(w.ids() == was);

    w.select(was[1]);
    w.click("Remove queue"); // nothing of it is printed: no question
    CHECK(w.ids() == std::vector{was[0], was[2]});
    w.next(); // prints the third
    const auto asked = w.answerNextQuestion("Keep it");
    w.select(was[2]);
    w.click("Remove queue");
    CHECK(*asked == "This sheet is printed. Remove it from the queue?");
    CHECK(w.ids().size() == 2);
    w.answerNextQuestion("Remove");
    QTest::keyClick(&w.list(), Qt::Key_Delete);
    CHECK(w.ids() == std::vector{was[0]});
    CHECK(w.run().entryId().empty()); // the sheet of the job is run in its place
    CHECK(w.window().document().job().designs.size() == 1);
}

TEST_CASE("copies are printed at once and cut one by one, each with a drift of its own, and are all in the "
          "history") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.type("Copies of the run", "3");
    std::set<double> shifts;
    w.next(); // all three are printed
    for (int copy = 0; copy < 3; ++copy) {
        INFO("copy " << copy);
        CHECK(w.run().model().task() == RunTask::load);
        CHECK(w.run().copy() == copy);
        w.next();
        w.next();
        shifts.insert(w.run().model().registration().shift.x);
        w.toWeed();
        CHECK(w.run().model().errors().largest < 0.1);
        CHECK(w.find<QPushButton>("Next run")->text() == (copy < 2 ? "Next copy" : "Run it again"));
        if (copy < 2)
            w.next();
    }
    CHECK(shifts.size() == 3);
    const auto runs = w.history();
    REQUIRE(runs.size() == 3);
    CHECK(runs[0].copy == 2);
    CHECK(runs[2].copy == 0);
    CHECK(runs[0].copies == 3);
    CHECK(runs[0].lines == 4);
    CHECK(runs[0].largest.value() == Approx(w.run().model().errors().largest));
    CHECK(runs[0].trouble.empty());
    w.next();
    CHECK(w.run().model().task() == RunTask::print);
    CHECK(w.queue().entries().empty()); // a sheet of the job does not stay there

    HistoryDialog dialog(w.queue(), &w.window());
    auto* table = dialog.findChild<QTableWidget*>("History of the runs");
    REQUIRE(QTest::qWaitFor([&] { return table->rowCount() == 3; }, 20'000));
    CHECK(table->item(0, 1)->text() == "square · sheet 1 · copy 3 of 3");
    CHECK(table->item(0, 2)->text() == "Print and cut");
    CHECK(table->item(0, 6)->text().endsWith(" mm"));
    w.answerNextQuestion(QMessageBox::Yes);
    dialog.findChild<QPushButton*>("Clear history")->click();
    REQUIRE(QTest::qWaitFor([&] { return table->rowCount() == 0; }, 20'000));
    CHECK(w.history().empty());
}

TEST_CASE("a sheet is printed now and cut later, and found again by its code") {
    const TemporaryFolder folder;
    std::string first, second;
    {
        QueueOperator w(folder.path("state"));
        w.layOut(folder, [](Job& job) {
            addCode(job);
            job.designs.front().count = 8;
        });
        w.addThisJob();
        REQUIRE(w.queue().entries().size() == 2);
        first = w.id(0);
        second = w.id(1);
        for (const std::string& id : {first, second}) {
            w.clickEntry(id);
            w.choose("Work of the run", "Print now, cut later");
            w.next();
            CHECK(w.instruction() == "Printed: it waits in the queue to be cut.");
        }
        CHECK(w.find<QPushButton>("Cut it now run")->isVisible());
        CHECK(w.textOf(first).endsWith("printed, to be cut"));
    }
    QueueOperator w(folder.path("state"));
    w.window().goTo(MainWindow::run);
    w.settle();
    w.run().setSpeed(400);
    auto* code = w.find<QLineEdit>("Code of a sheet of the run");
    const auto scan = [&](const QString& text) {
        code->setFocus();
        QTest::keyClicks(code, text);
        QTest::keyClick(code, Qt::Key_Return);
        w.idle();
    };
    scan("square/9");
    CHECK(w.told().contains("No sheet in the queue has the code square/9"));
    scan("square/2");
    CHECK(w.run().entryId() == second);
    CHECK(w.run().model().task() == RunTask::load);

    // Another print that is cancelled while it is read leaves the right one in the machine.
    w.run().putIn(first);
    CHECK_FALSE(w.find<QPushButton>("Next run")->isEnabled());
    w.run().next();
    w.click("Cancel run");
    CHECK(w.run().entryId() == second);
    CHECK(w.run().inMachine().empty());
    CHECK(w.run().model().task() == RunTask::load);
    CHECK_FALSE(w.run().isBusy());

    // The other sheet is put in by mistake: its code says so, and which one it is.
    w.choose("Sheet put in of the run", "square, sheet 1");
    w.idle();
    w.next();
    w.next();
    CHECK(w.run().model().registration().fault == RunFault::wrongSheet);
    CHECK(w.trouble().contains("its code is that of square, sheet 1, in the queue"));
    w.click("Cut that sheet instead run");
    w.idle();
    CHECK(w.run().entryId() == first);
    CHECK(w.run().model().task() == RunTask::load);
    w.next();
    w.next();
    CHECK(w.trouble().isEmpty());
    w.toWeed();
    CHECK(w.run().model().errors().largest < 0.1);
    CHECK(w.history().size() == 2); // one that was refused, and one that was cut
    CHECK_FALSE(w.history()[1].trouble.empty());
}

TEST_CASE("a sheet that was printed elsewhere is only cut") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.choose("Work of the run", "Cut only");
    CHECK(w.run().model().plan().steps.front().task == RunTask::load);
    CHECK(w.run().model().task() == RunTask::load);
    w.next();
    w.next();
    CHECK(w.run().model().registration().found() == 4);
    CHECK_FALSE(w.find<QPushButton>("Print again run")->isVisible());
    w.toWeed();
    CHECK(w.run().model().errors().largest < 0.1);
    CHECK(w.history().front().work == RunWork::cutOnly);
}

TEST_CASE("printing and reading marks are given up by Cancel") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.click("Next run");
    REQUIRE(w.run().isBusy());
    w.click("Cancel run");
    CHECK_FALSE(w.run().isBusy());
    CHECK(w.run().model().task() == RunTask::print);
    w.next();
    CHECK(w.run().model().task() == RunTask::load);
    w.next();
    w.click("Next run");
    w.click("Cancel run");
    CHECK(w.run().model().task() == RunTask::findMarks);
    CHECK(w.run().model().registration().marks.empty());
    w.next();
    CHECK(w.run().model().registration().found() == 4);
}

TEST_CASE("two windows share the queue, and no sheet is run by both") {
    const TemporaryFolder folder;
    QueueOperator one(folder.path("state"));
    one.layOut(folder);
    one.addThisJob();
    const std::string id = one.id(0);
    QueueOperator two(folder.path("state"));
    two.window().goTo(MainWindow::run);
    two.settle();
    REQUIRE(two.queue().entries().size() == 1);
    one.addThisJob();
    REQUIRE(QTest::qWaitFor([&] { return two.queue().entries().size() == 2; }, 20'000));
    CHECK(two.ids() == one.ids());
    two.queue().change(id, [](QueueEntry& entry) { entry.copies = 4; });
    REQUIRE(QTest::qWaitFor([&] { return one.queue().find(id)->copies == 4; }, 20'000));

    one.clickEntry(id);
    two.clickEntry(id);
    CHECK(two.told().contains("This sheet is being run in another window of Hasami"));
    CHECK(two.run().entryId().empty());
    two.queue().remove(id);
    CHECK(two.queue().find(id));
    // A cut that is under way in one is none that was interrupted in the other.
    one.run().setSpeed(1);
    one.toMarks();
    one.click("Next run");
    REQUIRE(QTest::qWaitFor([&] { return two.queue().find(id)->isBegun; }, 20'000));
    CHECK_FALSE(two.queue().interrupted());
    CHECK(two.textOf(id).contains("in another window"));
    one.click("Stop the cut run");
    one.run().choose(0);
    two.clickEntry(id);
    CHECK(two.run().entryId() == id);
}

TEST_CASE("a cut that is under way is not stopped by a click on another sheet") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.addThisJob();
    w.toMarks();
    w.run().setSpeed(1);
    w.click("Next run");
    REQUIRE(w.run().model().isCutting());
    w.select(w.id(1));
    QTest::mouseClick(w.list().viewport(), Qt::LeftButton, {},
                      w.list().visualItemRect(w.list().currentItem()).center());
    CHECK(w.run().model().isCutting());
    CHECK(w.told().contains("The cutter is at work"));
}

TEST_CASE("entries are moved by dragging, and loaded by the Enter key") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    for (int i = 0; i < 3; ++i)
        w.addThisJob();
    const auto was = w.ids();
    const auto middleOf = [&](const std::string& id) {
        for (int i = 0; i < w.list().count(); ++i)
            if (w.list().rows().at(std::size_t(i)).id == id)
                return w.list().visualItemRect(w.list().item(i)).center();
        return QPoint();
    };
    const auto dragTo = [&](const std::string& id, QPoint at) {
        w.select(id);
        w.list().dropAt(at);
        w.settle();
    };
    dragTo(was[0], middleOf(was[2]) + QPoint(0, 12)); // behind the last one
    CHECK(w.ids() == std::vector{was[1], was[2], was[0]});
    dragTo(was[0], middleOf(was[1]) - QPoint(0, 12)); // before the first one
    CHECK(w.ids() == was);
    dragTo(was[1], {20, w.list().viewport()->height() - 2}); // below all
    CHECK(w.ids() == std::vector{was[0], was[2], was[1]});
    w.select(was[1]);
    QTest::keyClick(&w.list(), Qt::Key_Return);
    w.idle();
    CHECK(w.run().entryId() == was[1]);
}

TEST_CASE("a run that was refused, and one that was found wrong after the cut, are in the history as such") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.choose("Training of the run", "Two marks smudged");
    w.toMarks();
    REQUIRE_FALSE(w.trouble().isEmpty());
    w.addThisJob();
    w.clickEntry(w.ids().back()); // it is given up
    auto runs = w.history();
    REQUIRE(runs.size() == 1);
    CHECK(runs[0].trouble.find("2 of 4 marks were found") == 0);
    CHECK_FALSE(runs[0].largest);
    w.choose("Training of the run", "Sheet slips half-way");
    w.toMarks();
    w.toWeed();
    runs = w.history();
    REQUIRE(runs.size() == 2);
    CHECK(runs[0].trouble.find("moved by 1.7 mm") != std::string::npos);
    CHECK(runs[0].largest.value() > 1);
    HistoryDialog dialog(w.queue(), &w.window());
    auto* table = dialog.findChild<QTableWidget*>("History of the runs");
    REQUIRE(QTest::qWaitFor([&] { return table->rowCount() == 2; }, 20'000));
    table->selectRow(0);
    CHECK(dialog.findChild<QLabel*>("History detail")->text().contains("moved by 1.7 mm"));
}

TEST_CASE("where the queue can't be saved it is said, and sheets are run all the same") {
    const TemporaryFolder folder;
    QFile taken(folder.path("state"));
    REQUIRE(taken.open(QIODevice::WriteOnly)); // a file where the folder would be
    taken.close();
    QueueOperator w(folder.path("state"));
    w.layOut(folder);
    w.toMarks();
    w.toWeed();
    CHECK(w.run().model().errors().largest < 0.1);
    REQUIRE(QTest::qWaitFor([&] { return w.told().contains("can't be saved"); }, 20'000));
}

TEST_CASE("an entry whose job is damaged is said to be, and the sheet of the job is there again") {
    const TemporaryFolder folder;
    std::string id;
    {
        QueueOperator w(folder.path("state"));
        w.layOut(folder);
        w.addThisJob();
        id = w.id(0);
    }
    const std::filesystem::path jobs = folder.path("state/hasami/queue/jobs").toStdString();
    REQUIRE(std::filesystem::remove(jobs / id / "job.json"));
    QueueOperator w(folder.path("state"));
    w.layOut(folder);
    w.clickEntry(id);
    REQUIRE(QTest::qWaitFor([&] { return !w.run().isBusy(); }, 20'000));
    CHECK(w.told().contains("job.json"));
    CHECK(w.run().isOfJob());
    REQUIRE(w.run().sheet());
    w.toMarks();
    CHECK(w.trouble().isEmpty());
}

TEST_CASE("artwork dropped on another place goes into the job, as ever") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    w.window().goTo(MainWindow::sheet);
    w.drop({folder.path("square.svg")});
    CHECK(w.window().document().job().designs.size() == 2);
    CHECK(w.queue().entries().empty());
}

TEST_CASE(
    "the files of an entry are saved for a memory stick, of its sheet alone, and none is replaced unasked") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder, [](Job& job) { job.designs.front().count = 8; });
    w.addThisJob();
    const std::string id = w.id(1);
    w.window().document().change("Other outputs", [](Job& job) { job.outputs.outputs.pop_back(); });
    w.settle();
    REQUIRE(QDir(folder.path("")).mkdir("stick"));
    const QDir stick(folder.path("stick"));
    const auto save = [&] {
        w.select(id);
        w.saveInNextDialogAs(stick.path());
        w.pick("Queue menu", "Save its files…");
    };
    save();
    REQUIRE(QTest::qWaitFor([&] { return w.prompt().startsWith("2 files were saved in"); }, 20'000));
    CHECK(stick.entryList(QDir::Files) == QStringList{"square-2-cut.svg", "square-2-print.pdf"});
    QFile print(stick.filePath("square-2-print.pdf"));
    REQUIRE(print.resize(0));
    w.answerNextQuestion(QMessageBox::Cancel);
    save();
    REQUIRE(QTest::qWaitFor([&] { return w.prompt() == "No file was saved."; }, 20'000));
    CHECK(print.size() == 0);
}

TEST_CASE("where it can't be read how far a cut came, that is said: it does not start over in silence") {
    const TemporaryFolder folder;
    std::string id;
    {
        QueueOperator w(folder.path("state"));
        w.layOut(folder);
        w.addThisJob();
        id = w.id(0);
        w.window().queue().change(id, [](QueueEntry& entry) { entry.isBegun = entry.isPrinted = true; });
        w.window().queue().keepRun(id, {});
    }
    std::ofstream(folder / "state/hasami/queue/runs" / (id + ".json")) << "{ half";
    QueueOperator w(folder.path("state"));
    w.layOut(folder);
    w.clickEntry(id);
    REQUIRE(QTest::qWaitFor([&] { return !w.run().isBusy(); }, 20'000));
    CHECK(w.trouble().contains("How far this cut came can't be read"));
}

TEST_CASE("sheets that are added while the job is being made are those of its newest state") {
    const TemporaryFolder folder;
    QueueOperator w;
    w.layOut(folder);
    Document& document = w.window().document();
    document.change("Many", [](Job& job) {
        job.designs.front().count = 400;
        job.plan.medium.length = 200;
    });
    w.window().queue().addSheets(); // before that is made
    document.change("Few", [](Job& job) { job.designs.front().count = 3; });
    w.settle();
    REQUIRE(QTest::qWaitFor([&] { return !w.queue().entries().empty(); }, 20'000));
    CHECK(w.queue().entries().size() == document.made()->layout.sheets.size());
    for (const QueueEntry& entry : w.queue().entries())
        CHECK(entry.sheets == document.made()->layout.sheets.size());
}
