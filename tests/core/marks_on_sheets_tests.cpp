#include "sheet/arrange_pieces.h"
#include "sheet/marks_between.h"
#include "sheet/nest_sheet.h"
#include "sheet/usable.h"
#include "support/rounds.h"
#include "support/shapes.h"
#include "support/sheet_shapes.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// One of each style, with what goes with it.
std::vector<MarkScheme> styles() {
    std::vector<MarkScheme> all(7, MarkScheme{5, 8, 3});
    all[1].shape = MarkShape::bracket;
    all[2].shape = MarkShape::cross;
    all[3].shape = MarkShape::square;
    all[4].corners = 3;
    all[5].interval = 120;
    all[5].inSections = true;
    all[6].between = 5;
    return all;
}

Profile profileWith(const MarkScheme& marks) {
    Profile profile = startProfile();
    profile.marks = marks;
    return profile;
}

std::vector<Copies> blobs(std::mt19937& random) {
    std::uniform_real_distribution<double> radius(8, 20);
    std::vector<Copies> copies;
    for (int i = 0; i < 4; ++i)
        copies.push_back(
            shaped(std::string(1, char('a' + i)), randomBlob(random, {0, 0}, radius(random)), 5));
    return copies;
}

/// mm² of pieces inside of marks' quiet zones.
double enteredIn(const Layout& layout, const std::vector<Copies>& copies) {
    double entered = 0;
    for (const Sheet& sheet : layout.sheets)
        for (const Mark& mark : sheet.marks)
            for (const Piece& piece : sheet.pieces) {
                const Copies& of = copies[std::size_t(piece.design[0] - 'a')];
                if (boundsOf(of, piece.place).meets(bounds(flatten(mark.quiet, 0.001))))
                    entered += area(intersection(outlineOf(of, piece.place), flatten(mark.quiet, 0.001)));
            }
    return entered;
}

std::vector<double> pairsOf(const Sheet& sheet) {
    std::vector<double> places;
    for (std::size_t i = 0; i + 1 < sheet.marks.size(); i += 2) {
        CHECK(sheet.marks[i].centre.x == sheet.marks[i + 1].centre.x);
        CHECK(sheet.marks[i].id == int(i) + 1);
        places.push_back(sheet.marks[i].centre.x);
    }
    return places;
}

} // namespace

TEST_CASE("no piece enters a quiet zone, in rows, nests and after pushing apart, whatever the marks") {
    std::mt19937 random(24);
    std::uniform_real_distribution<double> anywhere(0, 250);
    for (const MarkScheme& marks : styles())
        for (int round = 0; round < test::rounds(4, 1); ++round) {
            INFO("shape " << int(marks.shape) << ", interval " << marks.interval << ", between "
                          << marks.between);
            const Profile profile = profileWith(marks);
            const std::vector<Copies> copies = blobs(random);
            SheetPlan plan = planOf(rollOf(250), 2);
            const Layout rows = layOut(copies, plan, profile);
            CHECK(rows.pieces() == 20);
            CHECK(enteredIn(rows, copies) == Approx(0).margin(1e-3));

            plan.packing = Packing::nest;
            const SheetNest nest(copies, rows, plan, profile);
            plan.laid = nest.laid(nesting::nest(nest.problem(), {0, test::rounds(400, 50), 1, 2}));
            const Layout nested = layOut(copies, plan, profile);
            CHECK(nested.pieces() == 20);
            CHECK(nested.conflicts.empty());
            CHECK(enteredIn(nested, copies) == Approx(0).margin(1e-3));

            std::vector<LaidPiece> thrown = *plan.laid;
            for (LaidPiece& piece : thrown)
                piece.centre = {anywhere(random), anywhere(random)};
            PieceArrangement pieces(thrown, copies, plan, profile);
            std::vector<std::size_t> all(thrown.size());
            for (std::size_t i = 0; i < all.size(); ++i)
                all[i] = i;
            CHECK(pieces.pushApart(all) == 0);
            plan.laid = pieces.laid();
            const Layout pushed = layOut(copies, plan, profile);
            CHECK(pushed.conflicts.empty());
            CHECK(enteredIn(pushed, copies) == Approx(0).margin(1e-3));
        }
}

TEST_CASE("pairs along a roll stand evenly, none farther apart than the interval") {
    MarkScheme marks{5, 8, 3};
    for (const double length : {20.0, 300.0, 983.0, 984.0, 985.0, 4000.0}) {
        marks.interval = 1000;
        Sheet sheet;
        sheet.marks = marksAround({{30, 20}, {30 + length, 120}}, marks);
        const std::vector<double> places = pairsOf(sheet);
        CHECK(places.front() == 30 - 8);
        CHECK(places.back() == 30 + length + 8);
        CHECK(places.size() == std::size_t(std::ceil((length + 16) / 1000)) + 1);
        for (std::size_t i = 1; i < places.size(); ++i)
            CHECK(places[i] - places[i - 1] == Approx((length + 16) / double(places.size() - 1)));
    }
}

