#include "sheet/sheet.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace hasami;

namespace {

Copies copiesOf(std::string design, double width, double height, int count) {
    return {std::move(design), {{-1, -2}, {width - 1, height - 2}}, count};
}

Box placed(const Piece& piece, const std::vector<Copies>& all) {
    for (const Copies& c : all)
        if (c.design == piece.design)
            return {piece.place(c.footprint.least), piece.place(c.footprint.most)};
    FAIL("a piece of no design");
    return {};
}

double gapBetween(const Box& a, const Box& b) {
    const double x = std::max(a.least.x - b.most.x, b.least.x - a.most.x);
    const double y = std::max(a.least.y - b.most.y, b.least.y - a.most.y);
    return std::max(x, y);
}

/// Inside of which nothing else is printed.
Loop quietOf(const Mark& mark) {
    return flatten(mark.quiet.at(0), 0.001);
}

void requireSound(const Layout& layout, const std::vector<Copies>& all, const SheetPlan& plan,
                  const Profile& profile) {
    for (const Sheet& sheet : layout.sheets) {
        REQUIRE(sheet.marks.size() == 4);
        for (std::size_t i = 0; i < sheet.pieces.size(); ++i) {
            const Box box = placed(sheet.pieces[i], all);
            REQUIRE(sheet.pieces[i].place.determinant() == 1);
            REQUIRE(box.least.x >= profile.cutter.reach.leading);
            REQUIRE(box.least.y >= profile.cutter.reach.sides);
            REQUIRE(box.most.y <= plan.medium.width - profile.cutter.reach.sides + 1e-6);
            REQUIRE(box.most.x <= sheet.length - profile.cutter.reach.trailing + 1e-6);
            for (std::size_t j = i + 1; j < sheet.pieces.size(); ++j)
                REQUIRE(gapBetween(box, placed(sheet.pieces[j], all)) >= plan.gap - 1e-9);
            for (const Mark& mark : sheet.marks) {
                const Point nearest{std::clamp(mark.centre.x, box.least.x, box.most.x),
                                    std::clamp(mark.centre.y, box.least.y, box.most.y)};
                REQUIRE_FALSE(contains(quietOf(mark), nearest));
            }
        }
        for (const Mark& mark : sheet.marks) {
            const Box ink = bounds(flatten(mark.ink, 0.001));
            REQUIRE(ink.least.y >= profile.cutter.reach.sides - 1e-9);
            REQUIRE(ink.most.y <= plan.medium.width - profile.cutter.reach.sides + 1e-6);
            REQUIRE(ink.least.x >= profile.cutter.reach.leading - 1e-9);
            REQUIRE(ink.most.x <= sheet.length - profile.cutter.reach.trailing + 1e-6);
        }
    }
}

} // namespace

TEST_CASE("marks stand where the profile says: 8 mm outside the work's corners, 6 mm across, 4 mm quiet") {
    const Profile profile = startProfile();
    const std::vector<Copies> one{copiesOf("a", 50, 40, 1)};
    const Layout layout = layOut(one, {{600, {}}, 3}, profile);
    REQUIRE(layout.sheets.size() == 1);
    const Sheet& sheet = layout.sheets[0];
    CHECK(sheet.work.width() == 50);
    CHECK(sheet.work.height() == 40);
    const Box outside = sheet.work.grownBy(8);
    std::size_t atCorners = 0;
    for (const Mark& mark : sheet.marks) {
        CHECK(dotRadius(mark) == Approx(3));
        CHECK(bounds(quietOf(mark)).width() == Approx(14));
        for (const Point corner : {outside.least, outside.most, Point{outside.least.x, outside.most.y},
                                   Point{outside.most.x, outside.least.y}})
            atCorners += mark.centre == corner;
    }
    CHECK(atCorners == 4);
    // 10 to the reach, 3 and 8 to the work, 50 of work, 8 and 3 to the last mark's rim, 20 at the end.
    CHECK(sheet.usedLength == Approx(10 + 3 + 8 + 50 + 8 + 3 + 20));
    CHECK(sheet.length == sheet.usedLength);
}

TEST_CASE("another profile gives other marks: nothing of them is fixed in the program") {
    Profile profile = startProfile();
    profile.marks = {4, 12, 6};
    profile.cutter.reach = {30, 5, 9};
    const std::vector<Copies> some{copiesOf("a", 20, 30, 7)};
    const SheetPlan plan{{300, {}}, 2};
    const Layout layout = layOut(some, plan, profile);
    requireSound(layout, some, plan, profile);
    CHECK(dotRadius(layout.sheets[0].marks[0]) == Approx(2));
    CHECK(layout.sheets[0].marks[0].centre.x == Approx(32));
}

TEST_CASE("rows fill the width before the length") {
    const Profile profile = startProfile();
    const std::vector<Copies> some{copiesOf("a", 50, 47, 24)};
    const Layout layout = layOut(some, {{600, {}}, 3}, profile);
    REQUIRE(layout.pieces() == 24);
    // 568 mm across: eleven of 47 with gaps of 3, so three rows.
    CHECK(layout.sheets[0].work.width() == Approx(3 * 50 + 2 * 3));
    CHECK(layout.sheets[0].work.height() == Approx(11 * 47 + 10 * 3));
}

