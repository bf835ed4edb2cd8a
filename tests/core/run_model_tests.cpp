// The run as a state machine: every event in every state, on machines of every ability.

#include "run/run_model.h"
#include "support/rounds.h"
#include "support/square_work.h"

#include <catch2/catch.hpp>

#include <random>
#include <set>
#include <sstream>

using namespace hasami;
using namespace hasami::test;

namespace {

constexpr MachineAbilities simulated{true, true, true, false}, connected{false, false, false, true};

SquareWork threeTools(std::size_t pieces) {
    return {pieces, {{LineKind::kiss, 1}, {LineKind::crease, 2}, {LineKind::die, 3}}};
}

std::vector<MarkReading> marksAt(const std::vector<Point>& places) {
    std::vector<MarkReading> marks;
    for (const Point place : places)
        marks.push_back({int(marks.size()) + 1, place, {}});
    return marks;
}

RunOrder orderOf(const SquareWork& work, std::size_t pieces, const MachineAbilities& machine, bool hasMarks) {
    RunOrder order;
    order.machine = machine;
    order.cutter = work.cutter;
    for (const LineKind kind : lineKinds)
        if (std::ranges::find(work.lines, kind, &RouteLine::kind) != work.lines.end())
            order.kinds.push_back(kind);
    if (hasMarks)
        order.marks = marksAt({{5, 5}, {105, 5}, {5, 65}, {105, 65}});
    order.scope = {true, true, hasMarks};
    order.pieces = pieces;
    return order;
}

/// A model with a machine that does what it is asked, a little at a time, and counts what it cuts.
struct Bench {
    explicit Bench(std::size_t pieces, const MachineAbilities& machine = simulated, bool hasMarks = true)
        : work(threeTools(pieces)), order(orderOf(work, pieces, machine, hasMarks)) {
        act(run_event::Begin{order});
    }

    void act(const RunEvent& event) {
        for (const RunEffect& effect : model.on(event, now += 0.01))
            note(effect);
    }
    void note(const RunEffect& effect) {
        if (const auto* ask = std::get_if<run_effect::Prepare>(&effect))
            isPreparing = ask->question;
        else if (const auto* read = std::get_if<run_effect::ReadMarks>(&effect))
            isReading = read->question;
        else if (const auto* head = std::get_if<run_effect::AskHead>(&effect))
            isAsking = head->question;
        else if (const auto* check = std::get_if<run_effect::CheckCut>(&effect))
            isChecking = check->question;
        else if (const auto* test = std::get_if<run_effect::StartTest>(&effect))
            start(test->question, {});
        else if (const auto* cut = std::get_if<run_effect::StartCut>(&effect)) {
            start(cut->question, *cut);
            ++cuts;
        } else if (std::holds_alternative<run_effect::StopCut>(effect))
            isStopping = true;
        else if (const auto* done = std::get_if<run_effect::NoteDone>(&effect))
            noted += !done->isRepeat;
    }
    void start(std::uint64_t question, const run_effect::StartCut& order) {
        REQUIRE(isCutting == 0); // one at a time
        isCutting = question;
        isStopping = false;
        left.clear();
        if (!order.lines) // a test cut
            return;
        for (const KeyedStep& step : remaining(order.lines->programOf(order.pass), order.done))
            if (step.key)
                left.emplace_back(*step.key, step.before + pathLength(std::get<Cut>(step.step)));
    }
    /// The answer to what is asked now, if it is something.
    bool answer() {
        if (isPreparing)
            act(run_event::Prepared{std::exchange(isPreparing, 0),
                                    std::make_shared<const CutLines>(work.program)});
        else if (isReading) {
            run_event::MarksRead read{std::exchange(isReading, 0), {}};
            read.read.marks = order.marks;
            for (MarkReading& mark : read.read.marks)
                mark.found = mark.expected + Point{1, 2};
            act(read);
        } else if (isAsking)
            act(run_event::HeadFound{std::exchange(isAsking, 0),
                                     model.registration().marks.at(model.mark()).expected + Point{1, 2}});
        else if (isChecking)
            act(run_event::Checked{std::exchange(isChecking, 0), {}});
        else if (isCutting) {
            CutLengths some;
            if (!isStopping && !left.empty()) {
                some.push_back(left.front());
                ++times[left.front().first];
                left.erase(left.begin());
            }
            if (isStopping || left.empty())
                act(run_event::CutEnded{std::exchange(isCutting, 0), some, !isStopping});
            else
                act(run_event::Received{isCutting, some});
        } else
            return false;
        return true;
    }
    void answerAll() {
        for (int i = 0; i < 1000 && model.activity() != RunActivity::paused && answer();)
            ++i;
    }
    /// On to the first line that is cut.
    void toCut() {
        while (!model.isCutting()) {
            act(RunAction::next);
            while (!model.isCutting() && answer()) {
            }
        }
    }
    /// An operator who does the next thing until the sheet is done. Gives whether that is reached.
    bool finish() {
        for (int i = 0; i < 60; ++i) {
            answerAll();
            if (model.isDone())
                return true;
            act(model.doubt().empty() ? model.mainAction() : RunAction::acceptMarks);
        }
        return false;
    }

