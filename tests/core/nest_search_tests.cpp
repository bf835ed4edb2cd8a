// What the search of nesting stands on: shapes a little smaller than their outlines, overlaps computed again
// only where something changed, layouts to begin with.
#include "nesting/first/berths.h"
#include "nesting/first/bottom_left.h"
#include "nesting/first/rows.h"
#include "nesting/first/snug.h"
#include "nesting/layout/sound.h"
#include "nesting/nest.h"
#include "nesting/search/belt.h"
#include "nesting/search/cover.h"
#include "nesting/search/merge.h"
#include "nesting/shape/outline.h"
#include "support/nest_setting.h"
#include "support/rounds.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <algorithm>
#include <chrono>
#include <numbers>
#include <random>

using namespace hasami;
using namespace hasami::nesting;
using hasami::test::partOf;
using hasami::test::Setting;
using hasami::test::starOf;

namespace {

constexpr double pi = std::numbers::pi;

Loop discOf(double radius) {
    Loop loop;
    for (int i = 0; i < 60; ++i)
        loop.push_back(Point{std::cos(i * pi / 30), std::sin(i * pi / 30)} * radius);
    return loop;
}

/// Where sides only move out, no corner is left behind.
bool holdsCorners(const Loop& outer, const Loop& inner) {
    return std::all_of(inner.begin(), inner.end(),
                       [&](Point p) { return contains(outer, p) || test::distanceToLoop(p, outer) < 1e-9; });
}

Problem blobs(int kinds, int copies, std::mt19937& random) {
    Problem problem;
    problem.media.width = 200;
    problem.gap = 1;
    for (int i = 0; i < kinds; ++i)
        problem.parts.push_back(
            partOf("blob " + std::to_string(i), test::randomBlob(random, {0, 0}, 8 + 2 * i), copies));
    return problem;
}

/// Weighed by a bed that knows nothing yet.
double freshLoss(const Setting& setting, const Start& start, const Spots& spots) {
    Bed bed = setting.bed(start);
    bed.put(spots);
    return bed.loss();
}

} // namespace

TEST_CASE(
    "moved in, no corner goes farther than half as much again, and no side less than its corners allow") {
    std::mt19937 random(3);
    constexpr double by = 0.0015;
    for (int i = 0; i < 50; ++i) {
        const Loop loop = i == 0 ? Loop{{0, 0}, {60, 0}, {60, 3}} // a needle
                                 : test::randomBlob(random, {5, 5}, 3 + i);
        const Loop moved = grown({loop}, -by).front();
        REQUIRE(moved.size() == loop.size());
        for (std::size_t k = 0; k < loop.size(); ++k) {
            CHECK(distance(loop[k], moved[k]) <= 1.5 * by + 1e-12);
            CHECK(distance(loop[k], moved[k]) >= by * (1 - 1e-9));
            // Each side's middle lies inside.
            const Point a = moved[k], b = moved[(k + 1) % moved.size()];
            CHECK(contains(loop, between(a, b, 0.5)));
        }
        CHECK(signedArea(moved) < signedArea(loop));
    }
}

TEST_CASE("an outline of fewer points lies nowhere inside the exact one, and no farther out than told") {
    std::mt19937 random(4);
    for (int i = 0; i < 12; ++i) {
        const double off = i % 2 ? 0.02 : 0.1;
        const std::vector<Loop> exact =
            grown({i < 4 ? starOf(20, 5 + i, 0.4) : test::randomBlob(random, {0, 0}, 20)}, 1);
        const std::vector<Loop> few = simplifiedOutward(exact, {400, 0.002, off});
        REQUIRE(few.size() == 1);
        CHECK(few.front().size() < exact.front().size());
        CHECK(holdsCorners(few.front(), exact.front()));
        for (std::size_t k = 0; k < few.front().size(); ++k) {
            const Point corner = few.front()[k], next = few.front()[(k + 1) % few.front().size()];
            for (const double share : {0.0, 0.25, 0.5, 0.75})
                CHECK(test::distanceToLoop(between(corner, next, share), exact.front()) <= off + 1e-9);
        }
    }
    // Many points are simplified to as many as are wanted, if farther out.
    Loop rough = discOf(30);
    for (int round = 0; round < 4; ++round)
        rough = grown({rough}, 0.01).front();
    const std::vector<Loop> wanted = simplifiedOutward({rough}, {30, 0.01, 0.001});
    CHECK(wanted.front().size() <= 30);
    CHECK(holdsCorners(wanted.front(), rough));
    Loop torn;
    std::uniform_real_distribution<double> anyRadius(18, 22);
    for (int i = 0; i < 2000; ++i)
        torn.push_back(Point{std::cos(i * pi / 1000), std::sin(i * pi / 1000)} * anyRadius(random));
    torn = grown({torn}, 1).front();
    const std::vector<Loop> told = simplifiedOutward({torn}, {72, 0.002, 0.02});
    CHECK(told.front().size() <= 72);
    CHECK(holdsCorners(told.front(), torn));
}

