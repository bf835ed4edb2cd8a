#include "base/error.h"
#include "queue/queue_folder.h"
#include "queue/run_history.h"
#include "support/square_work.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <array>
#include <chrono>
#include <csignal>
#include <fstream>
#include <iterator>
#include <random>
#include <set>
#include <sys/wait.h>
#include <unistd.h>

using namespace hasami;
using namespace hasami::test;

namespace {

QueueEntry entryWith(const std::string& id, double order) {
    QueueEntry entry;
    entry.id = id;
    entry.keptJob = "job-" + id;
    entry.job = "quillmoor-honey";
    entry.order = order;
    return entry;
}

QueueEntry someEntry() {
    QueueEntry entry = entryWith("20261129-1", 3.25);
    entry.day = "2026-11-29";
    entry.sheet = 1;
    entry.sheets = 4;
    entry.size = {297, 210.5};
    entry.code = "quillmoor-honey/2";
    entry.kinds = {LineKind::kiss, LineKind::perforated};
    entry.inks = {InkKind::white, InkKind::gloss};
    entry.work = RunWork::cutLater;
    entry.copies = 5;
    entry.done = 2;
    entry.isHeld = entry.isPrinted = entry.isBegun = true;
    entry.seed = 77;
    entry.largest = 0.0125;
    return entry;
}

std::vector<std::string> idsOf(const std::vector<QueueEntry>& entries) {
    std::vector<std::string> ids;
    for (const QueueEntry& entry : entries)
        ids.push_back(entry.id);
    return ids;
}

Job namedJob() {
    Job job;
    job.name = "quillmoor-honey";
    job.day = "2026-11-29";
    job.plan.medium.width = 321;
    return job;
}

PastRun somePastRun() {
    PastRun run;
    run.ended = 1'796'000'000;
    run.job = "bee \"one\",\n2";
    run.sheet = 2;
    run.copy = 1;
    run.copies = 3;
    run.work = RunWork::cutOnly;
    run.isSimulated = false;
    run.seconds = 83.5;
    run.lines = 24;
    run.rms = 0.01;
    run.largest = 0.03;
    run.trouble = "The sheet moved by 1.7 mm";
    return run;
}

} // namespace

TEST_CASE("an entry of the queue is read as it was kept, and a damaged one is refused with its place") {
    CHECK(queueEntryFromJson(toJson(someEntry())) == someEntry());
    CHECK(queueEntryFromJson(toJson(entryWith("a", 0))) == entryWith("a", 0));
    const std::string whole = toJson(someEntry());
    for (const auto& [old, wrong] :
         std::vector<std::pair<std::string, std::string>>{{"\"20261129-1\"", "\"../../etc\""},
                                                          {"\"job-20261129-1\"", "\"\""},
                                                          {"\"copies\": 5", "\"copies\": 0"},
                                                          {"\"cutLater\"", "\"cutSoon\""},
                                                          {"\"sheet\": 1", "\"sheet\": -1"},
                                                          {"\"held\": true", "\"held\": 1"},
                                                          {"\"largest\": 0.0125", "\"largest\": \"0\""}}) {
        INFO(old << " as " << wrong);
        std::string text = whole;
        REQUIRE(text.find(old) != std::string::npos);
        text.replace(text.find(old), old.size(), wrong);
        CHECK_THROWS_AS(queueEntryFromJson(text), InputError);
    }
    for (std::size_t length = 0; length + 1 < whole.size(); length += 5)
        CHECK_THROWS_AS(queueEntryFromJson(whole.substr(0, length)), InputError);
}