    SquareWork work;
    RunOrder order;
    RunModel model;
    double now = 0;
    int cuts = 0, noted = 0;
    std::map<CutKey, int> times; ///< that each line was cut
    std::uint64_t isPreparing = 0, isReading = 0, isAsking = 0, isChecking = 0, isCutting = 0;
    bool isStopping = false;
    CutLengths left;
};

/// All of a model that can be seen.
std::string seen(const RunModel& model) {
    std::ostringstream text;
    text << int(model.task()) << ' ' << model.step().pass << ' ' << int(model.activity()) << ' '
         << model.question() << ' ' << model.mark() << ' ' << model.trouble() << ' ' << model.doubt() << ' '
         << model.isTesting() << model.testCut().has_value() << model.isOnlyPrinted() << model.isCounted()
         << model.isPrepared() << model.isContinued() << ' ' << model.lines() << ' ' << model.firstLine()
         << ' ' << model.registration().found() << ' ' << int(model.kind().value_or(LineKind::kiss)) << ' '
         << model.force().value_or(0) << ' ' << model.bladeDepth().value_or(0) << ' ';
    for (const std::size_t piece : model.pieces())
        text << piece << ',';
    for (const auto& [key, along] : model.record())
        text << key.piece << ':' << key.line << ':' << along << ' ';
    return text.str();
}

/// One event of each kind, answers to the present question (`question`) among them.
std::vector<RunEvent> allEvents(const Bench& bench, std::uint64_t question) {
    std::vector<RunEvent> events(runActions.begin(), runActions.end());
    Registration read;
    read.marks = bench.order.marks;
    TestCut test;
    events.insert(events.end(),
                  {run_event::Choose{{0}, {}},
                   run_event::Choose{{}, LineKind::die},
                   run_event::PlaceMark{1, {6, 6}},
                   run_event::PlaceMark{3, {6, 66}},
                   run_event::PutIn{},
                   run_event::ContinueWith{1},
                   run_event::CutTest{test},
                   run_event::CutTest{{}, "no room"},
                   run_event::TakeForce{90},
                   run_event::TakeBladeDepth{0.4},
                   run_event::Prepared{question, std::make_shared<const CutLines>(bench.work.program)},
                   run_event::Prepared{question, {}, "no printer"},
                   run_event::MarksRead{question, read},
                   run_event::MarksRead{question, {}, "no sensor"},
                   run_event::HeadFound{question, {6, 6}},
                   run_event::HeadFound{question, {}, "no answer"},
                   run_event::Received{question, {}},
                   run_event::CutEnded{question, {}, false},
                   run_event::Confirmed{question},
                   run_event::Checked{question, {}},
                   run_event::Begin{bench.order}});
    return events;
}

bool isAnswer(const RunEvent& event) {
    return std::holds_alternative<run_event::Prepared>(event) ||
           std::holds_alternative<run_event::MarksRead>(event) ||
           std::holds_alternative<run_event::HeadFound>(event) ||
           std::holds_alternative<run_event::Received>(event) ||
           std::holds_alternative<run_event::CutEnded>(event) ||
           std::holds_alternative<run_event::Confirmed>(event) ||
           std::holds_alternative<run_event::Checked>(event);
}

bool mayMoveCut(const RunEvent& event) {
    const auto* action = std::get_if<RunAction>(&event);
    return (action &&
            (*action == RunAction::pause || *action == RunAction::resume || *action == RunAction::stop)) ||
           std::holds_alternative<run_event::Received>(event) ||
           std::holds_alternative<run_event::CutEnded>(event);
}

/// What has to hold of every event in a state, tried on copies of it.
void checkAllEvents(const Bench& bench) {
    const std::string before = seen(bench.model);
    const std::uint64_t question = bench.model.question();
    for (const std::uint64_t asked : {question, question - 1, question + 1})
        for (const RunEvent& event : allEvents(bench, asked)) {
            RunModel copy = bench.model;
            const std::vector<RunEffect> effects = copy.on(event, bench.now);
            const bool isLate = isAnswer(event) && asked != question;
            const bool isKeptOut = bench.model.isCutting() && !mayMoveCut(event);
            const auto* action = std::get_if<RunAction>(&event);
            const bool isNotOffered = action && !bench.model.offers(*action);
            INFO(before << " event " << event.index() << (action ? int(*action) : -1));
            if (isLate || isKeptOut || isNotOffered) {
                REQUIRE(seen(copy) == before);
                REQUIRE(effects.empty());
            }
            for (const RunEffect& effect : effects)
                if (const auto* cut = std::get_if<run_effect::StartCut>(&effect)) {
                    REQUIRE(cut->question == copy.question());
                    REQUIRE_FALSE(bench.model.isCutting());
                    REQUIRE(copy.activity() == RunActivity::cutting);
                    // Nothing is cut by marks that were not read, or in doubt.
                    REQUIRE((bench.order.marks.empty() || copy.registration().model != MapModel::none ||
                             !bench.order.machine.findsMarks));
                    REQUIRE(copy.doubt().empty());
                }
        }
}

} // namespace

