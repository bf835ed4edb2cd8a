#include "job/job_json.h"

#include "base/translation.h"
#include "job/job_fields.h"
#include "job/output_fields.h"

#include <array>
#include <set>

namespace hasami {

namespace {

using nlohmann::json;

/// What an item's content is called in files, in the order of its variant.
constexpr std::array contentKinds{"picture", "page"};

PixelBox cropFromJson(const JsonReader& in, const Item& item) {
    const auto parts = in.elements(4);
    if (parts.size() != 4)
        in.refuse("%1 must be four numbers: left, top, width and height");
    const int left = parts[0].wholeNumber(0, item.pixelWidth - 1);
    const int top = parts[1].wholeNumber(0, item.pixelHeight - 1);
    return {left, top, parts[2].wholeNumber(1, item.pixelWidth - left),
            parts[3].wholeNumber(1, item.pixelHeight - top)};
}

constexpr Named<LengthUnit> units[] = {{"mm", LengthUnit::millimetre},
                                       {"cm", LengthUnit::centimetre},
                                       {"in", LengthUnit::inch},
                                       {"pt", LengthUnit::point}};

void requireAssets(const Job& job) {
    std::set<std::string> ids;
    for (const Design& design : job.designs) {
        if (!ids.insert(design.id).second)
            throw InputError(sentence("two designs have the id \"%1\"", design.id));
        for (const Item& item : design.artwork.items)
            if (!job.assets->contains(item.file().asset))
                throw InputError(sentence("the picture \"%1\" of the design \"%2\" is not in the file",
                                          item.name, design.name));
    }
    if (!job.outputs.colours.empty() && !job.assets->contains(job.outputs.colours))
        throw InputError(sentence("the colour profile of its outputs is not in the file"));
    for (const LaidPiece& piece : *job.plan.laid)
        if (!ids.contains(piece.design))
            throw InputError(sentence("a sticker on the sheet is of a design \"%1\" that is not in the file",
                                      piece.design));
}

} // namespace

void Fields<Item>::write(json& about, const Item& item) {
    about.update(std::visit([](const auto& content) { return hasami::toJson(content); }, item.content));
    about["kind"] = contentKinds.at(item.content.index());
    about["pixels"] = {item.pixelWidth, item.pixelHeight};
    if (item.crop)
        about["crop"] = {item.crop->left, item.crop->top, item.crop->width, item.crop->height};
}

void Fields<Item>::complete(Item& item, const JsonReader& in) {
    const std::string kind = in.at("kind").text(50);
    if (kind == "picture")
        item.content = fromJson<FilePicture>(in);
    else if (kind == "page")
        item.content = fromJson<FilePage>(in);
    else
        in.at("kind").refuse("%1 must be \"picture\" or \"page\"");
    const auto pixels = in.at("pixels").elements(2);
    if (pixels.size() != 2)
        in.at("pixels").refuse("%1 must be two numbers: width and height");
    item.pixelWidth = pixels[0].wholeNumber(1, mostPixelsAlong);
    item.pixelHeight = pixels[1].wholeNumber(1, mostPixelsAlong);
    if (in.has("crop"))
        item.crop = cropFromJson(in.at("crop"), item);
}

void Fields<Item>::describe(json& schema) {
    const auto wholeNumbers = [](int count, int least) {
        return json{{"type", "array"},
                    {"minItems", count},
                    {"maxItems", count},
                    {"items", {{"type", "integer"}, {"minimum", least}, {"maximum", mostPixelsAlong}}}};
    };
    const json page = fields::schema<FilePage>();
    schema["properties"].update(page["properties"]);
    schema["properties"].update(
        {{"kind", {{"enum", contentKinds}}}, {"pixels", wholeNumbers(2, 1)}, {"crop", wholeNumbers(4, 0)}});
    for (const char* name : {"kind", "asset", "pixels"})
        schema["required"].push_back(name);
}

std::string jobToJson(const Job& job) {
    json designs = json::array();
    for (const Design& design : job.designs)
        designs.push_back(toJson(design));
    json assets = json::object();
    for (const auto& [sha256, asset] : *job.assets)
        assets[sha256] = {{"name", asset->name}};
    const json all{{"format", jobFormat},
                   {"unit", nameOf(units, job.unit)},
                   {"profile", hasami::toJson(job.profile)},
                   {"assets", assets},
                   {"designs", designs},
                   {"sheet", toJson(job.plan)},
                   {"outputs", toJson(job.outputs)}};
    // Names come from file names, which may hold bytes that are not UTF-8: those are replaced, not thrown at.
    return all.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

std::map<std::string, std::string> assetNamesFromJson(std::string_view text) {
    const json all = parseJson(text);
    std::map<std::string, std::string> names;
    const auto assets = all.find("assets");
    if (!all.is_object() || assets == all.end() || !assets->is_object())
        return names;
    for (const auto& [sha256, about] : assets->items()) {
        const bool isDigest =
            sha256.size() == 64 && sha256.find_first_not_of("0123456789abcdef") == std::string::npos;
        if (isDigest && about.is_object() && about.contains("name") && about["name"].is_string())
            names[sha256] = about["name"].get<std::string>();
    }
    return names;
}

Job jobFromJson(std::string_view text, Assets assets) {
    const json all = parseJson(text);
    const JsonReader in(all, "");
    const int format = in.at("format").wholeNumber(1, 1'000'000);
    if (format > jobFormat)
        throw InputError(sentence("it was made by a newer Hasami (job format %1; this one reads up to %2)",
                                  std::to_string(format), std::to_string(jobFormat)));
    Job job;
    if (in.has("unit"))
        job.unit = valueOf(units, in.at("unit"));
    job.profile = profileFromJson(in.at("profile"));
    job.plan = fromJson<SheetPlan>(in.at("sheet"));
    if (in.has("outputs"))
        job.outputs = fromJson<OutputPlan>(in.at("outputs"));
    job.assets = std::move(assets);
    for (const JsonReader& design : in.at("designs").elements(Limits::mostDesigns))
        job.designs.push_back(fromJson<Design>(design));
    requireAssets(job);
    return job;
}

std::string jobSchema() {
    const json asset{
        {"type", "object"}, {"required", {"name"}}, {"properties", {{"name", {{"type", "string"}}}}}};
    const json all{
        {"$schema", "http://json-schema.org/draft-07/schema#"},
        {"title", "job.json of a Hasami job"},
        {"type", "object"},
        {"required", {"format", "profile", "assets", "designs", "sheet"}},
        {"properties",
         {{"format", {{"type", "integer"}, {"minimum", 1}, {"maximum", jobFormat}}},
          {"unit", fields::schemaOf<LengthUnit>(OneOf(units))},
          {"profile", profileSchema()},
          {"assets",
           {{"type", "object"},
            {"propertyNames", {{"pattern", "^[0-9a-f]{64}$"}}},
            {"additionalProperties", asset}}},
          {"designs",
           {{"type", "array"}, {"maxItems", Limits::mostDesigns}, {"items", fields::schema<Design>()}}},
          {"sheet", fields::schema<SheetPlan>()},
          {"outputs", fields::schema<OutputPlan>()}}}};
    return all.dump(2) + "\n";
}

} // namespace hasami
