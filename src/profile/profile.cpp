#include "profile/profile.h"

#include "base/json_reader.h"
#include "profile_data.h"

#include <algorithm>
#include <utility>

namespace hasami {

namespace {

constexpr double widestStrip = 1000; // mm

constexpr std::size_t longestSpot = 127; // that PDF allows everywhere

template <class Spot>
Spot spotFromJson(const JsonReader& json) {
    Spot colour;
    colour.spot = json.at("spot").text(longestSpot);
    if (colour.spot.empty())
        json.at("spot").refuse("must not be empty");
    const auto tint = json.at("tint").elements(4);
    if (tint.size() != 4)
        json.at("tint").refuse("must be four numbers: cyan, magenta, yellow, black");
    for (std::size_t i = 0; i < 4; ++i)
        colour.tint[i] = tint[i].number(0, 1);
    return colour;
}

Profile::LineStyle lineStyleFromJson(const JsonReader& json, LineKind kind) {
    auto style = spotFromJson<Profile::LineStyle>(json);
    style.holder = json.has("holder") ? json.at("holder").wholeNumber(1, 8) : int(kind) + 1;
    if (json.has("speed"))
        style.speed = json.at("speed").number(1, 10'000);
    if (json.has("force"))
        style.force = json.at("force").number(1, 10'000);
    if (json.has("passes"))
        style.passes = json.at("passes").wholeNumber(1, 20);
    if (json.has("bladeOffset"))
        style.bladeOffset = json.at("bladeOffset").number(0, 2);
    if (json.has("overcut"))
        style.overcut = json.at("overcut").number(0, 10);
    return style;
}

nlohmann::json toJson(const SpotColour& colour) {
    return {{"spot", colour.spot}, {"tint", colour.tint}};
}

nlohmann::json toJson(const Profile::LineStyle& style) {
    nlohmann::json json = toJson(static_cast<const SpotColour&>(style));
    json.update({{"speed", style.speed}, {"holder", style.holder}});
    if (style.force)
        json["force"] = *style.force;
    if (style.passes != 1)
        json["passes"] = style.passes;
    if (style.bladeOffset > 0)
        json["bladeOffset"] = style.bladeOffset;
    if (style.overcut > 0)
        json["overcut"] = style.overcut;
    return json;
}

void readInks(Profile& profile, const JsonReader& json) {
    const JsonReader inks = json.at("inks");
    for (const InkKind ink : inkKinds)
        profile.inks[std::size_t(ink)] = spotFromJson<SpotColour>(inks.at(inkName(ink)));
    const auto order = json.at("inkOrder").elements(inkKinds.size());
    if (order.size() != inkKinds.size())
        json.at("inkOrder").refuse("must name each ink once");
    for (std::size_t i = 0; i < order.size(); ++i) {
        const std::string name = order[i].text(20);
        const auto found =
            std::find_if(inkKinds.begin(), inkKinds.end(), [&](InkKind ink) { return inkName(ink) == name; });
        if (found == inkKinds.end() ||
            std::find(profile.inkOrder.begin(), profile.inkOrder.begin() + std::ptrdiff_t(i), *found) !=
                profile.inkOrder.begin() + std::ptrdiff_t(i))
            order[i].refuse("must be \"white\", \"gloss\" or \"primer\", each once");
        profile.inkOrder[i] = *found;
    }
}

/// All names that leave in a print file, and what for.
std::vector<std::pair<std::string, std::string>> spotNames(const Profile& profile) {
    std::vector<std::pair<std::string, std::string>> names;
    names.reserve(lineKinds.size() + inkKinds.size());
    for (const LineKind kind : lineKinds)
        names.emplace_back(std::string(kindName(kind)) + " lines", profile.style(kind).spot);
    for (const InkKind ink : inkKinds)
        names.emplace_back(inkName(ink), profile.ink(ink).spot);
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
    profile.reach = {reach.at("leading").number(0, widestStrip), reach.at("trailing").number(0, widestStrip),
                     reach.at("sides").number(0, widestStrip)};
    const JsonReader marks = json.at("marks");
    if (marks.at("shape").text(20) != "dot")
        marks.at("shape").refuse("must be \"dot\"");
    profile.marks = {marks.at("size").number(0.5, 50), marks.at("distance").number(0, 200),
                     marks.at("quiet").number(0, 100)};
    if (profile.marks.distance < profile.marks.size / 2 + profile.marks.quiet)
        marks.at("distance").refuse("must be at least half the marks' size and their quiet zone together");
    const JsonReader lines = json.at("lines");
    for (const LineKind kind : lineKinds) {
        const std::string name(kindName(kind));
        profile.lines[std::size_t(kind)] = kind == LineKind::kiss || lines.has(name)
                                               ? lineStyleFromJson(lines.at(name), kind)
                                               : startProfile().style(kind);
    }
    if (json.has("machineMakesTabs"))
        profile.machineMakesTabs = json.at("machineMakesTabs").flag();
    if (json.has("inks")) {
        readInks(profile, json);
    } else {
        const Profile start = startProfile();
        profile.inks = start.inks;
        profile.inkOrder = start.inkOrder;
    }
    if (lines.has("perforated") && json.has("inks")) // else no one has chosen all names
        requireOwnNames(profile, json);
    return profile;
}

nlohmann::json toJson(const Profile& profile) {
    nlohmann::json lines;
    for (const LineKind kind : lineKinds)
        lines[std::string(kindName(kind))] = toJson(profile.style(kind));
    nlohmann::json inks, order = nlohmann::json::array();
    for (const InkKind ink : inkKinds)
        inks[std::string(inkName(ink))] = toJson(profile.ink(ink));
    for (const InkKind ink : profile.inkOrder)
        order.push_back(inkName(ink));
    return {
        {"name", profile.name},
        {"reach",
         {{"leading", profile.reach.leading},
          {"trailing", profile.reach.trailing},
          {"sides", profile.reach.sides}}},
        {"marks",
         {{"shape", "dot"},
          {"size", profile.marks.size},
          {"distance", profile.marks.distance},
          {"quiet", profile.marks.quiet}}},
        {"lines", std::move(lines)},
        {"machineMakesTabs", profile.machineMakesTabs},
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
