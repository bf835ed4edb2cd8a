#include "sheet/keep_out.h"
#include "sheet/nest_sheet.h"
#include "support/nest_checker.h"
#include "support/rounds.h"
#include "support/sheet_shapes.h"

#include <catch2/catch.hpp>

#include <numbers>

using namespace hasami;
using namespace hasami::test;

namespace {

const Loop corner{{0, 0}, {60, 0}, {60, 18}, {18, 18}, {18, 60}, {0, 60}};
const Loop heart{{0, 10}, {12, 0}, {25, 8}, {38, 0}, {50, 10}, {46, 26}, {25, 48}, {4, 26}};

SheetPlan nestPlan(Medium medium, double gap) {
    SheetPlan plan = planOf(std::move(medium), gap);
    plan.packing = Packing::nest;
    return plan;
}

/// Nests, checks by brute force what the search was given, and lays out what it found.
Layout nested(const std::vector<Copies>& copies, SheetPlan& plan,
              std::uint64_t moves = test::rounds(4000, 300)) {
    const Profile profile = startProfile();
    const Layout present = layOut(copies, plan, profile);
    const SheetNest nest(copies, present, plan, profile);
    REQUIRE(nest.trouble().empty());
    const nesting::Nest made = nesting::nest(nest.problem(), {0, moves, 1, 2});
    CHECK(faultOf(nest.problem(), made).empty());
    plan.laid = nest.laid(made);
    return layOut(copies, plan, profile);
}

} // namespace

TEST_CASE("a nest takes less than rows, keeps its gaps, and loses nothing", "[long]") {
    const std::vector<Copies> copies{shaped("corner", corner, 12), shaped("heart", heart, 9)};
    SheetPlan plan = nestPlan(rollOf(300), 2);
    const double rows = layOut(copies, plan, startProfile()).usedLength();
    const Layout layout = nested(copies, plan);
    CHECK(layout.pieces() == 21);
    CHECK(layout.conflicts.empty());
    CHECK(layout.unplaced.empty());
    CHECK(layout.usedLength() < 0.95 * rows);
    const Layout plain = layOut(copies, plainPlan(plan), startProfile());
    CHECK(plain.usedLength() == Approx(rows));

    // Again from there: never worse, though hardly anything is tried.
    const double before = layout.usedLength();
    CHECK(nested(copies, plan, 4).usedLength() <= before + 0.01);
}

TEST_CASE("pinned pieces stay, and used areas, tracks and strips are kept free") {
    const std::vector<Copies> copies{shaped("corner", corner, 8)};
    SheetPlan plan = nestPlan(sheetOf(297, 420), 3);
    plan.medium.tracks = {{140, 10}};
    plan.medium.used = {{0, {{60, 40}, {160, 100}}}};
    plan.medium.firstSide = 30;
    plan.margin = 15;
    plan.laid = {{"corner", 0, {260, 200}, 30, true}};
    const Layout layout = nested(copies, plan);
    CHECK(layout.pieces() == 8);
    CHECK(layout.conflicts.empty());
    int pinned = 0;
    for (const LaidPiece& piece : *plan.laid)
        if (piece.isPinned) {
            ++pinned;
            CHECK(distance(piece.centre, {260, 200}) < 1e-6);
            CHECK(piece.turn == Approx(30));
        }
    CHECK(pinned == 1);
}

TEST_CASE("a nest goes on with another roll where one ends") {
    const std::vector<Copies> copies{shaped("corner", corner, 20)};
    SheetPlan plan = nestPlan(rollOf(250), 2);
    plan.medium.rollLength = 260;
    const Layout layout = nested(copies, plan);
    CHECK(layout.pieces() == 20);
    CHECK(layout.sheets.size() > 1);
    CHECK(layout.conflicts.empty());
    for (const Sheet& sheet : layout.sheets)
        CHECK(sheet.usedLength <= 260 + 1e-6);
}

