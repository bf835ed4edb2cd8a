#include "base/error.h"
#include "files/hpgl.h"
#include "machine/registration.h"
#include "queue/run_state.h"

#include <catch2/catch.hpp>

using namespace hasami;

namespace {

RunState someState() {
    RunState state;
    state.sheet = 2;
    state.fault = TrainingFault::tornMark;
    state.seed = 17;
    MarkReading mark;
    mark.id = 1;
    mark.expected = {13, 8};
    mark.found = Point{14.25, 7.5};
    mark.isByHand = true;
    state.marks = {mark, mark};
    state.marks[1].id = 2;
    state.marks[1].found.reset();
    state.record[{LineKind::perforated, 3, 1, 1, 4}] = 27.5;
    state.record[{LineKind::kiss, 0, 0, 0, 0}] = 140;
    state.holder = 2;
    state.pieces = {0, 3};
    state.kind = LineKind::perforated;
    state.hasSlipped = true;
    state.force = 130;
    state.lines = "0123456789abcdef";
    state.bladeDepth = 0.35;
    state.isOnCutter = true;
    return state;
}

} // namespace

TEST_CASE("a run that is kept is read as it was") {
    CHECK(runStateFromJson(toJson(someState())) == someState());
    CHECK(runStateFromJson(toJson(RunState{})) == RunState{});
}

TEST_CASE("a run as format 2 was first kept is read as it was") {
    CHECK(runStateFromJson(R"({"bladeDepth":0.35,"cut":[["kiss",0,0,0,0,140.0],["perforated",3,1,1,4,27.5]],
        "fault":"tornMark","force":130.0,"format":2,"holder":2,"kind":"perforated","lines":"0123456789abcdef",
        "marks":[{"byHand":true,"expected":[13.0,8.0],"found":[14.25,7.5],"id":1},
                 {"byHand":true,"expected":[13.0,8.0],"found":null,"id":2}],
        "onCutter":true,"pieces":[0,3],"seed":17,"sheet":2,"slipped":true})") == someState());
}

TEST_CASE("a run that is damaged is refused with a sentence") {
    const std::string whole = toJson(someState());
    for (const auto& [old, wrong] : std::vector<std::pair<std::string, std::string>>{
             {"\"seed\":17", "\"seed\":-1"},
             {"\"tornMark\"", "\"wornMark\""},
             {"\"slipped\":true", "\"slipped\":7"},
             {"[14.25,7.5]", "[14.25]"},
             {"[\"kiss\",0,0,0,0,140.0]", "[\"hug\",0,0,0,0,140.0]"},
             {"[\"kiss\",0,0,0,0,140.0]", "[\"kiss\",0,0,0,140.0]"},
             {"\"force\":130.0", "\"force\":-1"},
             {"\"sheet\":2", "\"shoot\":2"}}) {
        INFO(old << " as " << wrong);
        std::string text = whole;
        REQUIRE(text.find(old) != std::string::npos);
        text.replace(text.find(old), old.size(), wrong);
        CHECK_THROWS_AS(runStateFromJson(text), InputError);
    }
    for (std::size_t length = 0; length < whole.size(); length += 7)
        CHECK_THROWS_AS(runStateFromJson(whole.substr(0, length)), InputError);
}

TEST_CASE("the whole cuts in the first part of a file are counted") {
    Cutter cutter;
    std::vector<RouteLine> lines;
    for (std::size_t i = 0; i < 3; ++i) {
        const Curve curve = polygonOf(Box{{20.0 * double(i), 5}, {20.0 * double(i) + 10, 15}});
        lines.push_back({LineKind::kiss, i, 0, {{curve.start, curve.segments, true}}});
    }
    const std::string hpgl = hpglOf(programOf(lines, cutter), cutter, 100);
    CHECK(cutsIn(hpgl) == 3);
    CHECK(cutsIn("") == 0);
    std::size_t last = 0;
    for (std::size_t length = 0; length <= hpgl.size(); ++length) {
        const std::size_t cuts = cutsIn(std::string_view(hpgl).substr(0, length));
        REQUIRE((cuts == last || cuts == last + 1));
        last = cuts;
    }
    CHECK(last == 3);
}

TEST_CASE("a test cut's file has each drop with its force, where the sheet lies") {
    Cutter cutter;
    cutter.tools[std::size_t(LineKind::kiss)].force = 100;
    const TestCut test = testCutAt({50, 60}, cutter.tool(LineKind::kiss));
    std::vector<MarkReading> marks{{1, {0, 0}, Point{1, 2}}, {2, {100, 0}, Point{101, 2}}};
    const std::string hpgl = testCutHpgl(test, registrationOf(marks).map, cutter, 100);
    CHECK(cutsIn(hpgl) == 10);
    for (const char* force : {"FS70;", "FS85;", "FS100;", "FS115;", "FS130;"})
        CHECK(hpgl.find(force) != std::string::npos);
    // The first ring begins on the right of its middle, 5 mm off: of the sheet (55, 36), on the bed (56, 38).
    const Point ring = test.drops[0].paths[1].front();
    CHECK(distance(ring, {55, 36}) < 1e-9);
    CHECK(hpgl.find("PU" + std::to_string(56 * 40) + "," + std::to_string((100 - 38) * 40) + ";") !=
          std::string::npos);
}

TEST_CASE("a tool without a force is not cut with another one's, nor with a test cut's last one") {
    Cutter cutter;
    cutter.tools[std::size_t(LineKind::kiss)].force = 90;
    cutter.tools[std::size_t(LineKind::die)].holder = 2;
    const Curve curve = polygonOf(Box{{10, 10}, {20, 20}});
    const std::vector<RouteLine> lines{{LineKind::kiss, 0, 0, {{curve.start, curve.segments, true}}},
                                       {LineKind::die, 0, 1, {{curve.start, curve.segments, true}}}};
    const std::string both = hpglOf(programOf(lines, cutter), cutter, 100);
    CHECK(both.find("SP1;FS90;") != std::string::npos);
    CHECK(both.find("SP2;FS;VS") != std::string::npos);
    CHECK(hpglOf(programOf({lines[1]}, cutter), cutter, 100).find("SP2;FS;VS") != std::string::npos);
    cutter.tools[std::size_t(LineKind::kiss)].force.reset(); // none at all: nothing is said of force
    CHECK(hpglOf(programOf(lines, cutter), cutter, 100).find("FS") == std::string::npos);
    const TestCut test = testCutAt({50, 60}, cutter.tool(LineKind::kiss));
    CHECK(testCutHpgl(test, {}, cutter, 100).find(";\nFS;PU0,0") != std::string::npos);
}

TEST_CASE("where a head is follows from a machine's answer, along whichever axes it has") {
    Cutter cutter;
    CHECK(placeOfHead("400,800,0", cutter, 100) == Point{10, 80}); // its y runs up
    CHECK(placeOfHead(" +400, 800,1\r", cutter, 100) == Point{10, 80});
    CHECK(placeOfHead("-40.0,20.0,0", cutter, 100) == Point{-1, 99.5});
    cutter.axes.isMirrored = true;
    CHECK(placeOfHead("400,800,0", cutter, 100) == Point{10, 20});
    cutter.axes.isTurned = true;
    CHECK(placeOfHead("400,800,0", cutter, 100) == Point{20, 10});
    const Point place = placeOfHead("0,0,0", cutter, 100, Point{13, 8});
    CHECK(place.x == Approx(13));
    CHECK(place.y == Approx(8));
    for (const char* wrong : {"", "busy", "400", "400;800", ",,"})
        CHECK_THROWS_AS(placeOfHead(wrong, cutter, 100), InputError);
}