TEST_CASE("where the work is cut in sections, no piece lies across the line between a pair of marks") {
    MarkScheme marks{5, 8, 3};
    marks.interval = 200;
    marks.inSections = true;
    const Profile profile = profileWith(marks);
    const std::vector<Copies> copies{shaped("a", regionOf({{0, 0}, {70, 50}}).loops.front(), 60)};
    const SheetPlan plan = planOf(rollOf(300), 2);
    const Layout layout = layOut(copies, plan, profile);
    REQUIRE(layout.sheets.size() == 1);
    CHECK(layout.unplaced.empty());
    const std::vector<double> places = pairsOf(layout.sheets.front());
    REQUIRE(places.size() > 4);
    for (std::size_t i = 1; i + 1 < places.size(); ++i)
        CHECK(places[i] - places[i - 1] == Approx(200));
    CHECK(places.back() - places[places.size() - 2] <= 200 + leastInterval(marks));
    for (const Piece& piece : layout.sheets.front().pieces) {
        const Box box = boundsOf(copies.front(), piece.place);
        for (const double place : places)
            CHECK((box.most.x <= place || box.least.x >= place));
    }
    const std::vector<Copies> longer{shaped("a", regionOf({{0, 0}, {220, 50}}).loops.front(), 1)};
    const Layout none = layOut(longer, plan, profile);
    REQUIRE(none.unplaced.size() == 1);
    CHECK(none.unplaced[0].reason.find("longer than a section") != std::string::npos);
}

TEST_CASE("marks between pieces measure a drift better than any placed at random") {
    // Pieces in a lattice with lanes between them.
    std::vector<Body> taken;
    for (int i = 0; i < 9; ++i)
        for (int k = 0; k < 6; ++k)
            taken.emplace_back(regionOf({{30.0 * i, 30.0 * k}, {30.0 * i + 16, 30.0 * k + 16}}));
    const Box within{{0, 0}, {256, 166}};
    const std::vector<Point> corners{{-8, -8}, {264, -8}, {-8, 174}, {264, 174}};
    const MarkRoom room{within, taken, 5, 10};
    const Box frame{corners[0], corners[3]};
    std::mt19937 random(7);
    std::uniform_real_distribution<double> x(0, 256), y(0, 166);
    const auto isFree = [&](Point p) {
        return std::none_of(taken.begin(), taken.end(), [&](const Body& body) {
            return comesTooClose(body, Body(regionOf({p, p + Point{0.001, 0.001}})), 5);
        });
    };
    for (const int count : {1, 2, 5, 9}) {
        std::vector<Point> ours = placesBetween(room, corners, count);
        REQUIRE(ours.size() == std::size_t(count));
        for (std::size_t i = 0; i < ours.size(); ++i) {
            CHECK(isFree(ours[i]));
            for (std::size_t k = 0; k < i; ++k)
                CHECK(distance(ours[i], ours[k]) >= 10);
        }
        ours.insert(ours.end(), corners.begin(), corners.end());
        const double known = conditioning(ours, frame);
        for (int trial = 0; trial < 300; ++trial) {
            std::vector<Point> other = corners;
            while (other.size() < ours.size())
                if (const Point p{x(random), y(random)}; isFree(p))
                    other.push_back(p);
            CHECK(conditioning(other, frame) < known + 0.05);
        }
    }
    CHECK(placesBetween(room, corners, 5) == placesBetween(room, corners, 5));
}

TEST_CASE("where there is no room for marks between pieces, the layout says how many there are") {
    MarkScheme marks{5, 8, 3};
    marks.between = 3;
    const std::vector<Copies> copies{shaped("a", regionOf({{0, 0}, {30, 30}}).loops.front(), 10)};
    SheetPlan plan = planOf(rollOf(200), 1);
    const Layout tight = layOut(copies, plan, profileWith(marks));
    CHECK(tight.sheets.front().marks.size() == 4);
    REQUIRE(tight.remarks.size() == 1);
    CHECK(tight.remarks[0].code == FindingCode::fewMarks);
    CHECK(tight.remarks[0].text == "On sheet 1 there is room for 0 of 3 marks between the pieces");
    plan.gap = 12;
    const Layout loose = layOut(copies, plan, profileWith(marks));
    CHECK(loose.sheets.front().marks.size() == 7);
    CHECK(loose.remarks.empty());
}

TEST_CASE("each place of a sheet where no piece can lie has its reason") {
    Profile profile = startProfile();
    profile.cutter.reach = {10, 20, 5};
    profile.cutter.rollers = {{100, 10}};
    profile.marks = {5, 8, 3};
    profile.lead.code = CodeKind::dataMatrix;
    profile.lead.module = 2;
    SheetPlan plan = planOf(sheetOf(200, 300), 2);
    plan.margin = 8;
    plan.medium.used = {{0, {{200, 20}, {240, 60}}}};
    const std::vector<Copies> copies{shaped("a", regionOf({{0, 0}, {30, 30}}).loops.front(), 4)};
    const Layout layout = layOut(copies, plan, profile);
    const Sheet& sheet = layout.sheets.front();
    const auto why = [&](double x, double y) { return whyUnusable(plan, profile, sheet, 0, {x, y}); };
    CHECK(why(5, 50) == Unusable::reach);
    CHECK(why(150, 6) == Unusable::margin);
    CHECK(why(220, 40) == Unusable::used);
    CHECK(why(150, 105) == Unusable::rollers);
    CHECK(why(150, 12) == Unusable::marks);
    CHECK(why(14, 80) == Unusable::lead);
    CHECK(why(sheet.marks[0].centre.x, sheet.marks[0].centre.y) == Unusable::quiet);
    CHECK(why(150, 80) == Unusable::nothing);
    CHECK(sentenceOn(Unusable::nothing) == nullptr);
    for (const Unusable reason : {Unusable::reach, Unusable::margin, Unusable::used, Unusable::rollers,
                                  Unusable::sections, Unusable::quiet, Unusable::marks, Unusable::lead})
        CHECK(std::string(sentenceOn(reason)).size() > 10);
}