TEST_CASE("entries are moved to any place, a hundred times over too, and keep their order when read again") {
    std::vector<QueueEntry> entries;
    for (int i = 0; i < 5; ++i)
        entries.push_back(entryWith(std::string(1, char('a' + i)), 100 + i));
    moveInQueue(entries, "e", 0);
    CHECK(idsOf(entries) == std::vector<std::string>{"e", "a", "b", "c", "d"});
    moveInQueue(entries, "e", 5);
    CHECK(idsOf(entries) == std::vector<std::string>{"a", "b", "c", "d", "e"});
    moveInQueue(entries, "b", 1); // where it is
    moveInQueue(entries, "none", 0);
    CHECK(idsOf(entries) == std::vector<std::string>{"a", "b", "c", "d", "e"});
    std::mt19937 random(5);
    auto expected = idsOf(entries);
    for (int i = 0; i < 300; ++i) {
        // Mostly into the same gap, whose halves run out.
        const std::size_t from = i % 3 ? 4 : random() % 5, to = i % 3 ? 1 : random() % 6;
        const std::string moved = expected[from];
        expected.erase(expected.begin() + std::ptrdiff_t(from));
        expected.insert(expected.begin() + std::ptrdiff_t(to > from ? to - 1 : to), moved);
        moveInQueue(entries, moved, to);
        REQUIRE(idsOf(entries) == expected);
        std::vector<QueueEntry> again(entries.rbegin(), entries.rend());
        sortQueue(again);
        REQUIRE(idsOf(again) == expected);
    }
}

TEST_CASE("the next one is the next that waits: neither held nor done, and from the first again") {
    std::vector<QueueEntry> entries;
    for (const char* id : {"a", "b", "c", "d"})
        entries.push_back(entryWith(id, double(entries.size())));
    entries[1].isHeld = true;
    entries[3].done = 1;
    const auto next = [&](const char* id) {
        const QueueEntry* found = nextInQueue(entries, id);
        return found ? found->id : "";
    };
    CHECK(next("a") == "c");
    CHECK(next("c") == "a");
    CHECK(next("b") == "c");
    CHECK(next("none") == "a");
    entries[0].isHeld = true;
    CHECK(next("a") == "c");
    CHECK(next("c").empty());
    CHECK(nextInQueue({}, "a") == nullptr);
}

TEST_CASE("a printed sheet is found again by its code") {
    std::vector<QueueEntry> entries{entryWith("a", 0), entryWith("b", 1), entryWith("c", 2),
                                    entryWith("d", 3)};
    CHECK(findByCode(entries, "") == nullptr);
    for (QueueEntry& entry : entries)
        entry.code = "honey/1";
    entries[3].code = "honey/2";
    CHECK(findByCode(entries, "honey/2\n")->id == "d");
    CHECK(findByCode(entries, " honey/1 ")->id == "a");
    CHECK(findByCode(entries, "honey") == nullptr);
    entries[1].isPrinted = true; // it waits to be cut
    CHECK(findByCode(entries, "honey/1")->id == "b");
    entries[1].done = 1;
    CHECK(findByCode(entries, "honey/1")->id == "a");
    entries[2].work = RunWork::cutOnly;
    CHECK(findByCode(entries, "honey/1")->id == "c");
}

TEST_CASE(
    "prints of an edited job are told from those before by their codes, or it is asked which one it is") {
    std::vector<QueueEntry> entries{entryWith("a", 0), entryWith("b", 1)};
    entries[0].printId = "aaaa";
    entries[1].printId = "bbbb";
    for (QueueEntry& entry : entries)
        entry.code = "honey/1." + entry.printId;
    CHECK(findByCode(entries, "honey/1.bbbb")->id == "b");
    CHECK(findByCode(entries, "honey/1.cccc") == nullptr);
    bool isDoubtful = false;
    CHECK(findByCode(entries, "honey/1", &isDoubtful) == nullptr);
    CHECK(isDoubtful);
    entries.pop_back();
    CHECK(findByCode(entries, "honey/1", &isDoubtful)->id == "a");
    CHECK_FALSE(isDoubtful);
}

