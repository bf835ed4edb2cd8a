#include "profile/profile.h"

#include "profile_data.h"

namespace hasami {

namespace {

constexpr double widestStrip = 1000; // mm

Profile::LineStyle lineStyleFromJson(const JsonReader& json) {
    Profile::LineStyle style;
    style.spot = json.at("spot").text(127); // the longest name that PDF allows everywhere
    if (style.spot.empty())
        json.at("spot").refuse("must not be empty");
    const auto tint = json.at("tint").elements(4);
    if (tint.size() != 4)
        json.at("tint").refuse("must be four numbers: cyan, magenta, yellow, black");
    for (std::size_t i = 0; i < 4; ++i)
        style.tint[i] = tint[i].number(0, 1);
    if (json.has("speed"))
        style.speed = json.at("speed").number(1, 10'000);
    if (json.has("force"))
        style.force = json.at("force").number(1, 10'000);
    return style;
}

nlohmann::json toJson(const Profile::LineStyle& style) {
    nlohmann::json json{{"spot", style.spot}, {"tint", style.tint}, {"speed", style.speed}};
    if (style.force)
        json["force"] = *style.force;
    return json;
}

} // namespace

std::string_view kindName(LineKind kind) {
    return kind == LineKind::kiss ? "kiss" : "die";
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
                                               ? lineStyleFromJson(lines.at(name))
                                               : startProfile().style(kind);
    }
    return profile;
}

nlohmann::json toJson(const Profile& profile) {
    nlohmann::json lines;
    for (const LineKind kind : lineKinds)
        lines[std::string(kindName(kind))] = toJson(profile.style(kind));
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
    };
}

Profile startProfile() {
    const nlohmann::json json = parseJson(startProfileJson);
    return profileFromJson({json, "profile"});
}

} // namespace hasami
