#include "sheet/conflicts.h"
#include "sheet/rows.h"
#include "sheet/sheet.h"
#include "support/sheet_shapes.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace hasami;
using namespace hasami::test;

namespace {

Loop disc(double radius, int points = 360) {
    Loop loop;
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * std::numbers::pi * i / points;
        loop.push_back({radius * std::cos(angle), radius * std::sin(angle)});
    }
    return loop;
}

Copies boxes(std::string design, double along, double across, int count) {
    return {std::move(design), {{0, 0}, {along, across}}, count};
}

/// The same pieces as laid by hand have no conflict: found in another way than the rows were made.
void requireNoConflicts(const std::vector<Copies>& copies, SheetPlan plan) {
    const Profile profile = startProfile();
    const Layout layout = layOut(copies, plan, profile);
    plan.gap = std::min({plan.gap, plan.rows.across.value_or(plan.gap), plan.rows.along.value_or(plan.gap)});
    const auto conflicts = findConflicts(layout, copies, plan, profile);
    CHECK(conflicts.empty());
}

Box boxOf(const Piece& piece, const Copies& copies) {
    return boundsOf(copies, piece.place);
}

} // namespace

TEST_CASE("rows keep a gap of their own across and along, and so many side by side at most") {
    const std::vector<Copies> copies{boxes("a", 40, 30, 10)};
    SheetPlan plan = planOf(rollOf(600), 3);
    plan.rows.across = 5;
    plan.rows.along = 11;
    plan.rows.most = 4;
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.pieces() == 10);
    CHECK(layout.sheets[0].work.height() == Approx(4 * 30 + 3 * 5));
    CHECK(layout.sheets[0].work.width() == Approx(3 * 40 + 2 * 11));
}

TEST_CASE("different designs lie side by side: each row is filled before the next is begun") {
    std::vector<Copies> six;
    for (int i = 0; i < 6; ++i)
        six.push_back(boxes(std::to_string(i), 100, 100, 1));
    const Layout two = layOut(six, planOf(rollOf(600), 3), startProfile());
    REQUIRE(two.pieces() == 6);
    CHECK(two.sheets[0].work.width() == Approx(100 + 3 + 100)); // five of them beside each other

    std::mt19937 random(3);
    std::uniform_real_distribution<double> side(30, 50);
    std::vector<Copies> many;
    double sum = 0;
    for (int i = 0; i < 294; ++i) {
        many.push_back(boxes(std::to_string(i), side(random), side(random), 1));
        sum += (many.back().footprint.width() + 3) * (many.back().footprint.height() + 3);
    }
    const SheetPlan plan = planOf(rollOf(1300), 3);
    const Layout layout = layOut(many, plan, startProfile());
    CHECK(layout.pieces() == 294);
    CHECK(layout.sheets[0].work.width() < 1.15 * sum / workArea(plan, startProfile()).height());
    requireNoConflicts(many, plan);
}

TEST_CASE("short designs lie behind each other beside a long one") {
    const std::vector<Copies> copies{boxes("short", 27, 20, 8), boxes("long", 120, 100, 1)};
    const SheetPlan plan = planOf(rollOf(600), 3);
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.pieces() == 9);
    CHECK(layout.sheets[0].pieces[0].design == "long");
    CHECK(layout.sheets[0].work.width() == Approx(120)); // in two columns of four
    CHECK(layout.sheets[0].work.height() == Approx(100 + 3 + 20 + 3 + 20));
    requireNoConflicts(copies, plan);
}

TEST_CASE("a sheet is filled with what still fits before the next is begun") {
    const SheetPlan plan = planOf(sheetOf(210, 297), 3);
    const Box area = workArea(plan, startProfile());
    const double half = area.width() / 2 + 5;
    const std::vector<Copies> copies{boxes("large", half, area.height() - 10, 2), boxes("small", 40, 40, 3)};
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.sheets.size() == 2);
    CHECK(layout.sheets[0].pieces.size() == 4);
    CHECK(layout.sheets[1].pieces.size() == 1);
    requireNoConflicts(copies, plan);
}