TEST_CASE("entries, runs and history of the first version are read") {
    CHECK(queueEntryFromJson(R"({"id":"20261129-1","keptJob":"job-20261129-1","job":"quillmoor-honey",
        "day":"2026-11-29","sheet":1,"sheets":4,"size":[297.0,210.5],"code":"quillmoor-honey/2","kinds":[0,2],
        "inks":[0,1],"work":2,"copies":5,"done":2,"held":true,"printed":true,"begun":true,"order":3.25,
        "seed":77,"largest":0.0125})") == someEntry());
    CHECK(
        pastRunFromJson(R"({"ended":1796000000,"job":"bee \"one\",\n2","sheet":2,"copy":1,"copies":3,"work":3,
        "simulated":false,"seconds":83.5,"lines":24,"rms":0.01,"largest":0.03,
        "trouble":"The sheet moved by 1.7 mm"})") == somePastRun());
    const RunState run =
        runStateFromJson(R"({"cut":[[0,0,0,0,0,140.0],[2,3,1,1,4,27.5]],"fault":4,"force":130.0,
        "holder":2,"kind":2,"machine":[1,17],"marks":[{"byHand":true,"expected":[13.0,8.0],"found":[14.25,7.5],
        "id":1},{"byHand":false,"expected":[13.0,208.0],"found":null,"id":2}],"pieces":[0,3],"seed":17,"sheet":2,
        "slipped":true})");
    CHECK(run.record.at({LineKind::perforated, 3, 1, 1, 4}) == 27.5);
    CHECK(run.fault == TrainingFault::tornMark);
    CHECK(run.kind == LineKind::perforated);
    CHECK(run.place == std::pair(std::size_t(1), std::size_t(17)));
    CHECK(run.isOnCutter);
    REQUIRE(run.marks.size() == 2);
    CHECK(run.marks[0].found == Point{14.25, 7.5});
    CHECK_FALSE(run.marks[1].found);
}

TEST_CASE("what a later version adds to an entry stays in it; what is missing has its start value") {
    std::string json = toJson(someEntry());
    json.insert(json.find("\"job\""), "\"foil\": {\"colour\": \"gold\"}, ");
    QueueEntry entry = queueEntryFromJson(json);
    entry.copies = 6;
    CHECK(toJson(entry).find("\"gold\"") != std::string::npos);
    CHECK(queueEntryFromJson(toJson(entry)) == entry);
    const QueueEntry little = queueEntryFromJson(R"({"format": 2, "id": "a", "keptJob": "b"})");
    CHECK(little.copies == 1);
    CHECK(little.work == RunWork::printAndCut);
}

TEST_CASE("an entry of a newer version is shown, and neither changed nor removed nor its job") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    queue.add({entryWith("1", 1)}, namedJob(), "");
    std::string json = toJson(entryWith("1", 1));
    json.replace(json.find("\"format\": 2"), 11, "\"format\": 9");
    std::ofstream(place / "entries" / "1.json") << json;
    const auto entries = queue.read();
    REQUIRE(idsOf(entries) == std::vector<std::string>{"1"});
    CHECK(entries.front().isNewer);
    CHECK(entries.front().job == "quillmoor-honey");
    CHECK_FALSE(entries.front().isWaiting());
    CHECK_FALSE(queue.change("1", [](QueueEntry& entry) { entry.copies = 4; }));
    queue.remove(entries.front());
    queue.removeRemains(0);
    CHECK(std::filesystem::exists(place / "jobs" / "job-1" / "job.json"));
    std::ifstream in(place / "entries" / "1.json");
    CHECK(std::string(std::istreambuf_iterator<char>(in), {}) == json);
}

TEST_CASE("what two programs change of one entry is both kept") {
    const TemporaryFolder folder;
    const QueueFolder queue(folder.path("queue").toStdString());
    queue.add({entryWith("1", 1)}, namedJob(), "");
    queue.change("1", [](QueueEntry& entry) { entry.copies = 12; }); // one window
    queue.change("1",
                 [](QueueEntry& entry) { entry.isHeld = true; }); // another one, which has not read it yet
    const QueueEntry now = queue.read().front();
    CHECK(now.copies == 12);
    CHECK(now.isHeld);
}

