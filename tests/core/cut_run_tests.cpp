#include "machine/cut_memory.h"
#include "support/rounds.h"
#include "support/square_work.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

/// Kiss and die lines of pieces side by side, the die lines in two passes by another holder.
struct Work : SquareWork {
    explicit Work(std::size_t pieces) : SquareWork(pieces, {{LineKind::kiss, 1}, {LineKind::die, 2}}) {}
};

constexpr double kissLength = 4 * 4, dieLength = 4 * 8; // mm

double sum(const CutRecord& record) {
    double all = 0;
    for (const auto& [key, along] : record)
        all += along;
    return all;
}

void note(CutHead& head, CutRecord& record) {
    for (const auto& [key, along] : head.takeNews())
        record[key] = along;
}

} // namespace

TEST_CASE("a head cuts all lines of a program, in the time of its steps, and says each once more than it has "
          "come") {
    const Work work(3);
    CutHead head(work.program, work.cutter, {});
    CHECK(head.kind() == LineKind::kiss);
    const double all = head.secondsLeft();
    CutRecord record;
    double before = all;
    while (!head.isDone()) {
        head.advance(0.03);
        CHECK(head.secondsLeft() == Approx(std::max(0.0, before - 0.03)).margin(1e-9));
        before = head.secondsLeft();
        for (const auto& [key, along] : head.takeNews()) {
            CHECK(record[key] < along);
            record[key] = along;
        }
    }
    CHECK(head.takeNews().empty());
    CHECK(head.kind() == LineKind::die);
    CHECK(head.share() == 1);
    CHECK(record.size() == 3 + 2 * 3);
    CHECK(sum(record) == Approx(3 * kissLength + 2 * 3 * dieLength));
    double seconds = 0;
    for (const CutStep& step : work.program)
        seconds += secondsOf(step, work.cutter);
    CHECK(all == Approx(seconds).epsilon(0.02));
}

TEST_CASE("a run that is killed goes on where it stopped, and every line is cut once") {
    const Work work(6);
    std::mt19937 random(91);
    std::uniform_real_distribution<double> share(0, 1);
    const double whole = CutHead(work.program, work.cutter, {}).secondsLeft();
    for (int round = 0; round < rounds(50, 10); ++round) {
        CutRecord kept;
        double cut = 0; // mm, of all lives of the program together
        for (int life = 0; life < 20; ++life) {
            CutHead head(work.program, work.cutter, kept);
            const double before = sum(kept);
            const double end = life == 19 ? 1e9 : whole * 0.2 * share(random);
            for (double now = 0; now < end && !head.isDone(); now += 0.05) {
                head.advance(0.05);
                note(head, kept); // what is on disk
            }
            cut += sum(kept) - before;
        }
        REQUIRE(kept.size() == 6 + 2 * 6);
        for (const auto& [key, along] : kept)
            REQUIRE(along == Approx(key.kind == LineKind::kiss ? kissLength : dieLength));
        REQUIRE(cut == Approx(6 * kissLength + 2 * 6 * dieLength));
    }
}

TEST_CASE("a cut that was stopped half-way begins where it stopped") {
    const Work work(1);
    CutHead head(work.program, work.cutter, {});
    while (!head.isDown())
        head.advance(0.01);
    head.advance(0.05);
    const Point stopped = head.place();
    CutRecord record;
    note(head, record);
    REQUIRE(record.size() == 1);
    const auto rest = remaining(work.program, record);
    REQUIRE(std::holds_alternative<Travel>(rest[1].step));
    CHECK(distance(std::get<Travel>(rest[1].step).to, stopped) < 1e-6);
    CHECK(std::get<Cut>(rest[2].step).length == Approx(kissLength - record.begin()->second));
    CHECK(remaining(work.program, {}).size() >= 6);
}

TEST_CASE("some pieces are cut again alone") {
    const Work work(4);
    const CutProgram some = onlyPieces(work.program, {1, 3}, 4);
    CutHead head(some, work.cutter, {});
    head.advance(1e6);
    const CutLengths cut = head.takeNews();
    CHECK(cut.size() == 2 + 2 * 2);
    for (const auto& [key, along] : cut)
        CHECK((key.piece == 1 || key.piece == 3));
    CHECK(CutHead(onlyPieces(work.program, {}, 4), work.cutter, {}).isDone());
}

TEST_CASE("some kinds of line are cut alone") {
    const Work work(3);
    const auto only = [&](std::vector<LineKind> kinds) { return onlyKinds(work.program, kinds); };
    CutHead head(only({LineKind::die}), work.cutter, {});
    head.advance(1e6);
    CHECK(head.isDone());
    const CutLengths cut = head.takeNews();
    CHECK(cut.size() == 2 * 3);
    for (const auto& [key, along] : cut)
        CHECK(key.kind == LineKind::die);
    CHECK(keyedCuts(only({LineKind::kiss, LineKind::die})).size() == 3 + 2 * 3);
    CHECK(remaining(only({LineKind::crease}), {}).empty());
}

TEST_CASE(
    "a cutter with a memory has received more than it has cut, and what it loses is missing or cut twice") {
    const SquareWork work(20, {{LineKind::kiss, 1}});
    const auto cutFrom = [&](CutMemory& memory, const CutRecord& done, std::size_t whole) {
        memory.begin(work.program, done);
        CutHead head(work.program, work.cutter, done);
        CutRecord received;
        for (const auto& [key, along] : memory.cut({}))
            received[key] = along;
        std::size_t cut = 0;
        while (!head.isDone() && cut < whole) {
            head.advance(0.05);
            const CutLengths news = head.takeNews();
            for (const auto& [key, along] : news)
                cut += along >= kissLength - 1e-6;
            for (const auto& [key, along] : memory.cut(news))
                received[key] = along;
        }
        return received;
    };
    CutMemory memory;
    CutRecord record = cutFrom(memory, {}, 5);
    CHECK(record.size() == 5 + CutMemory::lines);
    CHECK(memory.missingIn(record) == CutMemory::lines);
    CHECK(memory.twice() == 0);
    // Whoever goes on with what was received leaves a gap.
    CutMemory careless = memory;
    CutRecord all = record;
    for (const auto& [key, along] : cutFrom(careless, record, 100))
        all[key] = along;
    CHECK(all.size() == 20);
    CHECK(careless.missingIn(all) == CutMemory::lines);
    // From the first line on, the first five are cut twice.
    CutMemory anew = memory;
    CHECK(cutFrom(anew, {}, 100).size() == 20);
    CHECK(anew.twice() == 5);
    // With the first that is not cut all is well.
    CutRecord done = memory.knife();
    std::erase_if(done, [](const auto& line) { return line.second < kissLength - 1e-6; });
    CHECK(done.size() == 5);
    all = done;
    for (const auto& [key, along] : cutFrom(memory, done, 100))
        all[key] = along;
    CHECK(all.size() == 20);
    CHECK(memory.missingIn(all) == 0);
    CHECK(memory.twice() == 0);
}
