#include "base/error.h"
#include "codes/code.h"
#include "lettering/text_outline.h"
#include "sheet/lead.h"

#include <catch2/catch.hpp>

#include <numeric>

using namespace hasami;

namespace {

LeadRoom roomFor(const MarkScheme& marks, const Box& work = {{40, 20}, {140, 120}}) {
    return {work, 2, 298, {{150, 10}}, marksAround(work, marks)};
}

Box boxOf(const std::vector<Curve>& ink) {
    return bounds(flatten(ink, 0.001));
}

} // namespace

TEST_CASE("a square code has its finder's solid sides, and as many modules as the standard says") {
    const Grid<std::uint8_t> modules = modulesOf(CodeKind::dataMatrix, "quillmoor-honey/1");
    REQUIRE(modules.width() == modules.height());
    CHECK((modules.width() == 18 || modules.width() == 20));
    const int last = modules.height() - 1;
    for (int i = 0; i <= last; ++i) {
        CHECK(modules.at(0, i) == 1);           // left and bottom sides are solid,
        CHECK(modules.at(i, last) == 1);        //
        CHECK(modules.at(i, 0) == (i + 1) % 2); // the others alternate
        CHECK(modules.at(last, last - i) == (i + 1) % 2);
    }
    const Grid<std::uint8_t> bars = modulesOf(CodeKind::code128, "AB/1");
    CHECK(bars.height() == 1);
    CHECK(bars.width() % 11 == 2); // symbols of eleven modules, and the last bar of the stop
    CHECK_THROWS_AS(modulesOf(CodeKind::code128, std::string(400, 'x')), InputError);
}

TEST_CASE("what stands at the leading edge keeps clear of the work, of quiet zones and of each other") {
    LeadScheme scheme;
    scheme.hasArrow = scheme.hasTicks = true;
    for (const CodeKind code : {CodeKind::none, CodeKind::dataMatrix, CodeKind::code128})
        for (const LeadPlace place : {LeadPlace::first, LeadPlace::middle, LeadPlace::last})
            for (const MarkShape shape : {MarkShape::dot, MarkShape::bracket}) {
                scheme.code = code;
                scheme.place = place;
                MarkScheme marks{8, 12, 4};
                marks.shape = shape;
                const LeadRoom room = roomFor(marks);
                const Lead lead = leadMarks(scheme, room, "bee/1");
                CHECK(lead.leftOut.empty());
                CHECK(lead.marks.size() == (code == CodeKind::none ? 2 : 3));
                for (const LeadMark& mark : lead.marks) {
                    CHECK(mark.box.grownBy(1e-6).holds(boxOf(mark.ink)));
                    CHECK(mark.box.least.x >= 0);
                    CHECK(mark.box.most.x <= room.work.least.x - 1.9);
                    for (const Mark& other : room.marks)
                        CHECK_FALSE(mark.box.meets(bounds(flatten(other.quiet, 0.001))));
                    for (const LeadMark& other : lead.marks)
                        CHECK((&other == &mark || !other.box.meets(mark.box)));
                }
            }
}

TEST_CASE("the arrow points to the leading edge, a tick stands in the middle of its rollers") {
    LeadScheme scheme;
    scheme.hasArrow = scheme.hasTicks = true;
    const Lead lead = leadMarks(scheme, roomFor({6, 8, 2}), "");
    REQUIRE(lead.marks.size() == 2);
    const Loop wedge = flatten(lead.marks[0].ink.front(), 0.001);
    const auto tip = std::min_element(wedge.begin(), wedge.end(), [](Point a, Point b) { return a.x < b.x; });
    CHECK(std::count_if(wedge.begin(), wedge.end(), [&](Point p) { return p.x < tip->x + 3; }) == 1);
    CHECK(lead.marks[1].kind == LeadMark::Kind::tick);
    CHECK(lead.marks[1].box.centre().y == Approx(155));
}

TEST_CASE(
    "a code that is too long between the marks has finer modules, as far as readers can tell them apart") {
    LeadScheme scheme;
    scheme.code = CodeKind::code128;
    const Grid<std::uint8_t> modules = modulesOf(CodeKind::code128, "heather-lids/1");
    const auto widthIn = [&](double across) {
        LeadRoom room = roomFor({6, 8, 2}, {{40, 20}, {60, 20 + across}});
        room.least = 14;
        room.most = across + 26; // no room beside the marks
        const Lead lead = leadMarks(scheme, room, "heather-lids/1");
        return lead.marks.empty() ? 0.0 : boxOf(lead.marks[0].ink).height();
    };
    CHECK(widthIn(150) == Approx(modules.width() * 0.5));
    CHECK(widthIn(70) < 70);
    CHECK(widthIn(70) >= modules.width() * 0.25);
    CHECK(widthIn(30) == 0);
}

TEST_CASE("a line of text is as high as its capitals ask, and as wide as its letters say") {
    const TextOutline hats = outlineOfText("HHH", 2.5);
    const Box box = boxOf(hats.rims);
    CHECK(hats.rims.size() == 3);
    CHECK(box.height() == Approx(2.5).epsilon(0.002));
    CHECK(box.most.y == Approx(0).margin(0.01)); // on the baseline
    CHECK(outlineOfText("HHHHHH", 2.5).width == Approx(2 * hats.width));
    CHECK(outlineOfText("o", 2.5).rims.size() == 2);
    CHECK(outlineOfText("iii", 2.5).width < hats.width);
    CHECK(outlineOfText("H\U0001F41D", 2.5).rims.size() == 1); // no bee in this font
    CHECK(outlineOfText("", 2.5).rims.empty());

    LeadScheme scheme;
    scheme.hasText = true;
    const LeadRoom room = roomFor({6, 8, 2});
    const Lead lead = leadMarks(scheme, room, "", "heather, sheet 1 of 2");
    REQUIRE(lead.marks.size() == 1);
    CHECK(lead.marks[0].kind == LeadMark::Kind::text);
    CHECK(lead.marks[0].box.holds(boxOf(lead.marks[0].ink)));
    CHECK(lead.marks[0].box.most.x < room.work.least.x);
    CHECK(lead.marks[0].box.least.y == Approx(room.work.least.y));
    // Upright on the printed page, whose leading edge is on top and whose left is the medium's last side.
    const Lead upright = leadMarks(scheme, room, "", "H.");
    REQUIRE(upright.marks.at(0).ink.size() == 2);
    const Box h = boxOf({upright.marks[0].ink[0]}), stop = boxOf({upright.marks[0].ink[1]});
    CHECK(stop.most.y < h.least.y);
    CHECK(stop.least.x > h.centre().x);
}

TEST_CASE("what finds no room at the leading edge is named") {
    LeadScheme scheme;
    scheme.code = CodeKind::code128;
    LeadRoom room = roomFor({6, 8, 2}, {{40, 20}, {60, 30}});
    room.most = 40;
    const Lead lead = leadMarks(scheme, room, "a-long-name-of-a-job/12");
    CHECK(lead.marks.empty());
    REQUIRE(lead.leftOut.size() == 1);
    CHECK(std::string(lead.leftOut[0]) == "the job's code");
}
