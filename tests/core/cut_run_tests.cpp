#include "machine/cut_lines.h"
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

TEST_CASE("the lines of some pieces and kinds alone, and those that pieces share only with all of these") {
    const Work work(4);
    const CutLines lines(work.program);
    REQUIRE(lines.all().size() == 4 + 2 * 4);
    const auto cutOf = [&](const std::vector<LineKind>& kinds, const std::set<std::size_t>& pieces,
                           std::size_t all = 4) {
        CutHead head(lines.programOf(lines.some(kinds, pieces, all)), work.cutter, {});
        head.advance(1e6);
        CHECK(head.isDone());
        return head.takeNews();
    };
    const std::vector<LineKind> both{LineKind::kiss, LineKind::die};
    CHECK(cutOf(both, {}).size() == 4 + 2 * 4);
    const CutLengths some = cutOf(both, {1, 3});
    CHECK(some.size() == 2 + 2 * 2);
    for (const auto& [key, along] : some)
        CHECK((key.piece == 1 || key.piece == 3));
    for (const auto& [key, along] : cutOf({LineKind::die}, {}))
        CHECK(key.kind == LineKind::die);
    CHECK(cutOf({LineKind::crease}, {}).empty());
    // Were there three pieces, the fourth one's lines would be those that they share.
    CHECK(cutOf(both, {0, 1}, 3).size() == 2 + 2 * 2);
    CHECK(cutOf(both, {0, 1, 2}, 3).size() == 4 + 2 * 4);
}

TEST_CASE("lines are found by their keys, and known again by a fingerprint, whatever their order") {
    const Work work(5);
    const CutLines lines(work.program);
    for (std::size_t i = 0; i < lines.all().size(); ++i)
        CHECK(lines.find(lines[i].key) == i);
    CHECK_FALSE(lines.find({LineKind::crease, 0, 0, 0, 0}));
    CutProgram turned = work.program;
    std::ranges::reverse(turned);
    CHECK(CutLines(turned).fingerprint() == lines.fingerprint());
    CutProgram shorter = work.program;
    for (CutStep& step : shorter)
        if (Cut* cut = std::get_if<Cut>(&step); cut && cut->piece == 2)
            cut->path.pop_back();
    CHECK(CutLines(shorter).fingerprint() != lines.fingerprint());
    CHECK(CutLines({}).fingerprint().size() == 16);
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
