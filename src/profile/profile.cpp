#include "profile/profile.h"

#include "artwork/paint_colour_fields.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "profile/cut_language_names.h"
#include "profile/track_fields.h"
#include "profile/unknown_fields.h"
#include "profile_data.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace hasami {

constexpr double widestStrip = 1000; // mm
constexpr std::size_t mostRollers = 50;

template <>
struct Fields<SpotColour> {
    static constexpr auto list = std::make_tuple(field("spot", &SpotColour::name, AtMost{longestSpotName}),
                                                 field("tint", &SpotColour::tint, Anything{}));

    static void complete(const SpotColour& colour, const JsonReader& in) {
        if (colour.name.empty())
            in.at("spot").refuse("%1 must not be empty");
    }
    static void describe(nlohmann::json& schema) { schema["properties"]["spot"]["minLength"] = 1; }
};

template <>
struct Fields<Tool> {
    static constexpr auto list =
        std::make_tuple(field("holder", &Tool::holder, Within{1, 8}, Kept::sinceThen),
                        field("speed", &Tool::speed, Within{1, 10'000}, Kept::sinceThen),
                        field("force", &Tool::force, Within{1, 10'000}, Kept::unlessStart),
                        field("bladeDepth", &Tool::bladeDepth, Within{0.01, 10}, Kept::unlessStart),
                        field("passes", &Tool::passes, Within{1, 20}, Kept::unlessStart),
                        field("bladeOffset", &Tool::bladeOffset, Within{0, 2}, Kept::unlessStart),
                        field("overcut", &Tool::overcut, Within{0, 10}, Kept::unlessStart));
};

constexpr Named<MarkShape> markShapes[] = {{"dot", MarkShape::dot},
                                           {"bracket", MarkShape::bracket},
                                           {"cross", MarkShape::cross},
                                           {"square", MarkShape::square}};

template <>
struct Fields<MarkScheme> {
    static constexpr auto list =
        std::make_tuple(field("shape", &MarkScheme::shape, OneOf(markShapes)),
                        field("size", &MarkScheme::size, Within{0.5, 50}),
                        field("distance", &MarkScheme::distance, Within{0, 200}),
                        field("quiet", &MarkScheme::quiet, Within{0, 100}),
                        field("lineWidth", &MarkScheme::lineWidth, Within{0.1, 10}, Kept::unlessStart),
                        field("outlined", &MarkScheme::isOutlined, Anything{}, Kept::unlessStart),
                        field("corners", &MarkScheme::corners, Within{0, 4}, Kept::unlessStart),
                        field("interval", &MarkScheme::interval, Within{0, 10'000}, Kept::unlessStart),
                        field("inSections", &MarkScheme::inSections, Anything{}, Kept::unlessStart),
                        field("between", &MarkScheme::between, Within{0, 100}, Kept::unlessStart),
                        field("colour", &MarkScheme::colour, AsColour{}, Kept::unlessStart),
                        field("onWhite", &MarkScheme::isOnWhite, Anything{}, Kept::unlessStart));

    static void complete(MarkScheme& marks, const JsonReader& in) {
        if (in.has("spot") && !in.has("colour")) // of older files: its name alone
            marks.colour.spot = in.at("spot").text(longestSpotName);
        if (marks.corners == 1 || marks.corners == 2)
            in.at("corners").refuse("%1 must be 4, 3, or 0 for no marks");
        if (hasLines(marks) && marks.lineWidth * 2 > marks.size)
            in.at("size").refuse("%1 must be at least twice the marks' line width");
        if (marks.distance < leastDistance(marks))
            in.at("distance")
                .refuse("%1 must be at least %2 mm, so that the marks' quiet zones stay clear of the work",
                        numberText(std::ceil(leastDistance(marks) * 100) / 100, 2));
        if (marks.interval > 0)
            checkInterval(marks, in.at("interval"));
        if (marks.between > 0 && marks.shape == MarkShape::bracket)
            in.at("between").refuse("%1 must be 0 for brackets, which stand at corners alone");
    }

    static void describe(nlohmann::json& schema) {
        schema["properties"]["spot"] = {{"type", "string"}, {"maxLength", longestSpotName}};
    }

    static void checkInterval(const MarkScheme& marks, const JsonReader& in) {
        if (marks.shape == MarkShape::bracket)
            in.refuse("%1 must be 0 for brackets, whose arms would reach into the work");
        if (marks.corners != 4)
            in.refuse("%1 must be 0 without marks at four corners: pairs need both sides");
        if (marks.interval < leastInterval(marks))
            in.refuse("%1 must be at least %2 mm, so that the marks' quiet zones stay apart",
                      numberText(std::ceil(leastInterval(marks) * 100) / 100, 2));
    }
};

constexpr Named<CodeKind> codeKinds[] = {
    {"none", CodeKind::none}, {"datamatrix", CodeKind::dataMatrix}, {"code128", CodeKind::code128}};
constexpr Named<LeadPlace> leadPlaces[] = {
    {"first", LeadPlace::first}, {"middle", LeadPlace::middle}, {"last", LeadPlace::last}};

template <>
struct Fields<LeadScheme> {
    static constexpr auto list =
        std::make_tuple(field("arrow", &LeadScheme::hasArrow, Anything{}, Kept::unlessStart),
                        field("ticks", &LeadScheme::hasTicks, Anything{}, Kept::unlessStart),
                        field("text", &LeadScheme::hasText, Anything{}, Kept::unlessStart),
                        field("code", &LeadScheme::code, OneOf(codeKinds), Kept::unlessStart),
                        field("module", &LeadScheme::module, Within{0.2, 3}, Kept::unlessStart),
                        field("place", &LeadScheme::place, OneOf(leadPlaces), Kept::unlessStart));
};

constexpr Named<CutAxes::Origin> origins[] = {{"corner", CutAxes::Origin::corner},
                                              {"firstMark", CutAxes::Origin::firstMark}};

template <>
struct Fields<CutAxes> {
    static constexpr auto list =
        std::make_tuple(field("origin", &CutAxes::origin, OneOf(origins), Kept::unlessStart),
                        field("mirrored", &CutAxes::isMirrored, Anything{}, Kept::unlessStart),
                        field("turned", &CutAxes::isTurned, Anything{}, Kept::unlessStart));
};

template <>
struct Fields<Cutter::Reach> {
    static constexpr Within strip{0, widestStrip};
    static constexpr auto list = std::make_tuple(field("leading", &Cutter::Reach::leading, strip),
                                                 field("trailing", &Cutter::Reach::trailing, strip),
                                                 field("sides", &Cutter::Reach::sides, strip));
};

template <>
struct Fields<LoadLimits> {
    static constexpr auto list =
        std::make_tuple(field("turn", &LoadLimits::turn, Within{0.1, 45}, Kept::sinceThen),
                        field("shift", &LoadLimits::shift, Within{0.1, 1000}, Kept::sinceThen));
};

namespace {

/// Before there were holders, each kind of line had one of its own.
Tool toolFromJson(const JsonReader& json, LineKind kind) {
    Tool tool;
    tool.holder = int(kind) + 1;
    fields::readInto(json, tool);
    return tool;
}

void readLines(Profile& profile, const JsonReader& lines) {
    for (const LineKind kind : lineKinds) {
        const std::string name(kindName(kind));
        const auto place = std::size_t(kind);
        if (kind == LineKind::kiss || lines.has(name)) {
            profile.names.lines[place] = fromJson<SpotColour>(lines.at(name));
            profile.cutter.tools[place] = toolFromJson(lines.at(name), kind);
        } else {
            const Profile start = startProfile();
            profile.names.lines[place] = start.names.of(kind);
            profile.cutter.tools[place] = start.cutter.tool(kind);
        }
    }
}

constexpr std::string_view coloursPass = "colours";
constexpr std::size_t mostPasses = inkKinds.size() + 2; // the colours twice

InkOrder inkOrderFromJson(const JsonReader& json) {
    std::vector<InkOrder::Pass> passes;
    for (const JsonReader& element : json.elements(mostPasses)) {
        const std::string name = element.text(20);
        const auto* const ink = std::ranges::find(inkKinds, name, inkName);
        if (ink == inkKinds.end() && name != coloursPass)
            element.refuse("%1 must be \"white\", \"gloss\", \"primer\" or \"colours\"");
        passes.push_back(ink == inkKinds.end() ? InkOrder::Pass() : *ink);
    }
    if (std::ranges::find(passes, InkOrder::Pass()) == passes.end()) { // of older versions: above white
        const auto white = std::ranges::find(passes, InkOrder::Pass(InkKind::white));
        passes.insert(white == passes.end() ? white : white + 1, InkOrder::Pass());
    }
    if (!InkOrder::isValid(passes))
        json.refuse("%1 must name each ink once, and the colours once or, with an ink between, twice");
    return InkOrder(std::move(passes));
}

void readInks(Profile& profile, const JsonReader& json) {
    const JsonReader inks = json.at("inks");
    for (const InkKind ink : inkKinds)
        profile.names.inks[std::size_t(ink)] = fromJson<SpotColour>(inks.at(inkName(ink)));
    profile.printer.inkOrder = inkOrderFromJson(json.at("inkOrder"));
}

/// All names that leave in a print file, and what for.
std::vector<std::pair<std::string, std::string>> spotNames(const Profile& profile) {
    std::vector<std::pair<std::string, std::string>> names;
    names.reserve(lineKinds.size() + inkKinds.size());
    for (const LineKind kind : lineKinds)
        names.emplace_back(translated(englishNameOf(kind)), profile.names.of(kind).name);
    for (const InkKind ink : inkKinds)
        names.emplace_back(translated(englishNameOf(ink)), profile.names.of(ink).name);
    if (!profile.marks.colour.spot.empty())
        names.emplace_back(translated("Registration marks"), profile.marks.colour.spot);
    return names;
}

void requireOwnNames(const Profile& profile, const JsonReader& json) {
    const auto names = spotNames(profile);
    for (std::size_t i = 0; i < names.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            if (names[i].second == names[j].second)
                json.refuse("%1 has the name \"%2\" twice, for %3 and for %4: give each its own",
                            names[i].second, names[j].first, names[i].first);
}

} // namespace

bool hasLines(const MarkScheme& scheme) {
    return scheme.shape == MarkShape::bracket || scheme.shape == MarkShape::cross ||
           (scheme.shape == MarkShape::square && scheme.isOutlined);
}

bool cutsInSections(const MarkScheme& scheme) {
    return scheme.inSections && scheme.interval > 0;
}

double leastInterval(const MarkScheme& scheme) {
    return 2 * (scheme.size + 2 * scheme.quiet);
}

double inkReach(const MarkScheme& scheme) {
    return scheme.shape == MarkShape::bracket ? scheme.lineWidth / 2 : scheme.size / 2;
}

double leastDistance(const MarkScheme& scheme) {
    return inkReach(scheme) + scheme.quiet;
}

const char* englishNameOf(LineKind kind) {
    constexpr std::array names{N_("Kiss cut"), N_("Crease"), N_("Perforated die cut"), N_("Die cut")};
    return names[std::size_t(kind)];
}

const char* englishNameOf(InkKind ink) {
    constexpr std::array names{N_("White ink"), N_("Gloss"), N_("Primer")};
    return names[std::size_t(ink)];
}

std::string_view kindName(LineKind kind) {
    constexpr std::array names{"kiss", "crease", "perforated", "die"};
    return names[std::size_t(kind)];
}

std::string_view passName(const InkOrder::Pass& pass) {
    return pass ? inkName(*pass) : coloursPass;
}

std::string_view inkName(InkKind ink) {
    constexpr std::array names{"white", "gloss", "primer"};
    return names[std::size_t(ink)];
}

template <>
struct Fields<PrintScale> {
    static constexpr Within scale{PrintScale::least, PrintScale::most};
    static constexpr auto list = std::make_tuple(field("across", &PrintScale::across, scale),
                                                 field("along", &PrintScale::along, scale));
};

template <>
struct Fields<Profile> {
    static constexpr auto list = std::make_tuple(
        field("name", &Profile::name, AtMost{200}),
        field(
            "reach", [](auto& p) -> auto& { return p.cutter.reach; }, Anything{}),
        field("marks", &Profile::marks, Anything{}),
        field("lead", &Profile::lead, Anything{}, Kept::unlessStart),
        field(
            "rollers", [](auto& p) -> auto& { return p.cutter.rollers; }, Each{mostRollers, Anything{}},
            Kept::unlessStart),
        field(
            "axes", [](auto& p) -> auto& { return p.cutter.axes; }, Anything{}, Kept::unlessStart),
        field(
            "language", [](auto& p) -> auto& { return p.cutter.language; }, OneOf(cutLanguages),
            Kept::unlessStart),
        field(
            "connection", [](auto& p) -> auto& { return p.cutter.connection; }, AtMost{300},
            Kept::unlessStart),
        field(
            "cutError", [](auto& p) -> auto& { return p.cutter.error; }, Within{0, 10}, Kept::unlessStart),
        field(
            "load", [](auto& p) -> auto& { return p.cutter.load; }, Anything{}, Kept::unlessStart),
        field(
            "acceleration", [](auto& p) -> auto& { return p.cutter.acceleration; }, Within{0, 100'000},
            Kept::unlessStart),
        field(
            "toolChange", [](auto& p) -> auto& { return p.cutter.toolChange; }, Within{0, 3600},
            Kept::unlessStart),
        field(
            "printError", [](auto& p) -> auto& { return p.printer.error; }, Within{0, 10}, Kept::unlessStart),
        field(
            "printResolution", [](auto& p) -> auto& { return p.printer.resolution; }, Within{72, 9600},
            Kept::unlessStart),
        field(
            "printScale", [](auto& p) -> auto& { return p.printer.scale; }, Anything{}, Kept::unlessStart),
        field(
            "machineMakesTabs", [](auto& p) -> auto& { return p.cutter.makesTabs; }, Anything{},
            Kept::sinceThen));

    /// Lines and inks by their names.
    static void write(nlohmann::json& about, const Profile& profile) {
        for (const LineKind kind : lineKinds) {
            auto& line = about["lines"][std::string(kindName(kind))] = hasami::toJson(profile.names.of(kind));
            line.update(hasami::toJson(profile.cutter.tool(kind)));
        }
        for (const InkKind ink : inkKinds)
            about["inks"][std::string(inkName(ink))] = hasami::toJson(profile.names.of(ink));
        for (const InkOrder::Pass& pass : profile.printer.inkOrder.passes())
            about["inkOrder"].push_back(passName(pass));
        if (!profile.unknown.empty())
            about.update(nlohmann::json::parse(profile.unknown), true);
    }

    static void complete(Profile& profile, const JsonReader& in) {
        const JsonReader lines = in.at("lines");
        readLines(profile, lines);
        if (in.has("inks")) {
            readInks(profile, in);
        } else {
            const Profile start = startProfile();
            profile.names.inks = start.names.inks;
            profile.printer = start.printer;
        }
        if (lines.has("perforated") && in.has("inks")) // else no one has chosen all names
            requireOwnNames(profile, in);
    }

    static void describe(nlohmann::json& schema) {
        nlohmann::json line = fields::schema<SpotColour>(), lines, inks, names = nlohmann::json::array();
        line["properties"].update(fields::schema<Tool>()["properties"]);
        for (const LineKind kind : lineKinds)
            lines[std::string(kindName(kind))] = line;
        for (const InkKind ink : inkKinds) {
            inks[std::string(inkName(ink))] = fields::schema<SpotColour>();
            names.push_back(inkName(ink));
        }
        nlohmann::json passes = names;
        passes.push_back(coloursPass);
        schema["properties"].update(
            {{"lines", {{"type", "object"}, {"required", {"kiss"}}, {"properties", lines}}},
             {"inks", {{"type", "object"}, {"required", names}, {"properties", inks}}},
             {"inkOrder",
              {{"type", "array"},
               {"minItems", inkKinds.size()},
               {"maxItems", mostPasses},
               {"items", {{"enum", passes}}}}}});
        schema["required"].push_back("lines");
    }
};

Profile profileFromJson(const JsonReader& json) {
    Profile profile = fromJson<Profile>(json);
    if (const nlohmann::json unknown = unknownPart(json.json()); !unknown.empty())
        profile.unknown = unknown.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
    return profile;
}

nlohmann::json toJson(const Profile& profile) {
    return fields::written(profile);
}

nlohmann::json profileSchema() {
    return fields::schema<Profile>();
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
            if (name != expected && plainName(name) == plainName(expected))
                doubts.push_back(
                    sentence("\"%1\" differs a little from \"%2\", the name that the software of many "
                             "printers expects letter by letter",
                             name, expected));
    return doubts;
}

} // namespace hasami