TEST_CASE("what is moved along together costs as if all were weighed anew") {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> anyPlace(0, 200), anyTurn(-pi, pi);
    const Problem problem = blobs(6, 8, random);
    const Setting setting(problem);
    const Start start = rows(setting.ground);
    Bed bed = setting.bed(start);
    Spots spots{{}, 1, 220};
    for (std::size_t i = 0; i < start.copies.size(); ++i)
        spots.at.push_back({0, {anyPlace(random), anyPlace(random), anyTurn(random), false}});
    bed.put(spots);
    CHECK(bed.loss() > 0);
    for (int round = 0; round < 40; ++round) {
        const double line = anyPlace(random), by = round % 3 == 0 ? -4 : 1.5;
        for (Spot& spot : spots.at)
            if (spot.pose.x > line)
                spot.pose.x += by;
        if (round % 4 == 1)
            spots.at[random() % spots.at.size()].pose = {anyPlace(random), anyPlace(random), anyTurn(random),
                                                         false};
        if (round % 10 == 9)
            spots.length = 150 + 10 * double(round % 7); // what sticks out is computed again
        bed.put(spots);
        CHECK(bed.loss() == Approx(freshLoss(setting, start, spots)).epsilon(1e-4));
        CHECK(bed.spots().at == spots.at);
        const std::size_t copy = random() % spots.at.size();
        bed.move(copy, {0, {anyPlace(random), anyPlace(random), anyTurn(random), false}});
        spots = bed.spots();
        CHECK(bed.loss() == Approx(freshLoss(setting, start, spots)).epsilon(1e-4));
    }
}

TEST_CASE("a start that is over gives nothing, else it is sound and shorter than rows") {
    std::mt19937 random(21);
    const Problem problem = blobs(5, 10, random);
    const Setting setting(problem);
    const Start first = rows(setting.ground);
    CHECK(isSound(setting.ground, first.copies, first.spots));
    CHECK(!bottomLeft(setting.ground, first, {24, 8}, [] { return true; }));
    const auto better = bottomLeft(setting.ground, first, {24, 8}, [] { return false; });
    REQUIRE(better);
    CHECK(isSound(setting.ground, better->copies, better->spots));
    CHECK(reachOf(setting.ground, better->spots) < reachOf(setting.ground, first.spots));
    const auto snug = bottomLeft(setting.ground, first, {24, 8, true}, [] { return false; });
    REQUIRE(snug);
    CHECK(isSound(setting.ground, snug->copies, snug->spots));
    CHECK(reachOf(setting.ground, snug->spots) < reachOf(setting.ground, first.spots));
    // Blobs are not made for each other.
    Problem tight = problem;
    tight.gap = 0;
    const Setting other(tight);
    int offered = 0;
    findSnugStarts(
        other.ground, rows(other.ground), 1, 100'000, [] { return false; },
        [&](const Start& start) {
            ++offered;
            CHECK(isSound(other.ground, start.copies, start.spots));
        });
    CHECK(offered < 4);
}

namespace {

/// A field's cells once more, one by one.
struct PlainField {
    static constexpr int rows = 150, columns = 60;
    bool taken[columns][rows]{};

