#include "sheet/arrange_pieces.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;

namespace {

using Numbers = PieceArrangement::Numbers;

/// Boxes of 40 by 20 mm, laid in a column on a sheet of 400 mm.
struct Column {
    explicit Column(int pieces = 4) {
        copies = {{"a", {{0, 0}, {40, 20}}, pieces}};
        plan.medium = sheetOf(400, 400);
        plan.packing = Packing::nest;
        for (int i = 0; i < pieces; ++i)
            plan.laid.edit().push_back({"a", 0, {60, 50.0 + 30 * i}, 0, false});
    }

    PieceArrangement pieces() const { return {plan.laid, copies, plan, profile}; }
    bool isSound(const PieceArrangement& arrangement) const {
        SheetPlan checked = plan;
        checked.laid = arrangement.laid();
        return layOut(copies, checked, profile).conflicts.empty();
    }

    std::vector<Copies> copies;
    SheetPlan plan;
    Profile profile = startProfile();
};

} // namespace

TEST_CASE("what is moved or turned by hand is pinned, and nothing else moves") {
    const Column column;
    PieceArrangement pieces = column.pieces();
    pieces.move({1}, {100, 5});
    CHECK(pieces.laid()[1].centre == Point{160, 85});
    CHECK(pieces.laid()[1].isPinned);
    pieces.turn({2}, 90);
    const Box turned = pieces.boxOf({2});
    CHECK(turned.width() == Approx(20));
    CHECK(turned.height() == Approx(40));
    CHECK(turned.centre().y == Approx(110));
    for (const std::size_t other : {0U, 3U})
        CHECK(pieces.laid()[other] == (*column.plan.laid)[other]);
    pieces.pin({1, 2}, false);
    CHECK_FALSE(pieces.laid()[2].isPinned);
    pieces.move({0}, {}, 1);
    CHECK(pieces.laid()[0].sheet == 1);
}

TEST_CASE("several turn about their common middle, and four quarters bring them back") {
    const Column column;
    PieceArrangement pieces = column.pieces();
    const Point middle = pieces.boxOf({0, 1, 2}).centre();
    pieces.turn({0, 1, 2}, 90);
    CHECK(distance(pieces.boxOf({0, 1, 2}).centre(), middle) < 1e-9);
    CHECK(pieces.boxOf({0, 1, 2}).width() == Approx(80));
    for (int i = 0; i < 3; ++i)
        pieces.turn({0, 1, 2}, 90);
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(distance(pieces.laid()[i].centre, (*column.plan.laid)[i].centre) < 1e-9);
        CHECK(std::abs(pieces.laid()[i].turn) < 1e-9);
    }
}

TEST_CASE("pieces are aligned to each other, one to the area that can be used, and none lies on another") {
    Column column;
    column.plan.laid.edit()[1].centre = {200, 80};
    column.plan.laid.edit()[2].centre = {130, 81}; // beside it: to align both would lay one on the other
    PieceArrangement pieces = column.pieces();
    pieces.align({0, 1}, Alignment::right);
    CHECK(pieces.boxOf({0}).most.x == Approx(220));
    CHECK(pieces.boxOf({1}).most.x == Approx(220));
    pieces.align({1, 2}, Alignment::left);
    CHECK(column.isSound(pieces));
    pieces.align({3}, Alignment::bottom);
    const Box area = workArea(column.plan, column.profile);
    CHECK(pieces.boxOf({3}).most.y == Approx(area.most.y));
    pieces.align({3}, Alignment::right);
    CHECK(pieces.boxOf({3}).most.x == Approx(area.most.x));
    CHECK(column.isSound(pieces));
}

TEST_CASE("duplicates find free places, as long as there are any") {
    Column column;
    PieceArrangement pieces = column.pieces();
    const Numbers made = pieces.duplicate({0, 1, 2, 3});
    CHECK(made == Numbers{4, 5, 6, 7});
    column.copies[0].count = 8;
    CHECK(column.isSound(pieces));
    for (const std::size_t i : made)
        CHECK_FALSE(pieces.laid()[i].isPinned);

    Column small(1);
    small.plan.medium = sheetOf(80, 120); // room for two at most
    small.plan.laid.edit()[0].centre = {50, 30};
    PieceArrangement few = small.pieces();
    std::size_t all = 1;
    for (int i = 0; i < 4; ++i)
        all += few.duplicate({0}).size();
    small.copies[0].count = int(all);
    CHECK(all < 4);
    CHECK(few.laid().size() == all);
    CHECK(small.isSound(few));
}

TEST_CASE("random heaps of pieces are pushed apart, each as near as it goes") {
    std::mt19937 random(17);
    std::uniform_real_distribution<double> place(60, 300), turn(-180, 180);
    for (int round = 0; round < 12; ++round) {
        Column column(14);
        for (LaidPiece& piece : column.plan.laid.edit())
            piece = {"a", 0, {place(random), place(random)}, turn(random), false};
        PieceArrangement pieces = column.pieces();
        Numbers all;
        for (std::size_t i = 0; i < column.plan.laid->size(); ++i)
            all.push_back(i);
        REQUIRE(pieces.pushApart(all) == 0);
        CHECK(column.isSound(pieces));
        for (std::size_t i = 0; i < all.size(); ++i) {
            CHECK(pieces.laid()[i].turn == (*column.plan.laid)[i].turn);
            CHECK(distance(pieces.laid()[i].centre, (*column.plan.laid)[i].centre) < 120);
        }
    }
}

TEST_CASE("a group keeps its form where it is pushed to; where there is no room nothing moves") {
    Column column(6);
    column.plan.laid.edit()[4].centre = {62, 55};
    column.plan.laid.edit()[5].centre = {62, 90};
    PieceArrangement pieces = column.pieces();
    const Point apart = (*column.plan.laid)[5].centre - (*column.plan.laid)[4].centre;
    REQUIRE(pieces.makeRoom({4, 5}));
    CHECK(distance(pieces.laid()[5].centre - pieces.laid()[4].centre, apart) < 1e-9);
    CHECK(column.isSound(pieces));

    column.plan.medium = sheetOf(90, 110); // one of them at most
    PieceArrangement none = column.pieces();
    CHECK_FALSE(none.makeRoom({4, 5}));
    CHECK(none.laid() == column.plan.laid);
}