TEST_CASE("used areas stay with their sheet when it is emptied") {
    const std::vector<Copies> copies{boxes("a", 40, 40, 2)};
    SheetPlan plan = planOf(sheetOf(210, 297), 3);
    plan.packing = Packing::nest;
    plan.laid = {{"a", 1, {100, 100}}, {"a", 3, {100, 100}}}; // sheets 0 and 2 were emptied
    plan.medium.used = {{1, {{0, 0}, {210, 70}}}};
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.sheets.size() == 3);
    CHECK(layout.sheets[0].pieces.empty());
    CHECK(layout.sheets[1].pieces.size() == 1);
    CHECK(layout.sheets[2].pieces.size() == 1);
    CHECK(layout.conflicts.empty());
    plan.medium.used[0].box = {{0, 0}, {210, 90}};
    const Layout on = layOut(copies, plan, startProfile());
    REQUIRE(on.conflicts.size() == 1);
    CHECK(on.conflicts[0].sheet == 1);
    CHECK(misplaced(on) == std::vector<std::size_t>{0});
}

TEST_CASE("centred rows lie in the middle of the medium") {
    SheetPlan plan = planOf(rollOf(600), 3);
    plan.rows.isCentred = true;
    const Layout layout = layOut({boxes("a", 40, 30, 5)}, plan, startProfile());
    CHECK(layout.sheets[0].work.centre().y == Approx(300));
    const Layout mixed = layOut({boxes("a", 40, 30, 2), boxes("b", 20, 80, 3)}, plan, startProfile());
    CHECK(mixed.sheets[0].work.width() == Approx(40));
    CHECK(mixed.sheets[0].work.centre().y == Approx(300));
}

TEST_CASE("staggered discs lie as close as discs can: rows by half the square root of three of a pitch") {
    const double radius = 20, gap = 2;
    const std::vector<Copies> copies{shaped("disc", disc(radius), 60)};
    SheetPlan plan = planOf(rollOf(500), gap);
    const double plain = layOut(copies, plan, startProfile()).usedLength();
    plan.rows.isStaggered = true;
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.pieces() == 60);
    CHECK(layout.usedLength() < plain);
    std::vector<double> rows;
    for (const Piece& piece : layout.sheets[0].pieces)
        if (const double x = piece.place({0, 0}).x; rows.empty() || x > rows.back() + 1)
            rows.push_back(x);
    REQUIRE(rows.size() > 3);
    const double pitch = 2 * radius + gap;
    for (std::size_t i = 1; i < rows.size(); ++i)
        CHECK(rows[i] - rows[i - 1] == Approx(pitch * std::sqrt(3) / 2).margin(0.02));
    requireNoConflicts(copies, plan);
}

TEST_CASE("triangles turned against each other take less, and keep their gap") {
    const std::vector<Copies> copies{shaped("tag", {{0, 0}, {50, 20}, {0, 40}}, 30)};
    SheetPlan plan = planOf(rollOf(300), 2);
    const double plain = layOut(copies, plan, startProfile()).usedLength();
    plan.rows.turnsAlternate = true;
    const Layout layout = layOut(copies, plan, startProfile());
    CHECK(layout.pieces() == 30);
    CHECK(layout.usedLength() < 0.75 * plain);
    requireNoConflicts(copies, plan);
    plan.rows.isStaggered = plan.rows.isCentred = true;
    CHECK(layOut(copies, plan, startProfile()).pieces() == 30);
    requireNoConflicts(copies, plan);
}

TEST_CASE("random shapes in rows by all rules keep their gaps, on what can be used of the medium") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> radius(6, 30), gap(0.5, 6);
    for (int round = 0; round < 40; ++round) {
        std::vector<Copies> copies;
        for (int design = 0; design < 3; ++design) {
            Loop loop;
            for (int i = 0; i < 24; ++i) {
                const double angle = 2 * std::numbers::pi * i / 24, r = radius(random);
                loop.push_back({r * std::cos(angle), r * std::sin(angle)});
            }
            copies.push_back(shaped(std::to_string(design), loop, 9));
        }
        SheetPlan plan = planOf(round % 2 == 0 ? rollOf(350) : sheetOf(297, 420), gap(random));
        plan.rows.isStaggered = round % 3 == 0;
        plan.rows.turnsAlternate = round % 4 < 2;
        plan.rows.isCentred = round % 5 == 0;
        if (round % 2 == 1) {
            plan.medium.start = 60;
            plan.medium.lastSide = 40;
            plan.medium.tracks = {{90, 12}};
            plan.medium.used = {{0, {{80, 120}, {180, 200}}}};
        }
        const Layout layout = layOut(copies, plan, startProfile());
        CHECK(layout.pieces() == 27);
        CHECK(layout.unplaced.empty());
        INFO("round " << round);
        requireNoConflicts(copies, plan);
        if (round % 2 == 1)
            CHECK(layout.sheets[0].work.least.x >= 60 + 11); // and room for the marks
    }
}

