#include "geometry/curve_place.h"
#include "machine/bed_program.h"
#include "machine/program.h"
#include "machine/registration.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;

namespace {

RouteLine square(LineKind kind, std::size_t piece, std::size_t line, Point at, double side) {
    Subpath run{at, {}, true};
    Point from = at;
    for (const Point to : {at + Point{side, 0}, at + Point{side, side}, at + Point{0, side}, at}) {
        run.segments.push_back(straightSegment(from, to));
        from = to;
    }
    return {kind, piece, line, {run}};
}

template <class Step>
std::vector<Step> all(const CutProgram& program) {
    std::vector<Step> some;
    for (const CutStep& step : program)
        if (const auto* one = std::get_if<Step>(&step))
            some.push_back(*one);
    return some;
}

} // namespace

TEST_CASE("a program selects each kind's tool once, travels from cut to cut, and ends at the origin") {
    const std::vector<RouteLine> route{square(LineKind::kiss, 3, 1, {10, 10}, 5),
                                       square(LineKind::kiss, 4, 0, {30, 10}, 5),
                                       square(LineKind::die, 3, 0, {8, 8}, 9)};
    const CutProgram program = programOf(route, {});
    const auto tools = all<SelectTool>(program);
    REQUIRE(tools.size() == 2);
    CHECK(tools[0].kind == LineKind::kiss);
    CHECK(tools[1].kind == LineKind::die);
    const auto cuts = all<Cut>(program);
    REQUIRE(cuts.size() == 3);
    CHECK(cuts[0].piece == 3);
    CHECK(cuts[0].line == 1);
    CHECK(cuts[1].piece == 4);
    CHECK(cuts[2].kind == LineKind::die);
    Point at;
    for (const CutStep& step : program) { // the knife is where each step begins
        if (const auto* travel = std::get_if<Travel>(&step)) {
            CHECK(travel->from == at);
            at = travel->to;
        } else if (const auto* cut = std::get_if<Cut>(&step)) {
            CHECK(cut->path.front() == at);
            at = cut->path.back();
        }
    }
    CHECK(at == Point{});
    CHECK(programOf({}, {}).empty());
}

TEST_CASE("a line is cut in as many passes as its kind asks for, all runs before the next pass") {
    Cutter cutter;
    Tool& tool = cutter.tools[std::size_t(LineKind::perforated)];
    tool.passes = 2;
    RouteLine dashed{LineKind::perforated, 0, 0, {}};
    for (const double x : {0.0, 10.0, 20.0})
        dashed.runs.push_back({{x, 0}, {straightSegment({x, 0}, {x + 6, 0})}, false});
    const auto cuts = all<Cut>(programOf({dashed}, cutter));
    REQUIRE(cuts.size() == 6);
    for (std::size_t i = 0; i < cuts.size(); ++i) {
        CHECK(cuts[i].pass == int(i / 3));
        CHECK(cuts[i].length == Approx(6));
        CHECK(cuts[i].path.front().x == Approx(10.0 * double(i % 3)));
    }
}

TEST_CASE("a cut takes its length, with the overcut, by its kind's speed; a travel the kiss cut's") {
    Cutter cutter;
    cutter.tools[std::size_t(LineKind::kiss)].speed = 400;
    Tool& die = cutter.tools[std::size_t(LineKind::die)];
    die.speed = 50;
    die.overcut = 2;
    die.bladeOffset = 0.3; // the holder goes farther than the tip cuts
    const CutProgram program = programOf({square(LineKind::die, 0, 0, {30, 40}, 10)}, cutter);
    double seconds = 0;
    for (const CutStep& step : program)
        seconds += secondsOf(step, cutter);
    const auto travels = all<Travel>(program);
    REQUIRE(travels.size() == 2);
    const double travelled =
        distance(travels[0].from, travels[0].to) + distance(travels[1].from, travels[1].to);
    CHECK(all<Cut>(program).front().length == Approx(42));
    CHECK(seconds == Approx(travelled / 400 + secondsPerLift + 42.0 / 50));
}

TEST_CASE("with an acceleration, a cutter takes longer at corners and on short ways") {
    Cutter cutter;
    cutter.tools[std::size_t(LineKind::kiss)].speed = 400;
    cutter.acceleration = 2000;
    // 0.2 s up to full speed, over 40 mm.
    CHECK(secondsOf(Travel{LineKind::kiss, {0, 0}, {20, 0}}, cutter) == Approx(2 * std::sqrt(20.0 / 2000)));
    CHECK(secondsOf(Travel{LineKind::kiss, {0, 0}, {1000, 0}}, cutter) == Approx(1000.0 / 400 + 0.2));
    const std::vector<Point> corners{{0, 0}, {200, 0}, {200, 200}, {0, 200}, {0, 0}};
    CHECK(secondsOf(Cut{LineKind::kiss, 0, 0, 0, corners, 800}, cutter) ==
          Approx(secondsPerLift + 4 * (200.0 / 400 + 0.2)));
    const std::vector<Point> straight{{0, 0}, {200, 0}, {400, 2}, {800, 4}};
    CHECK(secondsOf(Cut{LineKind::kiss, 0, 0, 0, straight, 800}, cutter) ==
          Approx(secondsPerLift + 800.0 / 400 + 0.2).epsilon(0.001));
    cutter.acceleration = 0;
    CHECK(secondsOf(Cut{LineKind::kiss, 0, 0, 0, corners, 800}, cutter) == Approx(secondsPerLift + 2));
}

TEST_CASE("a tool in another holder takes the time of a change, the first one and the same one none") {
    Cutter cutter;
    cutter.toolChange = 30;
    cutter.tools[std::size_t(LineKind::die)].holder = 2;
    const CutProgram program{SelectTool{LineKind::kiss}, SelectTool{LineKind::perforated}, Travel{},
                             SelectTool{LineKind::die}};
    CHECK(secondsToChange(program, 0, cutter) == 0);
    CHECK(secondsToChange(program, 1, cutter) == 0);
    CHECK(secondsToChange(program, 2, cutter) == 0);
    CHECK(secondsToChange(program, 3, cutter) == 30);
}

TEST_CASE("a program is moved to where the print lies") {
    const Cutter cutter;
    const CutProgram program = programOf({square(LineKind::kiss, 0, 0, {10, 10}, 5)}, cutter);
    std::vector<MarkReading> marks{{1, {0, 0}, Point{1, 2}}, {2, {100, 0}, Point{101, 2}}};
    const CutProgram moved = onBed(program, registrationOf(marks).map);
    CHECK(distance(all<Cut>(moved).front().path.front(),
                   all<Cut>(program).front().path.front() + Point{1, 2}) < 1e-9);
}