    void take(const Stamp& stamp, int column, int row) {
        for (const Stamp::Run& run : stamp.runs)
            std::fill_n(&taken[column + run.column][row + run.from], run.count, true);
    }
    bool fits(const Stamp& stamp, int column, int row) const {
        return row >= 0 && row + stamp.rows <= rows &&
               std::all_of(stamp.runs.begin(), stamp.runs.end(), [&](const Stamp::Run& run) {
                   const bool* cells = taken[column + run.column] + row + run.from;
                   return std::count(cells, cells + run.count, true) == 0;
               });
    }
    double contact(const Stamp& stamp, int column, int row) const {
        int touched = 0, all = 0;
        for (const Stamp::Run& run : stamp.rim)
            for (int y = row + run.from; y < row + run.from + run.count; ++y, ++all) {
                const int x = column + run.column;
                touched += x < 0 || x >= columns || y < 0 || y >= rows || taken[x][y] ? 1 : 0;
            }
        return double(touched) / all;
    }
    std::optional<Berths::Berth> foremost(const Stamp& stamp) const {
        for (int column = 0; column + stamp.columns <= columns; ++column)
            for (int row = 0; row < rows; ++row)
                if (fits(stamp, column, row))
                    return Berths::Berth{column, row};
        return {};
    }
    std::optional<Berths::Berth> snuggest(const Stamp& stamp, int column, double least) const {
        std::optional<Berths::Berth> best;
        for (int row = 0; row < rows; ++row)
            if (fits(stamp, column, row) && !(fits(stamp, column, row - 1) && fits(stamp, column, row + 1)))
                if (const double here = contact(stamp, column, row); here > least) {
                    least = here;
                    best = {column, row, here};
                }
        return best;
    }
};

/// Those of the field as those of cells that are looked at one by one; how many there were.
int checkBerths(Berths& berths, const PlainField& plain, const Stamp& stamp, double least) {
    const auto same = [](const std::optional<Berths::Berth>& a, const std::optional<Berths::Berth>& b) {
        return a.has_value() == b.has_value() && (!a || (a->column == b->column && a->row == b->row));
    };
    const auto first = berths.foremost(PlainField::columns - stamp.columns);
    CHECK(same(first, plain.foremost(stamp)));
    int found = 0;
    for (int column = first ? first->column : PlainField::columns;
         column + stamp.columns <= PlainField::columns; ++column) {
        const auto berth = berths.snuggest(column, least), expected = plain.snuggest(stamp, column, least);
        CHECK(same(berth, expected));
        if (berth && expected) {
            CHECK(berth->contact == Approx(expected->contact));
            ++found;
        }
    }
    return found;
}

} // namespace

TEST_CASE("a stamp's berths, while the field fills, are those of looking at it cell by cell") {
    std::mt19937 random(5);
    Field field(PlainField::rows, PlainField::columns, PlainField::rows);
    PlainField plain;
    for (int i = 0; i < 20; ++i) {
        const int column = int(random() % PlainField::columns),
                  from = int(random() % (PlainField::rows - 40)), count = int(1 + random() % 40);
        field.take(column, from, count);
        std::fill_n(&plain.taken[column][from], count, true);
    }
    const Problem problem = blobs(4, 1, random);
    std::vector<Stamp> stamps;
    for (const nesting::Item& item : prepared(problem)) {
        stamps.push_back(stampOf(item.shapes.front(), 0.3, false, 2));
        addRim(stamps.back());
    }
    std::vector<Berths> berths;
    for (const Stamp& stamp : stamps)
        berths.emplace_back(field, stamp);
    int found = 0, laid = 0;
    for (int round = 0; round < test::rounds(40, 10); ++round) {
        for (std::size_t i = 0; i < stamps.size(); ++i)
            found += checkBerths(berths[i], plain, stamps[i], int(random() % 10) * 0.1);
        const Stamp& stamp = stamps[random() % stamps.size()];
        const int column = int(random() % std::size_t(PlainField::columns - stamp.columns)),
                  row = int(random() % std::size_t(PlainField::rows - stamp.rows));
        if (round % 4 == 0 || plain.fits(stamp, column, row)) { // also upon what is taken
            field.take(stamp, column, row);
            plain.take(stamp, column, row);
            ++laid;
        }
    }
    CHECK(found > 100);
    CHECK(laid > test::rounds(10, 2));
}

