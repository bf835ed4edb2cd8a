#include "base/json_reader.h"
#include "job/job_json.h"
#include "sheet/sheet.h"

#include <catch2/catch.hpp>

#include <set>

using namespace hasami;

namespace {

std::vector<Copies> copiesOf(int bees, int foxes) {
    return {{"bee", {{0, 0}, {30, 20}}, bees}, {"fox", {{0, 0}, {20, 20}}, foxes}};
}

std::set<PieceId> idsOf(const Layout& layout) {
    std::set<PieceId> ids;
    for (const Sheet& sheet : layout.sheets)
        for (const Piece& piece : sheet.pieces)
            CHECK(ids.insert(piece.id()).second);
    return ids;
}

} // namespace

TEST_CASE("copies get the lowest free numbers of their design, and keep those that they have") {
    std::vector<LaidPiece> pieces(5);
    for (std::size_t i = 0; i < 5; ++i)
        pieces[i].design = i == 3 ? "fox" : "bee";
    pieces[1].copy = 3;
    pieces[2].copy = 3; // twice: the second gets another
    pieces[4].copy = 1;
    numberCopies(pieces);
    std::vector<int> copies;
    for (const LaidPiece& piece : pieces)
        copies.push_back(piece.copy);
    CHECK(copies == std::vector{2, 3, 4, 1, 1});
}

TEST_CASE("each piece of a layout has its own id, in rows and where it is laid") {
    SheetPlan plan{{300, {}}, 3};
    const Layout rows = layOut(copiesOf(5, 3), plan, startProfile());
    const std::set<PieceId> ids = idsOf(rows);
    CHECK(ids.size() == 8);
    CHECK(ids.contains(PieceId{"bee", 5}));
    CHECK(ids.contains(PieceId{"fox", 1}));

    // Laid by hand, one is taken out: the others keep their ids, and a new one takes the number that is free.
    plan.packing = Packing::nest;
    plan.laid = laidOf(rows, copiesOf(5, 3));
    const auto gone = std::ranges::find_if(plan.laid.edit(), [](const LaidPiece& p) { return p.copy == 2; });
    const PieceId goneId = gone->id();
    plan.laid.edit().erase(gone);
    const auto fewer = goneId.design == "bee" ? copiesOf(4, 3) : copiesOf(5, 2);
    std::set<PieceId> left = ids;
    left.erase(goneId);
    CHECK(idsOf(layOut(fewer, plan, startProfile())) == left);
    CHECK(idsOf(layOut(copiesOf(5, 3), plan, startProfile())) == ids);
}

TEST_CASE("ids are kept in the job, and jobs of before get theirs") {
    Job job;
    job.designs.push_back({});
    job.designs.back().id = "bee";
    job.plan.packing = Packing::nest;
    job.plan.laid = {{"bee", 0, {50, 50}, 0, false, 7}, {"bee", 0, {90, 50}, 0, true, 2}};
    job.designs.back().artwork.items.push_back(
        {"bee.png", 100, 100, {{0, 0}, 30, 20}, {}, FilePicture{{std::string(64, 'a')}}});
    const Assets assets{{std::string(64, 'a'), std::make_shared<const Asset>()}};
    job.assets = assets;
    CHECK(*jobFromJson(jobToJson(job), assets).plan.laid == *job.plan.laid);

    nlohmann::json older = nlohmann::json::parse(jobToJson(job));
    older["format"] = 7;
    for (nlohmann::json& piece : older["sheet"]["laid"])
        piece.erase("copy");
    const auto laid = jobFromJson(older.dump(), assets).plan.laid;
    CHECK(laid->at(0).copy == 1);
    CHECK(laid->at(1).copy == 2);
    CHECK(laid->at(1).centre == Point{90, 50});
}
