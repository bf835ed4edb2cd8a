#include "base/error.h"
#include "base/json_reader.h"
#include "job/job_json.h"

#include <catch2/catch.hpp>

#include <fstream>

using namespace hasami;

namespace {

std::shared_ptr<const Asset> assetNamed(const std::string& name) {
    return std::make_shared<const Asset>(Asset{std::string(64, 'a'), name, {}});
}

Job sampleJob() {
    Job job;
    Design& bee = addDesign(job, {assetNamed("bee.png"), 1000, 860, 0}, 50.0);
    bee.count = 24;
    bee.recipe.lines[0].offset = 1.75;
    bee.recipe.edge.level = 33.3;
    bee.recipe.edge.tolerance = 0.02;
    bee.recipe.edge.way = EdgeWay::backdrop;
    bee.recipe.edge.shadow = 25;
    bee.recipe.edge.colours = 5;
    bee.recipe.edge.smoothing = 0.3;
    bee.recipe.edge.loops = LoopChoice::all;
    bee.recipe.edge.shape = {PlainShapeKind::polygon, -1.5, 4, 8, true, 30, 20, 2};
    bee.recipe.lines[0].corners = {CornerForm::sharp, 3};
    bee.recipe.bridge = 1.25;
    bee.recipe.edge.touchUps = {
        {{0.1, 0.2},
         {0.3, 0.4},
         {{0.15, 0.25}, {0.2, 0.3}},
         {{{0.1, 0.3}, {0.2, 0.35}, {0.25, 0.4}, false}, straightSegment({0.25, 0.4}, {0.3, 0.4})}}};
    bee.recipe.lines.push_back({LineKind::die, 6.5, {CornerForm::flat, 4}});
    bee.recipe.border = {3, {{0x20, 0x40, 0x60, 255}}, false};
    bee.recipe.edge.switches = {{{0.25, 0.5}, 0.125, true, true}, {{0.75, 0.5}, 0.2, false, false}};
    job.plan = {{450, {}}, 2.5};
    return job;
}

std::string refusal(const nlohmann::json& json) {
    try {
        static_cast<void>(jobFromJson(json.dump(), sampleJob().assets));
        return "";
    } catch (const InputError& error) {
        return error.what();
    }
}

} // namespace

TEST_CASE("the schema in docs follows the fields") {
    std::ifstream file(HASAMI_SOURCE_DIR "/docs/job-format.schema.json");
    const std::string written{std::istreambuf_iterator<char>(file), {}};
    INFO("What it has to be is in job-format.schema.json, in the folder of the test.");
    std::ofstream("job-format.schema.json") << jobSchema();
    CHECK(written == jobSchema());
}

TEST_CASE("a new design takes its file's resolution, or 300 dots an inch, or the width asked for") {
    Job job;
    CHECK(bounds(addDesign(job, {assetNamed("a.png"), 600, 300, 0}).artwork).width() == Approx(50.8));
    CHECK(bounds(addDesign(job, {assetNamed("a.png"), 600, 300, 10}).artwork).width() == Approx(60));
    const Design& sized = addDesign(job, {assetNamed("a.b.png"), 600, 300, 10}, 25.0);
    CHECK(bounds(sized.artwork).height() == Approx(12.5));
    CHECK(sized.name == "a.b");
    CHECK(dotsPerInch(sized.artwork) == Approx(600 / 25.0 * 25.4));
    CHECK(job.designs[0].id != job.designs[1].id);
}