TEST_CASE("how much of a shape is covered at a place follows the areas, and what is taken leaves nothing") {
    std::mt19937 random(11);
    Problem problem = blobs(2, 1, random);
    problem.parts.push_back(partOf("ring", discOf(12), 1));
    problem.parts.back().openings.push_back(discOf(9));
    const Setting setting(problem);
    const Box room{{0, 0}, {150, 200}};
    Cover cover;
    cover.lay(room, 150, 1, 0.5, 30);
    const auto everywhere = [&](const nesting::Item& item, double turn) {
        cover.aim(Probing(item.shapes.front()), turn);
        std::vector<int> hits;
        for (double x = 0; x < 150; x += 5)
            for (double y = 0; y < 200; y += 5)
                hits.push_back(cover.at(0, {x, y}, 1000));
        return hits;
    };
    const Pose pose{80, 90, 0.7, false};
    for (const nesting::Item& item : setting.items) {
        INFO(problem.parts[item.part].id);
        const auto points = int(Probing(item.shapes.front()).x.size());
        CHECK(points >= 32);
        CHECK(points <= 96);
        const std::vector<int> before = everywhere(item, pose.rotation);
        Placed placed(item.shapes.front());
        placed.place(pose);
        cover.add(placed, 0);
        cover.aim(Probing(item.shapes.front()), pose.rotation);
        const int alike = cover.at(0, {pose.x, pose.y}, 1000);
        CHECK(alike <= points);
        CHECK(10 * alike >= 9 * points); // at the rim some miss
        CHECK(cover.at(0, {pose.x - 60, pose.y}, 1000) == 0);
        CHECK(cover.at(0, {0, 90}, 1000) > points / 4); // half of it is outside
        CHECK(cover.at(0, {pose.x, pose.y}, 20) >= 20); // and no more than that is reported
        cover.add(placed, 0);
        CHECK(cover.at(0, {pose.x, pose.y}, 1000) == 2 * alike);
        cover.setLength(60);
        CHECK(cover.at(0, {pose.x + 15, pose.y}, 1000) >= points);
        cover.setLength(150);
        cover.take(placed, 0);
        cover.take(placed, 0);
        CHECK(everywhere(item, pose.rotation) == before);
    }
    // A sliver askew is looked at no more closely than others, and soon.
    const Part sliver = partOf("sliver", {{0, 0}, {100, 100}, {99.97, 100.03}}, 1);
    Problem thin;
    thin.media.width = 200;
    thin.parts = {sliver};
    CHECK(Probing(Setting(thin).items.front().shapes.front()).x.size() <= 96);
    // In the middle of the ring nothing is covered.
    Placed ring(setting.items.back().shapes.front());
    ring.place(pose);
    cover.add(ring, 0);
    const Part pebble = partOf("pebble", discOf(5), 1);
    Problem other;
    other.media.width = 200;
    other.parts = {pebble};
    const Setting pebbles(other);
    cover.aim(Probing(pebbles.items.front().shapes.front()), 0);
    CHECK(cover.at(0, {pose.x, pose.y}, 1000) == 0);
    CHECK(cover.at(0, {pose.x + 10, pose.y}, 1000) > 0);
}

TEST_CASE("a plank along a narrow roll with dots beside it is nested whole", "[long]") {
    Problem problem;
    problem.media.width = 20;
    problem.gap = 0.5;
    problem.parts = {partOf("plank", {{0, 0}, {3000, 0}, {3000, 10}, {0, 10}}, 1),
                     partOf("dot", discOf(4), 40)};
    Effort effort;
    effort.moves = 200;
    const Nest found = nest(problem, effort, {}, {});
    CHECK(found.placements.size() == 41);
    CHECK(found.notPlaced.empty());
    CHECK(found.usedLength >= 2999.99); // margins hold to a hundredth
    CHECK(found.usedLength < 3000.1);   // the dots lie beside it
}

TEST_CASE("a change to a layout is carried over to another that was made of the same one") {
    Spots before{{}, 1, 100};
    for (int i = 0; i < 10; ++i)
        before.at.push_back({0, {10.0 * i, 5, 0.1 * i, false}});
    Spots own = before, other = before;
    own.at[2].pose.rotation = 3; // each lays one again and moves along what follows
    own.at[2].pose.y = 8;
    other.at[6].pose = {55, 9, 1, true};
    for (std::size_t i = 3; i < 10; ++i)
        own.at[i].pose.x -= 2;
    for (std::size_t i = 7; i < 10; ++i)
        other.at[i].pose.x -= 3;
    own.length = 98;
    other.length = 97;
    const auto both = joined(before, own, other);
    REQUIRE(both);
    CHECK(both->length == 95);
    CHECK(both->at[1] == before.at[1]);
    CHECK(both->at[2] == own.at[2]);
    CHECK(both->at[6] == Spot{0, {53, 9, 1, true}});
    CHECK(both->at[9].pose.x == 90 - 2 - 3);
    CHECK(joined(before, other, own)->at == both->at);
    // What is laid again across the other's line moves along with what lies there.
    own.at[0].pose = {88, 7, 0, false};
    CHECK(joined(before, own, other)->at[0] == Spot{0, {85, 7, 0, false}});
    // Where both laid the same copy again, the other's place counts.
    other.at[2].pose = {26, 9, 1, false};
    CHECK(joined(before, own, other)->at[2] == Spot{0, {24, 9, 1, false}});
    other.sheets = 2;
    CHECK(!joined(before, own, other));
}

