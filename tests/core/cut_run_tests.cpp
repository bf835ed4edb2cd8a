#include "machine/cut_run.h"
#include "support/rounds.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

Subpath squareAt(Point corner, double side) {
    const Curve curve = polygonOf(Box{corner, corner + Point{side, side}});
    return {curve.start, curve.segments, true};
}

/// Kiss and die lines of pieces side by side, the die lines in two passes by another holder.
struct Work {
    explicit Work(std::size_t pieces) {
        cutter.tools[std::size_t(LineKind::kiss)] = {1, 200, {}, {}, 1, 0, 0};
        cutter.tools[std::size_t(LineKind::die)] = {2, 80, {}, {}, 2, 0, 0};
        for (std::size_t i = 0; i < pieces; ++i) {
            lines.push_back({LineKind::kiss, i, 0, {squareAt({20.0 * double(i) + 3, 5}, 10)}});
            lines.push_back({LineKind::die, i, 1, {squareAt({20.0 * double(i) + 1, 3}, 14)}});
        }
        program = programOf(route(lines), cutter);
    }
    Cutter cutter;
    std::vector<RouteLine> lines;
    CutProgram program;
};

double sum(const CutRecord& record) {
    double all = 0;
    for (const auto& [key, along] : record)
        all += along;
    return all;
}

} // namespace

TEST_CASE("a head cuts all lines of a program, and waits for each tool") {
    const Work work(3);
    CutHead head(work.program, work.cutter, {}, 1);
    CHECK(head.kind() == LineKind::kiss);
    double all = head.secondsLeft();
    int waits = 0;
    for (int i = 0; i < 100'000 && head.state() != CutHead::State::done; ++i) {
        if (head.state() == CutHead::State::waitsForTool) {
            ++waits;
            CHECK(head.kind() == LineKind::die);
            const double left = head.secondsLeft();
            head.advance(5); // nothing moves meanwhile
            CHECK(head.secondsLeft() == left);
            CHECK(head.record().size() == 3);
            head.changeTool();
        }
        head.advance(0.03);
    }
    CHECK(waits == 1);
    CHECK(head.share() == 1);
    CHECK(head.record().size() == 3 + 2 * 3);
    CHECK(sum(head.record()) == Approx(3 * 40 + 2 * 3 * 56));
    double seconds = 0;
    for (const CutStep& step : work.program)
        seconds += secondsOf(step, work.cutter);
    CHECK(all == Approx(seconds).epsilon(0.02));
}

TEST_CASE("a run that is killed goes on where it stopped, and every line is cut once") {
    const Work work(6);
    std::mt19937 random(91);
    std::uniform_real_distribution<double> share(0, 1);
    const double whole = CutHead(work.program, work.cutter, {}, 1).secondsLeft();
    for (int round = 0; round < rounds(50, 10); ++round) {
        CutRecord kept;
        double cut = 0; // mm, of all lives of the program together
        for (int life = 0; life < 20; ++life) {
            CutHead head(work.program, work.cutter, kept, 1);
            const double before = sum(head.record());
            const double end = life == 19 ? 1e9 : whole * 0.2 * share(random);
            for (double now = 0; now < end && head.state() != CutHead::State::done; now += 0.05) {
                if (head.state() == CutHead::State::waitsForTool)
                    head.changeTool();
                head.advance(0.05);
                kept = head.record(); // what is on disk
            }
            cut += sum(head.record()) - before;
        }
        REQUIRE(kept.size() == 6 + 2 * 6);
        for (const auto& [key, along] : kept)
            REQUIRE(along == Approx(key.kind == LineKind::kiss ? 40 : 56));
        REQUIRE(cut == Approx(6 * 40 + 2 * 6 * 56));
    }
}

TEST_CASE("a cut that was stopped half-way begins where it stopped") {
    const Work work(1);
    CutHead head(work.program, work.cutter, {}, 1);
    while (!head.isDown())
        head.advance(0.01);
    head.advance(0.1);
    const Point stopped = head.place();
    REQUIRE(head.record().size() == 1);
    const auto rest = remaining(work.program, head.record());
    REQUIRE(std::holds_alternative<Travel>(rest[1].step));
    CHECK(distance(std::get<Travel>(rest[1].step).to, stopped) < 1e-6);
    CHECK(std::get<Cut>(rest[2].step).length == Approx(40 - head.record().begin()->second));
    CHECK(remaining(work.program, {}).size() >= 6);
}

TEST_CASE("some pieces are cut again alone") {
    const Work work(4);
    const CutProgram some = onlyPieces(work.program, {1, 3}, 4);
    CutHead head(some, work.cutter, {}, 1);
    while (head.state() != CutHead::State::done) {
        if (head.state() == CutHead::State::waitsForTool)
            head.changeTool();
        head.advance(1);
    }
    CHECK(head.record().size() == 2 + 2 * 2);
    for (const auto& [key, along] : head.record())
        CHECK((key.piece == 1 || key.piece == 3));
    CHECK(CutHead(onlyPieces(work.program, {}, 4), work.cutter, {}, 1).state() == CutHead::State::done);
}

TEST_CASE("one kind of line is cut alone") {
    const Work work(3);
    CutHead head(onlyKind(work.program, LineKind::die), work.cutter, {}, 2);
    while (head.state() == CutHead::State::moving)
        head.advance(1);
    CHECK(head.state() == CutHead::State::done);
    CHECK(head.record().size() == 2 * 3);
    for (const auto& [key, along] : head.record())
        CHECK(key.kind == LineKind::die);
    CHECK(remaining(onlyKind(work.program, LineKind::crease), {}).empty());
}