TEST_CASE("an entry that can't be read keeps the job that it may share") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    QueueEntry first = entryWith("1", 1), second = entryWith("2", 2);
    first.keptJob = second.keptJob = "both";
    queue.add({first, second}, namedJob(), "");
    std::ofstream(place / "entries" / "2.json") << toJson(second).substr(0, 60);
    queue.remove(first);
    CHECK(std::filesystem::exists(place / "jobs" / "both" / "job.json"));
    CHECK(queue.read().empty()); // the damaged one is set aside
    queue.removeRemains(0);
    CHECK(std::filesystem::exists(place / "jobs" / "both" / "job.json"));
    CHECK(std::filesystem::exists(place / "damaged" / "2.json"));
}

TEST_CASE("folders and files of the queue are for their owner alone, and artwork is on the disk once") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    Job job = namedJob();
    const std::string bytes(100'000, 'x');
    const auto asset = std::make_shared<Asset>();
    asset->sha256 = std::string(64, 'a');
    asset->name = "bee.png";
    asset->bytes.assign(reinterpret_cast<const std::byte*>(bytes.data()),
                        reinterpret_cast<const std::byte*>(bytes.data()) + bytes.size());
    addDesign(job, NewPicture{asset, 100, 100, 10});
    queue.add({entryWith("1", 1)}, job, "");
    queue.add({entryWith("2", 2)}, job, "");
    const auto first = place / "jobs" / "job-1" / "assets" / asset->sha256,
               second = place / "jobs" / "job-2" / "assets" / asset->sha256;
    REQUIRE(std::filesystem::exists(first));
    CHECK(std::filesystem::equivalent(first, second));
    for (const auto& entry : std::filesystem::recursive_directory_iterator(place)) {
        INFO(entry.path());
        CHECK((entry.status().permissions() &
               (std::filesystem::perms::group_all | std::filesystem::perms::others_all)) ==
              std::filesystem::perms::none);
    }
    queue.remove(entryWith("1", 1));
    CHECK(std::filesystem::exists(second));
    queue.remove(entryWith("2", 2));
    CHECK_FALSE(std::filesystem::exists(place / "assets" / asset->sha256));
}

TEST_CASE("entries that were done long ago go by themselves") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    QueueEntry old = entryWith("1", 1), fresh = entryWith("2", 2), waiting = entryWith("3", 3);
    old.done = fresh.done = 1;
    for (const QueueEntry& entry : {old, fresh, waiting})
        queue.add({entry}, namedJob(), "");
    const auto longAgo = std::filesystem::file_time_type::clock::now() - std::chrono::hours(24 * 40);
    for (const char* file : {"1.json", "3.json"})
        std::filesystem::last_write_time(place / "entries" / file, longAgo);
    queue.removeRemains();
    CHECK(idsOf(queue.read()) == std::vector<std::string>{"2", "3"});
}

TEST_CASE("of processes that take the same entry, one has it, and it is free when that one is gone") {
    const TemporaryFolder folder;
    const QueueFolder queue(folder.path("queue").toStdString());
    queue.make();
    const std::filesystem::path lock = queue.lockOf("1");
    CHECK_FALSE(EntryLock::isTaken(lock));
    CHECK_FALSE(std::filesystem::exists(lock)); // asking makes nothing
    {
        auto own = EntryLock::tryTake(lock);
        REQUIRE(own);
        CHECK(EntryLock::isTaken(lock));
        CHECK_FALSE(EntryLock::tryTake(lock));
    }
    CHECK_FALSE(EntryLock::isTaken(lock));
    // Two processes count up in a file, each round by whoever has the entry: no count is lost or made twice.
    const std::filesystem::path file = folder.path("count").toStdString();
    std::ofstream(file) << 0;
    constexpr int rounds = 500;
    std::array<pid_t, 2> children{};
    for (pid_t& child : children) {
        child = ::fork();
        REQUIRE(child >= 0);
        if (child > 0)
            continue;
        for (int round = 0; round < rounds;) {
            auto own = EntryLock::tryTake(lock);
            if (!own)
                continue;
            int count = 0;
            std::ifstream(file) >> count;
            std::ofstream(file) << count + 1;
            ++round;
            if (round % 50 == 0)
                own->removeFile(lock); // the entry was removed
        }
        ::_exit(0);
    }
    for (const pid_t child : children) {
        int status = 1;
        REQUIRE(::waitpid(child, &status, 0) == child);
        CHECK(status == 0);
    }
    int count = 0;
    std::ifstream(file) >> count;
    CHECK(count == 2 * rounds);
}