TEST_CASE("a design that fills takes all the room of a sheet, of a roll one row") {
    Copies filling = boxes("a", 40, 30, 1);
    filling.fills = true;
    const Layout sheet = layOut({filling}, planOf(a4Sheet, 3), startProfile());
    // 178 mm across and 245 along are left by strips and marks: five of 30, five of 40.
    CHECK(sheet.sheets.size() == 1);
    CHECK(sheet.pieces() == 5 * 5);
    const Layout roll = layOut({filling}, planOf(rollOf(600), 3), startProfile());
    CHECK(roll.pieces() == 17);
    CHECK(roll.sheets[0].work.width() == Approx(40));

    Copies other = boxes("b", 20, 50, 1);
    other.fills = true;
    const Layout both = layOut({filling, other, boxes("c", 30, 30, 4)}, planOf(a4Sheet, 3), startProfile());
    CHECK(both.sheets.size() == 1);
    std::map<std::string, int> counts;
    for (const Piece& piece : both.sheets[0].pieces)
        ++counts[piece.design];
    CHECK(counts["c"] == 4);
    CHECK(counts["a"] >= 5);
    CHECK(counts["b"] >= 3);
    const Layout tooLarge = layOut({boxes("c", 230, 170, 1), filling}, planOf(a4Sheet, 3), startProfile());
    CHECK(tooLarge.sheets.size() == 2); // nothing of it is lost: it fills a sheet of its own
}

TEST_CASE("sets stay whole on their sheets") {
    SheetPlan plan = planOf(a4Sheet, 3);
    plan.sets = 7;
    const Layout layout = layOut({boxes("ring", 60, 60, 2), boxes("seal", 40, 40, 3)}, plan, startProfile());
    std::map<std::string, int> all;
    for (const Sheet& sheet : layout.sheets) {
        std::map<std::string, int> here;
        for (const Piece& piece : sheet.pieces) {
            ++here[piece.design];
            ++all[piece.design];
        }
        CHECK(here["ring"] * 3 == here["seal"] * 2);
    }
    CHECK(layout.sheets.size() > 1);
    CHECK(all["ring"] == 14);
    CHECK(all["seal"] == 21);
    plan.medium = rollOf(600);
    CHECK(layOut({boxes("ring", 60, 60, 2)}, plan, startProfile()).pieces() == 14);
}