TEST_CASE("a design's turning is kept: in steps, or not at all; mirrored designs stay mirrored") {
    std::vector<Copies> copies{shaped("corner", corner, 6), shaped("heart", heart, 6)};
    copies[0].turning = {Turning::Kind::none};
    copies[1].turning = {Turning::Kind::steps, 90};
    copies[1].isMirrored = true;
    SheetPlan plan = nestPlan(rollOf(250), 2);
    const Layout layout = nested(copies, plan);
    CHECK(layout.conflicts.empty());
    for (const LaidPiece& piece : *plan.laid) {
        const double quarters = piece.turn / 90;
        CHECK(piece.turn == Approx(piece.design == "corner" ? 0 : 90 * std::round(quarters)).margin(1e-6));
    }
    for (const Piece& piece : layout.sheets[0].pieces)
        CHECK(piece.place.determinant() == Approx(piece.design == "heart" ? -1 : 1));
}

TEST_CASE("a design that fills a sheet gets more on it than rows do", "[long]") {
    std::vector<Copies> copies{shaped("corner", corner, 1)};
    copies[0].fills = true;
    SheetPlan plan = nestPlan(a4Sheet, 2);
    const std::size_t rows = layOut(copies, plan, startProfile()).pieces();
    const Layout layout = nested(copies, plan, 20'000);
    CHECK(layout.sheets.size() == 1);
    CHECK(layout.pieces() > rows);
    CHECK(layout.conflicts.empty());
}

TEST_CASE("a sticker that comes off in several parts is nested as one") {
    Copies pair{"pair", {{0, 0}, {70, 30}}, 4};
    pair.outline = std::make_shared<const Region>(
        Region{{{{0, 0}, {30, 0}, {30, 30}, {0, 30}}, {{40, 0}, {70, 0}, {70, 30}, {40, 30}}}});
    SheetPlan plan = nestPlan(rollOf(200), 2);
    const Layout layout = nested({pair}, plan, 500);
    CHECK(layout.pieces() == 4);
    CHECK(layout.conflicts.empty());
}

TEST_CASE("small ones lie in the openings of large ones") {
    const auto disc = [](double radius, bool isOpening) {
        Loop loop;
        for (int i = 0; i < 90; ++i) {
            const double angle = 2 * std::numbers::pi * i / 90 * (isOpening ? -1 : 1);
            loop.push_back({radius * std::cos(angle), radius * std::sin(angle)});
        }
        return loop;
    };
    Copies ring{"ring", bounds(disc(45, false)), 4};
    ring.outline = std::make_shared<const Region>(Region{{disc(45, false), disc(32, true)}});
    const std::vector<Copies> copies{ring, shaped("seal", disc(25, false), 4)};
    SheetPlan plan = nestPlan(rollOf(250), 3);
    const Layout layout = nested(copies, plan);
    CHECK(layout.conflicts.empty());
    std::size_t inside = 0;
    for (const LaidPiece& seal : *plan.laid)
        for (const LaidPiece& other : *plan.laid)
            inside +=
                seal.design == "seal" && other.design == "ring" && distance(seal.centre, other.centre) < 5;
    CHECK(inside == 4);
    CHECK(layout.sheets[0].work.width() < 2 * 90 + 3.1); // no more than the rings alone
}

TEST_CASE("nothing to nest is told in a sentence") {
    SheetPlan plan = nestPlan(rollOf(200), 2);
    const Profile profile = startProfile();
    const SheetNest none({}, layOut({}, plan, profile), plan, profile);
    CHECK(none.trouble().find("nothing to nest") != std::string::npos);
    const std::vector<Copies> large{shaped("corner", {{0, 0}, {400, 0}, {400, 400}, {0, 400}}, 2)};
    const SheetNest tooLarge(large, layOut(large, plan, profile), plan, profile);
    CHECK(tooLarge.trouble().find("400 mm") != std::string::npos);
}