TEST_CASE("a plan has a pass for each neighbouring tools of one holder, and a change between them") {
    const SquareWork work = threeTools(1);
    const std::vector<LineKind> kinds{LineKind::kiss, LineKind::crease, LineKind::die};
    const auto tasks = [&](const RunScope& scope, const MachineAbilities& machine, const Cutter& cutter) {
        std::string text;
        for (const RunStep& step : planOf(scope, kinds, cutter, machine).steps)
            text += std::string(englishNameOf(step)) + " ";
        return text;
    };
    CHECK(tasks({}, simulated, work.cutter) ==
          "Print Load Find marks Cut Change tool Cut Change tool Cut Weed ");
    CHECK(tasks({}, connected, work.cutter) ==
          "Find marks Insert tool Cut Change tool Cut Change tool Cut Weed ");
    CHECK(tasks({true, false, true}, simulated, work.cutter) == "Print ");
    CHECK(tasks({true, false, true}, connected, work.cutter).empty());
    Cutter two = work.cutter;
    two.tools[std::size_t(LineKind::crease)].holder = 1;
    CHECK(tasks({false, true, false}, simulated, two) == "Load Cut Change tool Cut Weed ");
    two.tools[std::size_t(LineKind::die)].holder = 1;
    CHECK(tasks({}, simulated, two) == "Print Load Find marks Cut Weed ");
    // The same holder twice, with another one between: the order of the work comes first.
    two.tools[std::size_t(LineKind::crease)].holder = 2;
    CHECK(planOf({}, kinds, two, simulated).passes.size() == 3);
}

TEST_CASE("a sheet with three tools is run to its end, each line once, with and without marks, by hand too") {
    for (const MachineAbilities& machine : {simulated, connected})
        for (const bool hasMarks : {true, false}) {
            INFO(machine.prints << hasMarks);
            Bench bench(4, machine, hasMarks);
            REQUIRE(bench.finish());
            CHECK(bench.cuts == 3);
            CHECK(bench.noted == 1);
            CHECK(bench.times.size() == 4 * (1 + 1 + 2));
            for (const auto& [key, count] : bench.times)
                CHECK(count == 1);
            CHECK_FALSE(bench.model.kept());
            CHECK(bench.model.offers(RunAction::cutAgain));
        }
}

TEST_CASE("every event in every state: late answers, and all but a cut's own buttons while it runs, change "
          "nothing; each state has a way to the end") {
    std::set<std::pair<RunTask, RunActivity>> met;
    for (int round = 0; round < rounds(25, 12); ++round) {
        std::mt19937 random{std::uint32_t(round)};
        const MachineAbilities machine{random() % 2 == 0, random() % 2 == 0, random() % 2 == 0,
                                       random() % 2 == 0};
        Bench bench(2, machine, random() % 4 != 0);
        if (random() % 5 == 0) {
            bench.order.waits = true;
            bench.act(run_event::Begin{bench.order});
        }
        for (int step = 0; step < 60; ++step) {
            met.insert({bench.model.task(), bench.model.activity()});
            checkAllEvents(bench);
            switch (random() % 3) {
            case 0:
                bench.answer();
                break;
            case 1:
                bench.act(bench.model.mainAction());
                break;
            default: {
                const auto events = allEvents(bench, bench.model.question());
                const RunEvent& event = events[random() % events.size()];
                if (!isAnswer(event)) // those come from the machine
                    bench.act(event);
            }
            }
        }
        INFO("round " << round << ": " << seen(bench.model));
        REQUIRE(bench.finish());
    }
    CHECK(met.size() >= 14);
}