TEST_CASE("as many sets as one sheet holds are one fewer than would need a second one") {
    SheetPlan plan = planOf(a4Sheet, 3);
    const std::vector<Copies> copies{boxes("ring", 40, 40, 2), boxes("seal", 22, 30, 1)};
    const int most = setsOnSheet(copies, plan, startProfile(), 10'000);
    CHECK(most > 3);
    plan.sets = most;
    CHECK(layOut(copies, plan, startProfile()).sheets.size() == 1);
    plan.sets = most + 1;
    CHECK(layOut(copies, plan, startProfile()).sheets.size() == 2);
    CHECK(setsOnSheet(copies, plan, startProfile(), 3) == 3);
    CHECK(setsOnSheet({boxes("wide", 400, 400, 1)}, plan, startProfile(), 10'000) == 0);
}

TEST_CASE("where a roll ends, the work goes on with another one, each as long as it is used") {
    SheetPlan plan = planOf(rollOf(300), 3);
    plan.medium.rollLength = 400;
    const std::vector<Copies> copies{boxes("a", 40, 30, 100)};
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.sheets.size() > 1);
    CHECK(layout.pieces() == 100);
    double all = 0;
    for (const Sheet& sheet : layout.sheets) {
        CHECK(sheet.usedLength <= 400 + 1e-6);
        CHECK(sheet.length == sheet.usedLength);
        all += sheet.usedLength;
    }
    CHECK(layout.usedLength() == Approx(all));
    plan.medium.rollLength = 60;
    const Layout none = layOut(copies, plan, startProfile());
    REQUIRE(none.unplaced.size() == 1);
    CHECK(none.unplaced[0].count == 100);
}

TEST_CASE("what is kept free of the medium is told when nothing is left") {
    SheetPlan plan = planOf(a4Sheet, 3);
    plan.medium.used = {{0, {{0, 0}, {297, 210}}}};
    const std::vector<Copies> copies{boxes("a", 40, 30, 3)};
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.sheets.size() == 2); // on the next sheet, which is new
    CHECK(layout.sheets[0].marks.empty());
    CHECK(layout.sheets[1].pieces.size() == 3);
    plan.medium.tracks = {{0, 210}};
    const Layout none = layOut(copies, plan, startProfile());
    CHECK(none.pieces() == 0);
    REQUIRE(none.unplaced.size() == 1);
    CHECK(none.unplaced[0].count == 3);
    CHECK(none.unplaced[0].reason.find("kept free") != std::string::npos);
    CHECK(none.sheets.empty());
    SheetPlan roll = planOf(rollOf(300), 3);
    roll.medium.tracks = {{0, 300}};
    const Layout noRoll = layOut(copies, roll, startProfile());
    CHECK(noRoll.sheets.empty());
    REQUIRE(noRoll.unplaced.size() == 1);
    CHECK(noRoll.unplaced[0].reason.find("kept free") != std::string::npos);
    plan.margin = 110;
    const Layout noRoom = layOut(copies, plan, startProfile());
    REQUIRE(noRoom.unplaced.size() == 1);
    CHECK(noRoom.unplaced[0].reason.find("the margin") != std::string::npos);
}

TEST_CASE("laid pieces lie where they were laid, all others in rows behind them") {
    const std::vector<Copies> copies{boxes("a", 40, 30, 5), boxes("b", 20, 20, 2)};
    SheetPlan plan = planOf(rollOf(600), 3);
    plan.packing = Packing::nest;
    plan.laid = {{"a", 0, {100, 100}, 90, false}, {"a", 0, {100, 200}, 33, true}};
    const Layout layout = layOut(copies, plan, startProfile());
    REQUIRE(layout.pieces() == 7);
    CHECK(layout.conflicts.empty());
    const auto& pieces = layout.sheets[0].pieces;
    const Box turned = boxOf(pieces[0], copies[0]);
    CHECK(turned.width() == Approx(30));
    CHECK(turned.height() == Approx(40));
    CHECK(distance(turned.centre(), {100, 100}) < 1e-9);
    CHECK(pieces[1].isPinned);
    double behind = 0;
    for (std::size_t i = 0; i < 2; ++i)
        behind = std::max(behind, boxOf(pieces[i], copies[0]).most.x);
    for (std::size_t i = 2; i < pieces.size(); ++i)
        CHECK(boxOf(pieces[i], pieces[i].design == "a" ? copies[0] : copies[1]).least.x >= behind + 3 - 1e-9);

    // What is laid so is the same as what is reported of it.
    plan.laid = laidOf(layout, copies);
    const Layout again = layOut(copies, plan, startProfile());
    REQUIRE(again.pieces() == 7);
    for (std::size_t i = 0; i < 7; ++i)
        CHECK(distance(again.sheets[0].pieces[i].place({7, 9}), pieces[i].place({7, 9})) < 1e-9);

    // Fewer are wanted: the pinned one stays.
    std::vector<Copies> fewer = copies;
    fewer[0].count = 1;
    const Layout one = layOut(fewer, plan, startProfile());
    REQUIRE(one.pieces() == 3);
    CHECK(one.sheets[0].pieces[0].isPinned);
    plan.packing = Packing::rows; // rows take no notice of it
    CHECK(layOut(copies, plan, startProfile()).sheets[0].work.height() > 160);
}

TEST_CASE("pieces that lie where they can't are told: too close, over the edge, on what is kept free") {
    const std::vector<Copies> copies{boxes("a", 40, 30, 4)};
    SheetPlan plan = planOf(sheetOf(400, 400), 3);
    plan.packing = Packing::nest;
    plan.medium.used = {{0, {{200, 200}, {300, 300}}}};
    plan.laid = {
        {"a", 0, {100, 100}, 0}, {"a", 0, {142.9, 100}, 0}, {"a", 0, {30, 200}, 0}, {"a", 0, {220, 190}, 0}};
    const auto conflicts = layOut(copies, plan, startProfile()).conflicts;
    const auto has = [&](const Conflict& conflict) {
        return std::find(conflicts.begin(), conflicts.end(), conflict) != conflicts.end();
    };
    CHECK(conflicts.size() == 3);
    CHECK(has({0, 0, Conflict::With::piece, 1}));
    CHECK(has({0, 2, Conflict::With::edge, 0}));
    CHECK(has({0, 3, Conflict::With::kept, 0}));
    plan.laid.edit()[1].centre.x = 143;
    CHECK(layOut(copies, plan, startProfile()).conflicts.size() == 2);
}

TEST_CASE("closeness of random shapes is what all their sides against each other tell") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> radius(4, 20), place(-45, 45);
    const auto shape = [&] {
        Loop loop;
        for (int i = 0; i < 15; ++i) {
            const double angle = 2 * std::numbers::pi * i / 15, r = radius(random);
            loop.push_back({r * std::cos(angle), r * std::sin(angle)});
        }
        return loop;
    };
    int close = 0;
    for (int round = 0; round < 3000; ++round) {
        const Body a(Region{{shape()}}), b(Region{{shape()}});
        const Point by{place(random), place(random)};
        double least = 1e9;
        const Loop &p = a.outline.loops[0], &q = b.outline.loops[0];
        for (std::size_t i = 0; i < p.size(); ++i)
            for (std::size_t k = 0; k < q.size(); ++k) {
                least = std::min(least, distanceToSegment(p[i], q[k] + by, q[(k + 1) % q.size()] + by));
                least = std::min(least, distanceToSegment(q[k] + by, p[i], p[(i + 1) % p.size()]));
            }
        // Shapes about their origin overlap where one holds a corner of the other, or sides cross.
        bool overlaps = false;
        for (std::size_t i = 0; i < p.size(); ++i)
            for (std::size_t k = 0; k < q.size(); ++k) {
                overlaps = overlaps || contains(q, p[i] - by) || contains(p, q[k] + by);
                const Point c = p[i], d = p[(i + 1) % p.size()], e = q[k] + by,
                            f = q[(k + 1) % q.size()] + by;
                overlaps = overlaps || ((cross(d - c, e - c) > 0) != (cross(d - c, f - c) > 0) &&
                                        (cross(f - e, c - e) > 0) != (cross(f - e, d - e) > 0));
            }
        if (overlaps)
            least = 0;
        const double gap = 3;
        if (std::abs(least - gap) > 2 * conflictTolerance)
            CHECK(comesTooClose(a, b, gap, by) == (least < gap));
        if (!overlaps && least > 0.05) {
            CHECK_FALSE(comesTooClose(a, b, 0, by));
            Body moved = b;
            for (Point& point : moved.outline.loops[0])
                point = point + by;
            const ShortestWay way = shortestWay(a, Body(moved.outline));
            CHECK(way.length == Approx(least));
            CHECK(distance(way.from, way.to) == Approx(least));
        }
        close += least < gap;
    }
    CHECK(close > 300);
    // Shapes that fit together without a gap touch, and are no conflict.
    const Body left(Region{{{{0, 0}, {10, 0}, {10, 10}, {0, 10}}}});
    CHECK_FALSE(comesTooClose(left, left, 0, {10, 0}));
    CHECK(comesTooClose(left, left, 0, {9.9, 0}));
    CHECK(comesTooClose(left, left, 0, {0, 0}));
}