TEST_CASE("random designs on rolls and sheets: sound layouts, and no copy is lost") {
    const Profile profile = startProfile();
    std::mt19937 random(5);
    std::uniform_real_distribution<double> side(5, 160), gap(0, 10);
    std::uniform_int_distribution<int> count(0, 30), designs(1, 5);
    for (int round = 0; round < 60; ++round) {
        std::vector<Copies> all;
        const int n = designs(random);
        for (int i = 0; i < n; ++i)
            all.push_back(copiesOf(std::to_string(i), side(random), side(random), count(random)));
        SheetPlan plan{round % 3 == 0 ? Medium{450, {}} : (round % 3 == 1 ? a4Sheet : letterSheet),
                       gap(random)};
        const Layout layout = layOut(all, plan, profile);
        requireSound(layout, all, plan, profile);
        std::size_t wanted = 0, missing = 0;
        for (const Copies& c : all)
            wanted += std::size_t(c.count);
        for (const Unplaced& u : layout.unplaced) {
            missing += std::size_t(u.count);
            CHECK_FALSE(u.reason.empty());
        }
        CHECK(layout.pieces() + missing == wanted);
    }
}

TEST_CASE("what is larger than the medium is listed with the reason, the rest is placed") {
    const std::vector<Copies> all{copiesOf("poster", 400, 700, 2), copiesOf("dot", 20, 20, 3)};
    const Layout layout = layOut(all, {a4Sheet, 3}, startProfile());
    REQUIRE(layout.unplaced.size() == 1);
    CHECK(layout.unplaced[0].design == "poster");
    CHECK(layout.unplaced[0].count == 2);
    CHECK(layout.unplaced[0].reason.find("700 mm across") != std::string::npos);
    CHECK(layout.pieces() == 3);
}

TEST_CASE("a medium too small for the marks, and more copies than a roll can hold, are told") {
    const std::vector<Copies> small{copiesOf("a", 5, 5, 1)};
    const Layout none = layOut(small, {{30, 30.0}, 3}, startProfile());
    REQUIRE(none.unplaced.size() == 1);
    CHECK(none.sheets.empty());

    const std::vector<Copies> many{copiesOf("a", 100, 500, 100'000)};
    const Layout roll = layOut(many, {{600, {}}, 3}, startProfile());
    REQUIRE(roll.unplaced.size() == 1);
    CHECK(roll.pieces() + std::size_t(roll.unplaced[0].count) == 100'000);
    CHECK(roll.unplaced[0].reason.find("50 m") != std::string::npos);
}

TEST_CASE("a shared box runs around all pieces of each sheet, inside the marks") {
    SheetPlan plan{a4Sheet, 3};
    plan.box = SharedBox{LineKind::die, 6, 4, {}};
    const std::vector<Copies> all{copiesOf("a", 50, 40, 17), copiesOf("b", 30, 80, 3)};
    const Profile profile = startProfile();
    const Layout layout = layOut(all, plan, profile);
    REQUIRE(layout.sheets.size() > 1);
    CHECK(layout.unplaced.empty());
    requireSound(layout, all, plan, profile);
    for (const Sheet& sheet : layout.sheets) {
        Box around;
        for (const Piece& piece : sheet.pieces)
            around.add(placed(piece, all));
        REQUIRE(sheet.lines.size() == 1);
        const Loop line = flatten(sheet.lines[0].curve, 1e-4);
        const Box box = bounds(line);
        CHECK(distance(box.least, around.grownBy(6).least) < 1e-6);
        CHECK(distance(box.most, around.grownBy(6).most) < 1e-6);
        CHECK(signedArea(line) ==
              Approx(box.width() * box.height() - (4 - std::numbers::pi) * 16).epsilon(1e-5));
        CHECK(sheet.lines[0].kind == LineKind::die);
        CHECK(distance(sheet.work.least, box.least) < 1e-6);
        for (const Mark& mark : sheet.marks) // no knife runs through one
            CHECK_FALSE(box.meets(bounds(quietOf(mark))));
    }
}

TEST_CASE("a perforated shared box is held by its tabs, and what leaves no room for it says so") {
    SheetPlan plan{{600, {}}, 3};
    plan.box = SharedBox{LineKind::perforated, 2, 0, {}};
    plan.box->tabs.count = 7;
    const std::vector<Copies> all{copiesOf("a", 50, 40, 5)};
    const Layout layout = layOut(all, plan, startProfile());
    REQUIRE(layout.sheets.size() == 1);
    CHECK(layout.sheets[0].lines.at(0).tabs.size() == 7);
    CHECK(layout.remarks.empty());

    plan.box->tabs.length = 300; // longer than its sides
    CHECK(layOut(all, plan, startProfile()).remarks.size() == 1);
    plan.box->margin = 100;
    plan.medium = a4Sheet;
    const Layout none = layOut(all, plan, startProfile());
    REQUIRE(none.unplaced.size() == 1);
    CHECK(none.unplaced[0].reason.find("shared box") != std::string::npos);
}