TEST_CASE("a cut is paused, resumed and stopped, and goes on with the first line that was not taken") {
    Bench bench(5, connected);
    while (bench.model.task() != RunTask::cut) {
        bench.act(RunAction::next);
        if (bench.model.activity() != RunActivity::cutting)
            bench.answer();
    }
    for (int i = 0; i < 2; ++i)
        bench.answer();
    bench.act(RunAction::pause);
    CHECK(bench.model.activity() == RunActivity::paused);
    bench.act(RunAction::resume);
    bench.act(RunAction::stop);
    CHECK(bench.model.activity() == RunActivity::stopping);
    bench.act(RunAction::next); // nothing, until the machine has ended
    bench.answer();
    REQUIRE(bench.model.activity() == RunActivity::none);
    CHECK(bench.model.isContinued());
    CHECK(bench.model.firstLine() == 2);
    REQUIRE(bench.model.startOfLine());
    // The machine has lost one: it is said with which line to go on.
    bench.act(run_event::ContinueWith{1});
    CHECK(bench.model.firstLine() == 1);
    REQUIRE(bench.finish());
    int twice = 0;
    for (const auto& [key, count] : bench.times)
        twice += count == 2;
    CHECK(twice == 1);
    CHECK(bench.noted == 1);
}

TEST_CASE("a run that is kept goes on in another program, on the lines that it was kept of alone") {
    for (const MachineAbilities& machine : {simulated, connected})
        for (const bool hasMarks : {true, false}) {
            Bench first(3, machine, hasMarks);
            first.toCut();
            first.answer();
            first.answer();
            const auto kept = first.model.kept();
            REQUIRE(kept);
            CHECK(kept->record.size() == 2);

            Bench next(3, machine, hasMarks);
            next.act(run_event::Begin{next.order, kept});
            REQUIRE(next.finish());
            CHECK(next.times.size() == 3 * (1 + 1 + 2) - 2);
            CHECK(next.noted == 1);

            Bench other(4, machine, hasMarks); // its lines are other ones
            other.act(run_event::Begin{other.order, kept});
            other.answerAll();
            CHECK(other.model.trouble().find("are other ones") != std::string::npos);
            CHECK(other.model.record().empty());
            CHECK(other.model.offersLine());
        }
}

TEST_CASE(
    "where a machine has lost how the sheet lies, its marks come first, and then the line is asked for") {
    for (const bool hasMarks : {true, false}) {
        MachineAbilities machine = simulated;
        machine.mayLoseLines = true;
        Bench bench(4, machine, hasMarks);
        bench.toCut();
        bench.answer();
        bench.answer();
        run_event::CutEnded failed{std::exchange(bench.isCutting, 0), {}, false, "the power failed"};
        failed.isPlaceLost = true;
        bench.act(failed);
        CHECK(bench.model.task() == RunTask::load);
        CHECK(bench.model.trouble() == "the power failed");
        CHECK(bench.model.registration().found() == 0);
        CHECK(bench.model.kept());
        for (int i = 0; i < 3 && bench.model.task() != RunTask::cut; ++i) {
            bench.act(RunAction::next);
            bench.answerAll();
        }
        REQUIRE(bench.model.step() == RunStep{RunTask::cut, 0}); // and nothing moves yet
        CHECK(bench.model.activity() == RunActivity::none);
        REQUIRE(bench.model.offersLine());
        bench.act(run_event::ContinueWith{1});
        REQUIRE(bench.finish());
        CHECK(bench.noted == 1);
    }
}

TEST_CASE("a run of an older version goes on with its pass and line") {
    Bench bench(4, connected);
    KeptRun kept;
    kept.place = {1, 3}; // the crease pass, three lines of which are cut
    bench.act(run_event::Begin{bench.order, kept});
    bench.answer();
    CHECK(bench.model.step() == RunStep{RunTask::cut, 1});
    CHECK(bench.model.firstLine() == 3);
    REQUIRE(bench.finish());
    CHECK(bench.times.size() == 1 + 4 * 2);
}

