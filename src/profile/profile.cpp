#include "profile/profile.h"

#include "base/json_reader.h"
#include "profile_data.h"

#include <algorithm>
#include <utility>

namespace hasami {

namespace {

constexpr double widestStrip = 1000; // mm

constexpr std::size_t longestSpot = 127; // that PDF allows everywhere

SpotColour spotFromJson(const JsonReader& json) {
    SpotColour colour;
    colour.name = json.at("spot").text(longestSpot);
    if (colour.name.empty())
        json.at("spot").refuse("must not be empty");
    const auto tint = json.at("tint").elements(4);
    if (tint.size() != 4)
        json.at("tint").refuse("must be four numbers: cyan, magenta, yellow, black");
    for (std::size_t i = 0; i < 4; ++i)
        colour.tint[i] = tint[i].number(0, 1);
    return colour;
}

Tool toolFromJson(const JsonReader& json, LineKind kind) {
    Tool tool;
    tool.holder = json.has("holder") ? json.at("holder").wholeNumber(1, 8) : int(kind) + 1;
    if (json.has("speed"))
        tool.speed = json.at("speed").number(1, 10'000);
    if (json.has("force"))
        tool.force = json.at("force").number(1, 10'000);
    if (json.has("passes"))
        tool.passes = json.at("passes").wholeNumber(1, 20);
    if (json.has("bladeOffset"))
        tool.bladeOffset = json.at("bladeOffset").number(0, 2);
    if (json.has("overcut"))
        tool.overcut = json.at("overcut").number(0, 10);
    return tool;
}

nlohmann::json toJson(const SpotColour& colour) {
    return {{"spot", colour.name}, {"tint", colour.tint}};
}

nlohmann::json toJson(const SpotColour& colour, const Tool& tool) {
    nlohmann::json json = toJson(colour);
    json.update({{"speed", tool.speed}, {"holder", tool.holder}});
    if (tool.force)
        json["force"] = *tool.force;
    if (tool.passes != 1)
        json["passes"] = tool.passes;
    if (tool.bladeOffset > 0)
        json["bladeOffset"] = tool.bladeOffset;
    if (tool.overcut > 0)
        json["overcut"] = tool.overcut;
    return json;
}

MarkScheme marksFromJson(const JsonReader& json) {
    if (json.at("shape").text(20) != "dot")
        json.at("shape").refuse("must be \"dot\"");
    const MarkScheme marks{json.at("size").number(0.5, 50), json.at("distance").number(0, 200),
                           json.at("quiet").number(0, 100)};
    if (marks.distance < marks.size / 2 + marks.quiet)
        json.at("distance").refuse("must be at least half the marks' size and their quiet zone together");
    return marks;
}

void readLines(Profile& profile, const JsonReader& lines) {
    for (const LineKind kind : lineKinds) {
        const std::string name(kindName(kind));
        const auto place = std::size_t(kind);
        if (kind == LineKind::kiss || lines.has(name)) {
            profile.names.lines[place] = spotFromJson(lines.at(name));
            profile.cutter.tools[place] = toolFromJson(lines.at(name), kind);
        } else {
            const Profile start = startProfile();
            profile.names.lines[place] = start.names.of(kind);
            profile.cutter.tools[place] = start.cutter.tool(kind);
        }
    }
}

void readInks(Profile& profile, const JsonReader& json) {
    const JsonReader inks = json.at("inks");
    for (const InkKind ink : inkKinds)
        profile.names.inks[std::size_t(ink)] = spotFromJson(inks.at(inkName(ink)));
    auto& inkOrder = profile.printer.inkOrder;
    const auto order = json.at("inkOrder").elements(inkKinds.size());
    if (order.size() != inkKinds.size())
        json.at("inkOrder").refuse("must name each ink once");
    for (std::size_t i = 0; i < order.size(); ++i) {
        const std::string name = order[i].text(20);
        const auto found =
            std::find_if(inkKinds.begin(), inkKinds.end(), [&](InkKind ink) { return inkName(ink) == name; });
        if (found == inkKinds.end() || std::find(inkOrder.begin(), inkOrder.begin() + std::ptrdiff_t(i),
                                                 *found) != inkOrder.begin() + std::ptrdiff_t(i))
            order[i].refuse("must be \"white\", \"gloss\" or \"primer\", each once");
        inkOrder[i] = *found;
    }
}

/// All names that leave in a print file, and what for.
std::vector<std::pair<std::string, std::string>> spotNames(const Profile& profile) {
    std::vector<std::pair<std::string, std::string>> names;
    names.reserve(lineKinds.size() + inkKinds.size());
    for (const LineKind kind : lineKinds)
        names.emplace_back(std::string(kindName(kind)) + " lines", profile.names.of(kind).name);
    for (const InkKind ink : inkKinds)
        names.emplace_back(inkName(ink), profile.names.of(ink).name);
    return names;
}

void requireOwnNames(const Profile& profile, const JsonReader& json) {
    const auto names = spotNames(profile);
    for (std::size_t i = 0; i < names.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            if (names[i].second == names[j].second)
                json.refuse("has the name \"" + names[i].second + "\" for " + names[j].first + " and for " +
                            names[i].first + ": give each its own");
}

} // namespace

std::string_view kindName(LineKind kind) {
    constexpr std::array names{"kiss", "crease", "perforated", "die"};
    return names[std::size_t(kind)];
}

std::string_view inkName(InkKind ink) {
    constexpr std::array names{"white", "gloss", "primer"};
    return names[std::size_t(ink)];
}

Profile profileFromJson(const JsonReader& json) {
    Profile profile;
    profile.name = json.at("name").text(200);
    const JsonReader reach = json.at("reach");
    profile.cutter.reach = {reach.at("leading").number(0, widestStrip),
                            reach.at("trailing").number(0, widestStrip),
                            reach.at("sides").number(0, widestStrip)};
    profile.marks = marksFromJson(json.at("marks"));
    const JsonReader lines = json.at("lines");
    readLines(profile, lines);
    if (json.has("machineMakesTabs"))
        profile.cutter.makesTabs = json.at("machineMakesTabs").flag();
    if (json.has("inks")) {
        readInks(profile, json);
    } else {
        const Profile start = startProfile();
        profile.names.inks = start.names.inks;
        profile.printer = start.printer;
    }
    if (lines.has("perforated") && json.has("inks")) // else no one has chosen all names
        requireOwnNames(profile, json);
    return profile;
}

nlohmann::json toJson(const Profile& profile) {
    nlohmann::json lines;
    for (const LineKind kind : lineKinds)
        lines[std::string(kindName(kind))] = toJson(profile.names.of(kind), profile.cutter.tool(kind));
    nlohmann::json inks, order = nlohmann::json::array();
    for (const InkKind ink : inkKinds)
        inks[std::string(inkName(ink))] = toJson(profile.names.of(ink));
    for (const InkKind ink : profile.printer.inkOrder)
        order.push_back(inkName(ink));
    return {
        {"name", profile.name},
        {"reach",
         {{"leading", profile.cutter.reach.leading},
          {"trailing", profile.cutter.reach.trailing},
          {"sides", profile.cutter.reach.sides}}},
        {"marks",
         {{"shape", "dot"},
          {"size", profile.marks.size},
          {"distance", profile.marks.distance},
          {"quiet", profile.marks.quiet}}},
        {"lines", std::move(lines)},
        {"machineMakesTabs", profile.cutter.makesTabs},
        {"inks", std::move(inks)},
        {"inkOrder", std::move(order)},
    };
}

Profile startProfile() {
    const nlohmann::json json = parseJson(knownProfilesJson[0]);
    return profileFromJson({json, "profile"});
}

std::vector<Profile> knownProfiles() {
    std::vector<Profile> profiles;
    for (const std::string_view text : knownProfilesJson) {
        const nlohmann::json json = parseJson(text);
        profiles.push_back(profileFromJson({json, "profile"}));
    }
    return profiles;
}

std::string plainName(std::string_view name) {
    std::string letters;
    for (const char c : name) {
        if (c == ' ' || c == '-' || c == '_')
            continue;
        letters += c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
    }
    return letters;
}

std::vector<std::string> doubtsAboutNames(const Profile& profile) {
    const auto common = spotNames(startProfile());
    std::vector<std::string> doubts;
    for (const auto& [what, name] : spotNames(profile))
        for (const auto& [usual, expected] : common)
            if (name != expected && plainName(name) == plainName(expected)) {
                std::string& doubt = doubts.emplace_back("\"");
                doubt.append(name).append("\" is all but \"").append(expected);
                doubt.append("\", which many printers' software expects: it takes the exact letters");
            }
    return doubts;
}

} // namespace hasami