TEST_CASE("belts lie beside each other and move on over the whole length") {
    CHECK(beltOf(3, 1, 5).from == 0);
    CHECK(beltOf(3, 1, 5).to == 1);
    for (const int belts : {2, 3, 8}) {
        std::vector<bool> isReached(100, false);
        for (int turn = 0; turn < 60; ++turn)
            for (int number = 0; number < belts; ++number) {
                const Belt belt = beltOf(number, belts, turn);
                CHECK(belt.from >= 0);
                CHECK(belt.to <= 1);
                CHECK(belt.to - belt.from <= 1.0 / belts + 1e-9);
                CHECK(belt.to - belt.from >= 0.5 / belts - 1e-9);
                for (int other = 0; other < number; ++other) {
                    const Belt beside = beltOf(other, belts, turn);
                    CHECK((beside.to <= belt.from + 1e-9 || belt.to <= beside.from + 1e-9));
                }
                for (int i = 0; i < 100; ++i)
                    if (belt.from <= 0.01 * i && 0.01 * (i + 1) <= belt.to)
                        isReached[std::size_t(i)] = true;
            }
        CHECK(std::count(isReached.begin(), isReached.end(), true) >= 99);
    }
}

TEST_CASE("sheets at the end that nothing lies on are not told as used") {
    Problem problem;
    problem.media = {100, 100.0};
    problem.parts = {partOf("square", {{0, 0}, {40, 0}, {40, 40}, {0, 40}}, 3)};
    const Setting setting(problem);
    Bed bed = setting.bed(rows(setting.ground));
    Spots spots{{{0, {20, 20, 0, false}}, {1, {50, 70, 0, false}}, {1, {30, 20, 0, false}}}, 4, 100};
    bed.put(spots);
    CHECK(bed.isFree());
    const Spots used = bed.usedSpots();
    CHECK(used.at == spots.at);
    CHECK(used.sheets == 2);
    CHECK(used.length == Approx(70).margin(0.01));
}

TEST_CASE("a part finds its place within the belt") {
    Problem problem;
    problem.media.width = 100;
    problem.parts = {partOf("disc", discOf(9), 12)};
    const Setting setting(problem);
    const Start first = rows(setting.ground);
    Bed bed = setting.bed(first);
    Spots spots = first.spots;
    spots.length = 600;
    for (std::size_t i = 0; i < spots.at.size(); ++i)
        spots.at[i].pose = {300, 50, 0, false};
    Random random(5);
    bed.keepTo(200, 280);
    bed.put(spots);
    for (int round = 0; round < 3; ++round)
        for (const std::size_t copy : bed.troubled())
            bed.improve(copy, random);
    int inBelt = 0;
    for (std::size_t i = 0; i < spots.at.size(); ++i) {
        const double x = bed.spot(i).pose.x;
        CHECK((x > 195 && x < 325)); // in the belt, or close to where all lay
        inBelt += x < 285;
    }
    CHECK(inBelt >= 9);
    CHECK(bed.isFree());
}

TEST_CASE("a medium that is covered from edge to edge ends the search, however long it may take") {
    Problem problem;
    problem.media.width = 40;
    problem.parts = {partOf("left", {{0, 0}, {30, 0}, {20, 40}, {0, 40}}, 1),
                     partOf("right", {{30, 0}, {60, 0}, {60, 40}, {20, 40}}, 1)};
    Effort effort;
    effort.seconds = 60;
    effort.threads = 2;
    const auto begin = std::chrono::steady_clock::now();
    const Nest made = nest(problem, effort);
    const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - begin;
    CHECK(taken.count() < effort.seconds);
    CHECK(made.usedLength == Approx(60).margin(0.01));
    CHECK(made.density > 0.9998);
}