TEST_CASE("the queue is kept in a folder: jobs once for sheets that were added together") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    CHECK(queue.read().empty());
    QueueEntry first = entryWith("1", 1), second = entryWith("2", 2), third = entryWith("3", 0);
    first.keptJob = second.keptJob = "both";
    first.job = namedJob().name;
    first.day = namedJob().day;
    queue.add({first, second}, namedJob(), "/work/honey.hasami");
    queue.add({third}, namedJob(), "");
    CHECK(idsOf(queue.read()) == std::vector<std::string>{"3", "1", "2"});
    CHECK(queue.read()[1] == first);
    const Recovered kept = queue.job(first);
    CHECK(kept.job.plan.medium.width == 321);
    CHECK(kept.job.name == "quillmoor-honey");
    CHECK(kept.job.day == "2026-11-29");
    CHECK(kept.jobPath == "/work/honey.hasami");

    second.copies = 7;
    queue.keep(second);
    CHECK(queue.read()[2].copies == 7);
    RunState state;
    state.seed = 9;
    queue.keepRun("1", state);
    CHECK(queue.run("1") == state);
    queue.forgetRun("1");
    CHECK_THROWS_AS(queue.run("1"), InputError);

    queue.remove(first);
    CHECK(queue.job(second).job.plan.medium.width == 321); // the other one still has it
    queue.remove(second);
    CHECK_THROWS_AS(queue.job(second), InputError);
    queue.remove(second); // twice is no error
    CHECK(idsOf(queue.read()) == std::vector<std::string>{"3"});
}

TEST_CASE("a damaged entry is named and left out; what no entry has is removed when it is old") {
    const TemporaryFolder folder;
    const std::filesystem::path place = folder.path("queue").toStdString();
    const QueueFolder queue(place);
    queue.add({entryWith("1", 1)}, namedJob(), "");
    queue.add({entryWith("2", 2)}, namedJob(), "");
    queue.keepRun("2", {});
    std::filesystem::remove(place / "entries" / "2.json");
    std::ofstream(place / "entries" / "note.txt") << "not an entry";
    queue.removeRemains();
    CHECK(std::filesystem::exists(place / "jobs" / "job-2")); // it may just be being added
    queue.removeRemains(0);
    CHECK_FALSE(std::filesystem::exists(place / "jobs" / "job-2"));
    CHECK_FALSE(std::filesystem::exists(place / "runs" / "2.json"));
    CHECK(std::filesystem::exists(place / "jobs" / "job-1"));

    std::ofstream(place / "entries" / "3.json") << toJson(entryWith("3", 3)).substr(0, 40);
    std::ofstream(place / "entries" / "4.json") << toJson(entryWith("5", 3)); // under another's name
    std::vector<std::string> damaged;
    CHECK(idsOf(queue.read(&damaged)) == std::vector<std::string>{"1"});
    CHECK(std::set<std::string>(damaged.begin(), damaged.end()) == std::set<std::string>{"3.json", "4.json"});
}