TEST_CASE("other stickers or kinds between two tools keep marks and lines; what is cut is not cut again") {
    Bench bench(4, connected);
    while (bench.model.step() != RunStep{RunTask::changeTool, 1}) {
        bench.act(RunAction::next);
        bench.answerAll();
    }
    const std::size_t marks = bench.model.registration().found();
    bench.act(run_event::Choose{{0}, {}});
    CHECK(bench.model.step() == RunStep{RunTask::changeTool, 1});
    bench.act(run_event::Choose{{}, LineKind::die});
    CHECK(bench.model.plan().passes.size() == 1);
    bench.act(run_event::Choose{{}, {}});
    CHECK(bench.model.registration().found() == marks);
    CHECK(bench.model.step() == RunStep{RunTask::changeTool, 1});
    REQUIRE(bench.finish());
    for (const auto& [key, count] : bench.times)
        CHECK(count == 1);
    // The chosen lines of a sheet that is done, once more: no other copy.
    bench.act(run_event::Choose{{2}, LineKind::kiss});
    bench.act(RunAction::cutAgain);
    REQUIRE(bench.finish());
    int twice = 0;
    for (const auto& [key, count] : bench.times)
        twice += count == 2;
    CHECK(twice == 1);
    CHECK(bench.noted == 1);
}

TEST_CASE("marks that were touched in another order are in doubt until they are accepted or touched again") {
    Bench bench(2, connected);
    bench.answer(); // prepared
    const std::vector<MarkReading> marks = bench.order.marks;
    const auto touch = [&](bool isReversed) {
        for (std::size_t i = 0; i < marks.size(); ++i)
            bench.act(
                run_event::PlaceMark{marks[i].id, marks[isReversed ? marks.size() - 1 - i : i].expected});
    };
    touch(true);
    CHECK(bench.model.doubt().find("turned by") != std::string::npos);
    CHECK(bench.model.task() == RunTask::findMarks);
    bench.act(RunAction::next); // touches them again
    CHECK(bench.model.mark() == 0);
    touch(true);
    bench.act(RunAction::acceptMarks);
    CHECK(bench.model.task() == RunTask::changeTool);
    bench.act(RunAction::locateAgain);
    touch(false);
    CHECK(bench.model.doubt().empty());
    CHECK(bench.model.task() == RunTask::changeTool);
}

TEST_CASE("how far a cut came is kept twice a second, and at each pause and end; a clock that jumps harms "
          "nothing") {
    Bench bench(50);
    bench.toCut();
    const auto keeps = [&](double now) {
        const CutLengths line{bench.left.front()};
        const auto effects = bench.model.on(run_event::Received{bench.isCutting, line}, now);
        return std::ranges::any_of(effects, [](const RunEffect& effect) {
            return std::holds_alternative<run_effect::Keep>(effect);
        });
    };
    const double now = bench.now;
    CHECK_FALSE(keeps(now + 0.1));
    CHECK_FALSE(keeps(now + 0.4));
    CHECK(keeps(now + 0.6));
    CHECK_FALSE(keeps(now + 1.0));
    CHECK(keeps(now + 1.2));
    CHECK(keeps(now - 100)); // the clock was set back
    CHECK_FALSE(keeps(now - 99.8));
    CHECK(keeps(now - 99.3));
}

TEST_CASE("a sheet to be cut later waits once it is printed; one that is only printed is done") {
    Bench bench(2);
    bench.order.waits = true;
    bench.act(run_event::Begin{bench.order});
    bench.act(RunAction::next);
    bench.answerAll();
    CHECK(bench.model.isOnlyPrinted());
    CHECK(bench.model.offers(RunAction::cutNow));
    CHECK(bench.noted == 0);
    bench.order.scope.isCut = bench.order.waits = false;
    bench.act(run_event::Begin{bench.order});
    bench.act(RunAction::next);
    bench.answerAll();
    CHECK(bench.model.isDone());
    CHECK_FALSE(bench.model.offers(RunAction::cutNow));
    CHECK(bench.noted == 1);
}

TEST_CASE("a machine that can't be reached, and a sheet without lines, offer nothing that can't be done") {
    Bench bench(2, connected);
    bench.order.isReachable = false;
    bench.act(run_event::Begin{bench.order});
    for (const RunAction action : runActions)
        if (action != RunAction::cancel) // of the preparation
            CHECK_FALSE(bench.model.offers(action));
    Bench empty(2, connected, false);
    empty.work.program.clear();
    empty.act(run_event::Begin{empty.order});
    empty.answerAll();
    CHECK(empty.model.trouble().find("nothing on the sheet to cut") != std::string::npos);
}
