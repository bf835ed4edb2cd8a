#include "base/error.h"
#include "base/json_reader.h"
#include "profile/profile.h"
#include "profile/unknown_fields.h"

#include <catch2/catch.hpp>

#include <fstream>
#include <set>

using namespace hasami;

namespace {

std::string refusal(const nlohmann::json& json) {
    try {
        static_cast<void>(profileFromJson({json, "profile"}));
        return "";
    } catch (const InputError& error) {
        return error.what();
    }
}

} // namespace

TEST_CASE("the profiles that come with the program have names of their own and survive their JSON") {
    const std::vector<Profile> profiles = knownProfiles();
    REQUIRE(profiles.size() >= 8);
    CHECK(profiles.front() == startProfile());
    std::set<std::string> names;
    for (const Profile& profile : profiles) {
        CHECK(names.insert(profile.name).second);
        const nlohmann::json json = toJson(profile);
        CHECK(profileFromJson({json, "profile"}) == profile);
        CHECK(profile.marks.distance >= leastDistance(profile.marks));
        CHECK(doubtsAboutNames(profile).empty());
        std::set<std::string> spots;
        for (const LineKind kind : lineKinds)
            CHECK(spots.insert(profile.names.of(kind).name).second);
        for (const InkKind ink : inkKinds)
            CHECK(spots.insert(profile.names.of(ink).name).second);
    }
}

TEST_CASE("the schema of profiles in docs follows the fields") {
    std::ifstream file(HASAMI_SOURCE_DIR "/docs/profile.schema.json");
    const std::string written{std::istreambuf_iterator<char>(file), {}};
    nlohmann::json schema{{"$schema", "http://json-schema.org/draft-07/schema#"},
                          {"title", "A machine profile of Hasami"}};
    schema.update(profileSchema());
    const std::string text = schema.dump(2) + "\n";
    INFO("What it has to be is in profile.schema.json, in the folder of the test.");
    std::ofstream("profile.schema.json") << text;
    CHECK(written == text);
}

TEST_CASE("all that is set for a kind of line survives, what it leaves out is as at the start") {
    Profile profile = startProfile();
    Tool& tool = profile.cutter.tools[std::size_t(LineKind::perforated)];
    tool.holder = 4;
    tool.speed = 77.5;
    tool.force = 120;
    tool.bladeDepth = 0.35;
    tool.passes = 3;
    tool.bladeOffset = 0.25;
    tool.overcut = 1.5;
    profile.cutter.makesTabs = false;
    profile.printer.inkOrder = InkOrder().with(WhitePlace::between);
    const nlohmann::json json = toJson(profile);
    CHECK(profileFromJson({json, "profile"}) == profile);
    nlohmann::json bare = json;
    for (const char* member : {"holder", "speed", "force", "bladeDepth", "passes", "bladeOffset", "overcut"})
        bare["lines"]["perforated"].erase(member);
    const Tool plain = profileFromJson({bare, "profile"}).cutter.tool(LineKind::perforated);
    CHECK(plain.speed == Tool{}.speed);
    CHECK_FALSE(plain.force);
    CHECK_FALSE(plain.bladeDepth);
    CHECK(plain.passes == 1);
    CHECK(plain.overcut == 0);
}

