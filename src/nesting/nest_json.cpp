#include "nesting/nest_json.h"

#include "base/json_reader.h"
#include "base/translation.h"

#include <cmath>
#include <map>
#include <numbers>
#include <optional>

namespace hasami::nesting {

namespace {

using nlohmann::json;

constexpr double degree = std::numbers::pi / 180;

Point pointFromJson(const JsonReader& in) {
    const auto parts = in.elements(2);
    if (parts.size() != 2)
        in.refuse("%1 must be two numbers: x and y");
    return {parts[0].number(-Limits::mostCoordinate, Limits::mostCoordinate),
            parts[1].number(-Limits::mostCoordinate, Limits::mostCoordinate)};
}

Loop loopFromJson(const JsonReader& in) {
    const auto points = in.elements(Limits::mostPoints);
    if (points.size() < 3)
        in.refuse("%1 has fewer than three points");
    Loop loop;
    loop.reserve(points.size());
    for (const JsonReader& point : points)
        loop.push_back(pointFromJson(point));
    return loop;
}

/// Names the part as well as the place, for those who know their parts by name.
template <class Read>
auto ofPart(const std::string& id, Read read) {
    try {
        return read();
    } catch (const InputError& error) {
        throw InputError(id + ": " + error.what());
    }
}

std::optional<std::vector<double>> rotationsFromJson(const JsonReader& in, const json& value) {
    if (value.is_string()) {
        if (in.text(20) != "any")
            in.refuse("%1 must be \"any\" or a list of degrees");
        return {};
    }
    std::vector<double> turns;
    for (const JsonReader& turn : in.elements(Limits::mostRotations))
        turns.push_back(turn.number(-360'000, 360'000) * degree);
    if (turns.empty())
        in.refuse("%1 must not be empty");
    return turns;
}

Part partFromJson(const JsonReader& in, const json& value) {
    Part part;
    part.id = in.at("id").text(1000);
    ofPart(part.id, [&] {
        part.copies = in.at("copies").wholeNumber(0, Limits::mostCopies);
        if (in.has("rotations"))
            part.rotations = rotationsFromJson(in.at("rotations"), value.at("rotations"));
        if (in.has("mirror"))
            part.mayMirror = in.at("mirror").flag();
        part.outline = loopFromJson(in.at("outline"));
        if (in.has("holes"))
            for (const JsonReader& hole : in.at("holes").elements(Limits::mostOpenings))
                part.openings.push_back(loopFromJson(hole));
        return 0;
    });
    return part;
}

int sheetFromJson(const JsonReader& in, const Media& media) {
    const int sheet = in.wholeNumber(0, Limits::mostSheets - 1);
    if (!media.length && sheet > 0)
        in.refuse("%1 must be 0: a roll has one sheet");
    return sheet;
}

Pinned pinnedFromJson(const JsonReader& in, const Media& media,
                      const std::map<std::string, std::size_t>& ids) {
    const std::string id = in.at("id").text(1000);
    const auto part = ids.find(id);
    if (part == ids.end())
        in.at("id").refuse("%1 is \"%2\", but no part has this name", id);
    Pinned pinned;
    pinned.part = part->second;
    pinned.sheet = in.has("sheet") ? sheetFromJson(in.at("sheet"), media) : 0;
    const auto place = [&](const char* name) {
        return in.at(name).number(-2 * Limits::mostCoordinate, 2 * Limits::mostCoordinate);
    };
    pinned.pose = {place("x"), place("y"), in.at("rotation").number(-360'000, 360'000) * degree,
                   in.has("mirror") && in.at("mirror").flag()};
    return pinned;
}

void requireMillimetres(const JsonReader& in) {
    if (in.has("units") && in.at("units").text(20) != "mm")
        in.at("units").refuse("%1 must be \"mm\"");
}

void requireRoom(const Problem& problem) {
    const double least = std::min(problem.media.width, problem.media.length.value_or(problem.media.width));
    if (problem.margin * 2 >= least)
        throw InputError(sentence("the margin of %1 mm leaves nothing of the medium",
                                  std::to_string(int(problem.margin))));
}

} // namespace

Problem problemFromJson(std::string_view text) {
    const json all = parseJson(text);
    const JsonReader in(all, "");
    requireMillimetres(in);
    Problem problem;
    const JsonReader media = in.at("media");
    problem.media.width = media.at("width").number(Limits::leastMedium, Limits::mostMedium);
    if (media.has("length") && !media.at("length").isNull())
        problem.media.length = media.at("length").number(Limits::leastMedium, Limits::mostMedium);
    if (in.has("margin"))
        problem.margin = in.at("margin").number(0, Limits::mostMargin);
    if (in.has("gap"))
        problem.gap = in.at("gap").number(0, Limits::mostGap);
    requireRoom(problem);
    std::map<std::string, std::size_t> ids;
    int copies = 0;
    const auto parts = in.at("parts").elements(Limits::mostParts);
    for (std::size_t i = 0; i < parts.size(); ++i) {
        problem.parts.push_back(partFromJson(parts[i], all.at("parts")[i]));
        const Part& part = problem.parts.back();
        if (!ids.emplace(part.id, i).second)
            throw InputError(sentence("two parts are called \"%1\"", part.id));
        copies += part.copies;
        if (copies > Limits::mostCopies)
            throw InputError(sentence("%1: with it there are more than %2 copies", part.id,
                                      std::to_string(Limits::mostCopies)));
    }
    if (in.has("blocked"))
        for (const JsonReader& blocked : in.at("blocked").elements(Limits::mostParts))
            problem.blocked.push_back(
                {blocked.has("sheet") ? sheetFromJson(blocked.at("sheet"), problem.media) : 0,
                 loopFromJson(blocked.at("outline"))});
    if (in.has("pinned"))
        for (const JsonReader& pinned : in.at("pinned").elements(Limits::mostParts))
            problem.pinned.push_back(pinnedFromJson(pinned, problem.media, ids));
    return problem;
}

std::string nestToJson(const Problem& problem, const Nest& nest, double seconds) {
    const auto rounded = [](double value, double steps) { return std::round(value * steps) / steps; };
    json placements = json::array(), unplaced = json::array();
    placements.get_ref<json::array_t&>().reserve(nest.placements.size());
    for (const Placement& placement : nest.placements) {
        // One member after the other: a list of pairs would be copied four times over.
        json& told = placements.emplace_back(json::object());
        told.emplace("id", problem.parts[placement.part].id);
        told.emplace("copy", placement.copy);
        told.emplace("sheet", placement.sheet);
        told.emplace("x", rounded(placement.pose.x, 1e7));
        told.emplace("y", rounded(placement.pose.y, 1e7));
        told.emplace("rotation", rounded(std::remainder(placement.pose.rotation / degree, 360), 1e11));
        told.emplace("mirror", placement.pose.isMirrored);
    }
    for (const NotPlaced& lost : nest.notPlaced)
        unplaced.push_back(
            {{"id", problem.parts[lost.part].id}, {"copies", lost.copies}, {"reason", lost.reason}});
    const json all{{"used_length", rounded(nest.usedLength, 1e6)}, {"sheets", nest.sheets},
                   {"density", rounded(nest.density, 1e9)},        {"seconds", rounded(seconds, 1e3)},
                   {"placements", std::move(placements)},          {"unplaced", std::move(unplaced)}};
    return all.dump(1, ' ', false, json::error_handler_t::replace) + "\n";
}

} // namespace hasami::nesting