TEST_CASE("the history has the newest run first, and outlives half a line") {
    CHECK(pastRunFromJson(toJson(somePastRun())) == somePastRun());
    const TemporaryFolder folder;
    const std::filesystem::path file = folder.path("history.jsonl").toStdString();
    CHECK(readHistory(file).empty());
    PastRun run = somePastRun();
    for (int i = 0; i < 5; ++i) {
        run.copy = i;
        addToHistory(file, run);
    }
    std::ofstream(file, std::ios::app) << toJson(run).substr(0, 30); // the machine stopped
    run.copy = 5;
    run.copies = 6;
    addToHistory(file, run);
    const auto runs = readHistory(file);
    REQUIRE(runs.size() == 6);
    CHECK(runs.front().copy == 5);
    CHECK(runs.back().copy == 0);
    CHECK(runs.front().job == somePastRun().job);
    CHECK(readHistory(file, 2).size() == 2);
    clearHistory(file);
    CHECK(readHistory(file).empty());
    CHECK_THROWS_AS(addToHistory(folder.path("missing/history").toStdString(), run), OutputError);
}

namespace {

double lengthOf(const CutRecord& record) {
    double all = 0;
    for (const auto& [key, along] : record)
        all += along;
    return all;
}

/// A program that cuts from where it was kept, and keeps how far it came: each step is written to `cut` once
/// it is kept. Ends with 0 where all is cut.
[[noreturn]] void cutUntilKilled(const QueueFolder& queue, const CutProgram& program, const Cutter& cutter,
                                 int cut) {
    RunState state = queue.run("1");
    CutHead head(program, cutter, state.record);
    double before = lengthOf(state.record);
    while (!head.isDone()) {
        head.advance(0.002);
        for (const auto& [key, along] : head.takeNews())
            state.record[key] = along;
        queue.keepRun("1", state);
        ::usleep(200); // else all is cut before it was killed often enough
        const double now = lengthOf(state.record), step = now - before;
        before = now;
        if (::write(cut, &step, sizeof step) != ssize_t(sizeof step))
            ::_exit(2);
    }
    ::_exit(0);
}

} // namespace

TEST_CASE("a program that is killed at 50 random moments goes on where it was kept: each line is cut once") {
    const TemporaryFolder folder;
    const QueueFolder queue(folder.path("queue").toStdString());
    queue.make();
    constexpr double around = 16; // mm, of each square
    const SquareWork work(15, {{LineKind::kiss, 1}});
    queue.keepRun("1", {});
    int cut[2];
    REQUIRE(::pipe(cut) == 0);
    std::mt19937 random(19);
    int kills = 0, status = 1;
    for (int life = 0; life < 2000 && status != 0; ++life) {
        const pid_t child = ::fork();
        REQUIRE(child >= 0);
        if (child == 0)
            cutUntilKilled(queue, work.program, work.cutter, cut[1]);
        if (kills < 50) {
            ::usleep(useconds_t(random() % 4000));
            ::kill(child, SIGKILL);
        }
        REQUIRE(::waitpid(child, &status, 0) == child);
        kills += WIFSIGNALED(status) ? 1 : 0;
        REQUIRE((WIFSIGNALED(status) || WEXITSTATUS(status) == 0));
        const RunState kept = queue.run("1"); // whole at every moment
        for (const auto& [key, along] : kept.record)
            REQUIRE(along <= around + 1e-6);
    }
    ::close(cut[1]);
    double sum = 0, step = 0;
    while (::read(cut[0], &step, sizeof step) == ssize_t(sizeof step))
        sum += step;
    ::close(cut[0]);
    CHECK(kills == 50);
    CHECK(status == 0);
    const RunState end = queue.run("1");
    CHECK(end.record.size() == 15);
    for (const auto& [key, along] : end.record)
        CHECK(along == Approx(around));
    // What was kept but not yet written down when a kill came is missing here: of each at most one step.
    CHECK(sum <= 15 * around + 1e-6);
    CHECK(sum >= 15 * around - kills * 0.002 * 200);
}