TEST_CASE("what a profile can't be is named with its place") {
    const nlohmann::json good = toJson(startProfile());
    CHECK(refusal(good).empty());
    const auto with = [&](const char* pointer, nlohmann::json value) {
        nlohmann::json json = good;
        json[nlohmann::json::json_pointer(pointer)] = std::move(value);
        return refusal(json);
    };
    CHECK(with("/marks/shape", "moon").find("profile.marks.shape must be one of") == 0);
    CHECK(with("/marks/corners", 2).find("profile.marks.corners must be 4, 3, or 0") == 0);
    CHECK(with("/marks/lineWidth", 0).find("profile.marks.lineWidth") == 0);
    CHECK(with("/marks/interval", 10).find("profile.marks.interval must be at least") == 0);
    CHECK(with("/marks/between", 1000).find("profile.marks.between") == 0);
    nlohmann::json brackets = good;
    brackets["marks"]["shape"] = "bracket";
    brackets["marks"]["distance"] = 20;
    brackets["marks"]["interval"] = 500;
    CHECK(refusal(brackets).find("profile.marks.interval must be 0 for brackets") == 0);
    brackets["marks"]["interval"] = 0;
    brackets["marks"]["between"] = 2;
    CHECK(refusal(brackets).find("profile.marks.between must be 0 for brackets") == 0);
    nlohmann::json three = good;
    three["marks"]["corners"] = 3;
    three["marks"]["interval"] = 500;
    CHECK(refusal(three).find("profile.marks.interval must be 0 without") == 0);
    CHECK(with("/lead", {{"code", "stamp"}}).find("profile.lead.code must be one of") == 0);
    CHECK(with("/rollers", {{1, 2, 3}}).find("profile.rollers[0]") == 0);
    CHECK(with("/marks/distance", 0).find("profile.marks.distance must be at least") == 0);
    CHECK(with("/marks/size", -1).find("profile.marks.size") == 0);
    CHECK(with("/reach/sides", "far").find("profile.reach.sides") == 0);
    CHECK(with("/lines/kiss/spot", "").find("profile.lines.kiss.spot must not be empty") == 0);
    CHECK(with("/lines/die/tint", {0.5, 0.5}).find("profile.lines.die.tint must be four numbers") == 0);
    CHECK(with("/lines/die/tint/2", 1.5).find("profile.lines.die.tint[2]") == 0);
    CHECK(with("/lines/kiss/passes", 0).find("profile.lines.kiss.passes") == 0);
    CHECK(with("/lines/kiss/holder", 2.5).find("profile.lines.kiss.holder") == 0);
    CHECK(with("/inkOrder", {"white", "white", "gloss"}).find("profile.inkOrder must name each ink once") ==
          0);
    CHECK(with("/inkOrder", {"white"}).find("profile.inkOrder must name each ink once") == 0);
    CHECK(with("/inkOrder", {"white", "colours", "colours", "gloss", "primer"})
              .find("profile.inkOrder must name each ink once") == 0);
    CHECK(with("/inkOrder/0", "silver").find("profile.inkOrder[0]") == 0);
    CHECK(refusal(nlohmann::json::array()).find("profile") == 0);
}

TEST_CASE("one name for two layers is refused, whichever two they are") {
    const Profile start = startProfile();
    for (const LineKind kind : lineKinds)
        for (const InkKind ink : inkKinds) {
            Profile profile = start;
            profile.names.inks[std::size_t(ink)].name = profile.names.of(kind).name;
            const std::string told = refusal(toJson(profile));
            CHECK(told.find("\"" + profile.names.of(kind).name + "\"") != std::string::npos);
            CHECK(told.find(englishNameOf(ink)) != std::string::npos);
            CHECK(told.find(englishNameOf(kind)) != std::string::npos);
        }
}

TEST_CASE("names that are right but for case, spaces, dashes or underscores are doubted") {
    CHECK(plainName("Cut-Here_now 2") == "cutherenow2");
    CHECK(plainName("").empty());
    const std::string expected = startProfile().names.of(LineKind::kiss).name;
    std::string lower = expected;
    for (char& c : lower)
        c = char(std::tolower(c));
    for (const std::string& name :
         {lower, expected + " ", "-" + expected, expected.substr(0, 3) + "_" + expected.substr(3)}) {
        Profile profile = startProfile();
        profile.names.lines[std::size_t(LineKind::kiss)].name = name;
        const std::vector<std::string> doubts = doubtsAboutNames(profile);
        REQUIRE(doubts.size() == 1);
        CHECK(doubts.front().find("\"" + name + "\" differs a little from \"" + expected + "\"") == 0);
    }
    Profile other = startProfile();
    other.names.lines[std::size_t(LineKind::kiss)].name = "Blade 7";
    CHECK(doubtsAboutNames(other).empty());
}

TEST_CASE("names in a profile's file that mean nothing are found, with their places") {
    nlohmann::json json = toJson(startProfile());
    CHECK(unknownFields(json).empty());
    for (const Profile& profile : knownProfiles())
        CHECK(unknownFields(toJson(profile)).empty());
    json["machineMakeTabs"] = true;
    json["lines"]["kiss"]["sped"] = 30;
    const auto unknown = unknownFields(json);
    CHECK(std::set<std::string>(unknown.begin(), unknown.end()) ==
          std::set<std::string>{"machineMakeTabs", "lines.kiss.sped"});
}

TEST_CASE("what another version keeps in a profile is kept, wherever it stands") {
    nlohmann::json json = toJson(startProfile());
    json["feeder"] = {{"trays", 2}};
    json["lines"]["kiss"]["heat"] = 40;
    json["load"] = {{"turn", 2.5}, {"tilt", 1}};
    const Profile profile = profileFromJson({json, "profile"});
    CHECK(profile.cutter.load.turn == 2.5);
    CHECK(profile.cutter.load.shift == 60);
    const nlohmann::json again = toJson(profile);
    CHECK(again["feeder"] == json["feeder"]);
    CHECK(again["lines"]["kiss"]["heat"] == 40);
    CHECK(again["lines"]["kiss"]["spot"] == json["lines"]["kiss"]["spot"]);
    CHECK(again["load"]["tilt"] == 1);
    CHECK(profileFromJson({again, "profile"}) == profile);
    CHECK(startProfile().unknown.empty());
}