TEST_CASE("a size out of bounds is refused when asked for, and fitted in when it is the file's mistake") {
    Job job;
    CHECK_THROWS_AS(addDesign(job, {assetNamed("a.png"), 4000, 4, 0}, 100.0), InputError);
    CHECK(job.designs.empty());
    CHECK(bounds(addDesign(job, {assetNamed("a.png"), 90'000, 4000, 1}).artwork).width() == Approx(10'000));
    CHECK(bounds(addDesign(job, {assetNamed("a.png"), 4, 4, 0}).artwork).width() == Approx(1));
}

TEST_CASE("a job survives its text") {
    const Job job = sampleJob();
    const Job back = jobFromJson(jobToJson(job), job.assets);
    CHECK(back == job);
    Job onSheets = job;
    onSheets.plan.medium = a4Sheet;
    CHECK(jobFromJson(jobToJson(onSheets), job.assets) == onSheets);
    CHECK_FALSE(back == onSheets);
    Job inInches = job;
    inInches.unit = LengthUnit::inch;
    CHECK(jobFromJson(jobToJson(inInches), job.assets) == inInches);
    auto withoutUnit = nlohmann::json::parse(jobToJson(job));
    withoutUnit.erase("unit");
    CHECK(jobFromJson(withoutUnit.dump(), job.assets) == job);
}

TEST_CASE("what is decided about the sheet survives its text, and older jobs have their rows") {
    Job job = sampleJob();
    job.designs[0].fills = true;
    job.designs[0].turning = {Turning::Kind::steps, 22.5};
    Medium& medium = job.plan.medium;
    medium.rollLength = 8000;
    medium.start = 120;
    medium.end = 15;
    medium.firstSide = 4;
    medium.lastSide = 6.5;
    medium.tracks = {{50, 10}, {300, 12}};
    medium.used = {{2, {{10, 20}, {110, 70}}}};
    medium.price = 3.75;
    job.plan.margin = 9;
    job.plan.sets = 4;
    job.plan.rows = {5.0, 7.0, 3, true, true, true};
    job.plan.packing = Packing::nest;
    job.plan.laid = {{job.designs[0].id, 1, {100.25, 33}, -17.5, true, 2},
                     {job.designs[0].id, 0, {1, 2}, 0, false, 1}};
    CHECK(jobFromJson(jobToJson(job), job.assets) == job);
    job.designs[0].turning = {Turning::Kind::none};
    CHECK(jobFromJson(jobToJson(job), job.assets) == job);

    auto json = nlohmann::json::parse(jobToJson(job));
    json["sheet"]["laid"][0]["design"] = "nobody";
    CHECK(refusal(json).find("nobody") != std::string::npos);
    json["sheet"]["laid"][0] = {{"design", job.designs[0].id}, {"x", 1}, {"y", 2}, {"turn", 900}};
    CHECK(refusal(json).find("sheet.laid[0].turn must be") == 0);
    json["sheet"]["laid"] = nullptr;
    CHECK(refusal(json).find("sheet.laid") == 0);
    for (const char* newer : {"laid", "packing", "rows", "sets", "margin"})
        json["sheet"].erase(newer);
    json["sheet"]["medium"] = {{"width", 600}, {"length", nullptr}};
    const SheetPlan old = jobFromJson(json.dump(), job.assets).plan;
    CHECK(old.packing == Packing::rows);
    CHECK_FALSE(old.rows.across);
    CHECK(old.gap == job.plan.gap);

    removeDesign(job, job.designs[0].id);
    CHECK(job.plan.laid->empty());
}

TEST_CASE("keys that were renamed in format 9 are read by their older names too") {
    Job job = sampleJob();
    job.plan.medium.rollLength = 5000;
    job.plan.medium.firstSide = 3;
    job.plan.medium.lastSide = 4;
    job.plan.rows.turnsAlternate = true;
    auto json = nlohmann::json::parse(jobToJson(job));
    const auto rename = [](nlohmann::json& in, const char* now, const char* older) {
        REQUIRE(in.contains(now));
        in[older] = in[now];
        in.erase(now);
    };
    rename(json["sheet"]["medium"], "rollLength", "roll_length");
    rename(json["sheet"]["medium"], "firstSide", "first_side");
    rename(json["sheet"]["medium"], "lastSide", "last_side");
    rename(json["sheet"]["rows"], "alternateTurned", "alternate_turned");
    json["format"] = 8;
    CHECK(jobFromJson(json.dump(), job.assets) == job);
}

TEST_CASE("a job of the first version, with fewer settings, is read as it was meant") {
    auto old = nlohmann::json::parse(jobToJson(sampleJob()));
    auto& recipe = old["designs"][0]["recipe"];
    recipe = {{"edge",
               {{"find", "transparency"},
                {"level", 50},
                {"leastSpeck", 1},
                {"leastOpening", 2},
                {"cutOpenings", true}}},
              {"kiss", {{"offset", 2}}}};
    const Recipe read = jobFromJson(old.dump(), sampleJob().assets).designs[0].recipe;
    CHECK(read.edge.way == EdgeWay::transparency);
    CHECK(read.edge.level == 50.0);
    CHECK(read.edge.loops == LoopChoice::all);
    CHECK(read.edge.smoothing == 0);
    CHECK(read.lines == std::vector{LineRecipe{}});
    CHECK(read.border == Border{});
}

TEST_CASE("members of a later version are passed over") {
    auto json = nlohmann::json::parse(jobToJson(sampleJob()));
    json["somethingNew"] = 1;
    json["designs"][0]["recipe"]["glitter"] = true;
    CHECK(refusal(json).empty());
}

TEST_CASE("what is wrong in a job is named with its place") {
    const auto good = nlohmann::json::parse(jobToJson(sampleJob()));
    const auto with = [&](const char* pointer, const nlohmann::json& value) {
        auto changed = good;
        changed[nlohmann::json::json_pointer(pointer)] = value;
        return refusal(changed);
    };
    CHECK(with("/format", jobFormat + 1).find("newer Hasami") != std::string::npos);
    CHECK(with("/format", "one").find("format must be") == 0);
    CHECK(with("/designs/0/count", -1).find("designs[0].count must be a whole number") == 0);
    CHECK(with("/designs/0/count", 2.5).find("designs[0].count") == 0);
    CHECK(with("/designs/0/items/0/width", 0).find("designs[0].items[0].width must be a number") == 0);
    CHECK(with("/designs/0/items/0/pixels", {1}).find("designs[0].items[0].pixels") == 0);
    CHECK(with("/designs/0/items/0/asset", "beef").find("is not in the file") != std::string::npos);
    CHECK(with("/designs/0/items", nlohmann::json::array()).find("designs[0].items must not be empty") == 0);
    CHECK(with("/designs/0/recipe/edge/level", 101).find("designs[0].recipe.edge.level") == 0);
    CHECK(with("/designs/0/recipe/kiss/offset", nullptr).find("designs[0].recipe.kiss.offset") == 0);
    CHECK(with("/sheet/medium/width", "wide").find("sheet.medium.width") == 0);
    CHECK(with("/unit", "furlong").find("unit must be") == 0);
    CHECK(with("/profile/marks/distance", 2).find("profile.marks.distance") == 0);
    CHECK(with("/profile/lines/kiss/spot", "").find("profile.lines.kiss.spot") == 0);
    auto twice = good;
    twice["designs"].push_back(good["designs"][0]);
    CHECK(refusal(twice).find("two designs have the id") == 0);
    auto missing = good;
    missing.erase("sheet");
    CHECK(refusal(missing) == "sheet is missing");
}

TEST_CASE("text that is no JSON, or nested without end, is refused") {
    CHECK_THROWS_AS(jobFromJson("", {}), InputError);
    CHECK_THROWS_AS(jobFromJson("{\"format\":1", {}), InputError);
    CHECK_THROWS_AS(jobFromJson("[]", {}), InputError);
    CHECK_THROWS_AS(jobFromJson(std::string(200'000, '['), {}), InputError);
    CHECK_THROWS_AS(jobFromJson("{\"format\":1e999}", {}), InputError);
}

TEST_CASE("assets that no design uses are left behind") {
    Job job = sampleJob();
    job.assets.edit()["unused"] = std::make_shared<const Asset>();
    CHECK(withoutUnusedAssets(job).assets->size() == 1);
}

TEST_CASE("a copy of a design lies behind it, is called so, and has a number of its own") {
    Job job = sampleJob();
    addDesign(job, {assetNamed("fox.png"), 300, 300, 0});
    const Design bee = job.designs.front();
    const Design& copy = duplicateDesign(job, bee.id);
    CHECK(copy.id != bee.id);
    CHECK(copy.name == bee.name + " 2");
    REQUIRE(job.designs.size() == 3);
    CHECK(job.designs[1].recipe == bee.recipe);
    CHECK(job.designs[1].artwork == bee.artwork);
    CHECK(job.designs[1].count == bee.count);
    CHECK(job.designs[2].name == "fox");
    const std::string first = duplicateDesign(job, bee.id).id, second = duplicateDesign(job, bee.id).id;
    CHECK(first != second);
    CHECK(job.designs[1].id == second); // right behind, before the older copies
    CHECK(jobFromJson(jobToJson(job), job.assets) == job);
}

TEST_CASE("copies are numbered, and a number in the name goes on") {
    Job job = sampleJob();
    job.designs.front().name = "bee";
    const std::string bee = job.designs.front().id;
    const std::string second = duplicateDesign(job, bee).id;
    CHECK(job.find(second)->name == "bee 2");
    CHECK(duplicateDesign(job, second).name == "bee 3");
    CHECK(duplicateDesign(job, bee).name == "bee 4");
    for (const auto& [name, copy] : {std::pair("route 66", "route 67"),
                                     {"bee 1", "bee 1 2"},
                                     {"007", "007 2"},
                                     {"no. 12345678", "no. 12345678 2"}}) {
        job.designs.front().name = name;
        CHECK(duplicateDesign(job, bee).name == copy);
    }
}

TEST_CASE("a moved design comes before the one that was at its place, the others keep their order") {
    const auto moved = [](std::size_t from, std::size_t to) {
        Job job;
        for (const char* name : {"a.png", "b.png", "c.png", "d.png"})
            addDesign(job, {assetNamed(name), 300, 300, 0});
        moveDesign(job, std::string(job.designs[from].id), to);
        std::string names;
        for (const Design& design : job.designs)
            names += design.name;
        return names;
    };
    CHECK(moved(0, 2) == "bacd");
    CHECK(moved(0, 4) == "bcda");
    CHECK(moved(0, 99) == "bcda");
    CHECK(moved(3, 0) == "dabc");
    CHECK(moved(2, 1) == "acbd");
    for (std::size_t i = 0; i < 4; ++i) {
        CHECK(moved(i, i) == "abcd");
        CHECK(moved(i, i + 1) == "abcd");
    }
}

TEST_CASE("a design that goes takes its pieces off the sheet, the others' stay") {
    Job job = sampleJob();
    const std::string bee = job.designs.front().id;
    const std::string fox = addDesign(job, {assetNamed("fox.png"), 300, 300, 0}).id;
    job.plan.laid = {{bee, 0, {1, 2}, 0, false}, {fox, 0, {3, 4}, 90, true}, {bee, 1, {5, 6}, 0, false}};
    removeDesign(job, bee);
    REQUIRE(job.designs.size() == 1);
    CHECK(job.find(bee) == nullptr);
    REQUIRE(job.plan.laid->size() == 1);
    CHECK(job.plan.laid->front().design == fox);
}

TEST_CASE("a job's profile that does not tell of a kind of line has the start's") {
    CHECK(startProfile().names.of(LineKind::kiss).name == "CutContour");
    CHECK(startProfile().names.of(LineKind::die).name == "DieCut");
    auto older = toJson(startProfile());
    older["lines"].erase("die");
    const Profile read = profileFromJson({older, "profile"}), start = startProfile();
    CHECK(read.cutter.tool(LineKind::die) == start.cutter.tool(LineKind::die));
    CHECK(read.names.of(LineKind::die) == start.names.of(LineKind::die));
}

TEST_CASE("designs that share a shape follow when it changes, until they give it up") {
    Job job;
    const std::string a = addDesign(job, {assetNamed("a.png"), 600, 300, 10}).id;
    const std::string b = addDesign(job, {assetNamed("b.png"), 200, 700, 10}).id;
    const std::string c = addDesign(job, {assetNamed("c.png"), 100, 100, 10}).id;
    const auto shape = [&](const std::string& id) -> PlainShape& { return job.find(id)->recipe.edge.shape; };
    job.find(a)->recipe.edge.way = EdgeWay::shape;
    shareShape(job, a, b, true);
    CHECK(job.find(b)->recipe.edge.way == EdgeWay::shape);
    CHECK(shape(a).bySize); // else each would have another size
    CHECK(shape(b) == shape(a));
    CHECK(shape(c).shared == 0);
    shape(b).width = 77;
    keepSharedShape(job, b);
    CHECK(shape(a).width == 77);
    CHECK(shape(c).width != 77);
    shareShape(job, a, b, false);
    shape(a).width = 33;
    keepSharedShape(job, a);
    CHECK(shape(b).width == 77);
    shareShape(job, c, b, true); // another group
    CHECK(shape(c).shared != shape(a).shared);
}