TEST_CASE("the nearest free place is near, free, and found wherever there is one") {
    const std::vector<Copies> copies{shaped("disc", disc(20), 3)};
    SheetPlan plan = planOf(rollOf(300), 2);
    plan.packing = Packing::nest;
    plan.laid = {{"disc", 0, {100, 100}, 0}, {"disc", 0, {142, 100}, 0}, {"disc", 0, {120, 104}, 0}};
    const Layout layout = layOut(copies, plan, startProfile());
    CHECK(layout.conflicts.size() == 2);
    const Surroundings around(plan.laid, copies, plan, startProfile(), 0, {2});
    const Body body(outlineOf(copies[0], layout.sheets[0].pieces[2].place));
    CHECK_FALSE(around.isFree(body));
    CHECK(around.tooClose(body) == std::vector<std::size_t>{0, 1});
    const auto move = around.nearestFree({body});
    REQUIRE(move);
    // In the notch of the two: at 36.37 mm from the line between them.
    CHECK(length(*move) < 33.2);
    plan.laid.edit()[2].centre = (*plan.laid)[2].centre + *move;
    CHECK(layOut(copies, plan, startProfile()).conflicts.empty());
    const auto ways =
        around.waysToNearest(Body(outlineOf(copies[0], placeOf(copies[0], {121, 180}, 0))), 3, 100);
    REQUIRE(ways.size() == 2);
    CHECK(ways[0].length == Approx(std::hypot(21, 80) - 40).margin(0.01));

    plan.medium = sheetOf(130, 150); // a sheet that two discs fill
    plan.laid = {{"disc", 0, {66, 70}, 0}, {"disc", 0, {66, 71}, 0}};
    const std::vector<Copies> two{shaped("disc", disc(40), 2)};
    const Layout full = layOut(two, plan, startProfile());
    const Surroundings walls(plan.laid, two, plan, startProfile(), 0, {1});
    CHECK_FALSE(walls.nearestFree({Body(outlineOf(two[0], full.sheets[0].pieces[1].place))}));
}
