#include "job/job_json.h"

#include "base/translation.h"
#include "job/job_fields.h"
#include "job/output_fields.h"
#include "job/own_artwork_fields.h"
#include "job/price_fields.h"

#include <algorithm>
#include <array>
#include <set>

namespace hasami {

namespace {

using nlohmann::json;

/// What an item's content is called in files, in the order of its variant.
constexpr std::array contentKinds{"picture", "page"};
constexpr std::array ownKinds{"lettering", "shape", "code"}; // of OwnArtwork::what, in its order

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
            if (item.file() && !job.assets->contains(item.file()->asset))
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

namespace {

json ownToJson(const OwnArtwork& own) {
    const char* kind = ownKinds.at(own.what.index());
    json about{{"kind", kind},
               {kind, std::visit([](const auto& what) { return hasami::toJson(what); }, own.what)},
               {"fill", Codec<Fill>::write(own.fill)}};
    if (own.lineWidth > 0)
        about["line"] = {{"width", own.lineWidth}, {"colour", hasami::toJson(own.lineColour)}};
    return about;
}

OwnArtwork ownFromJson(const std::string& kind, const JsonReader& in) {
    OwnArtwork own;
    if (kind == "lettering")
        own.what = fromJson<Lettering>(in.at("lettering"));
    else if (kind == "shape")
        own.what = fromJson<Figure>(in.at("shape"));
    else
        own.what = fromJson<CodeArtwork>(in.at("code"));
    own.fill = Codec<Fill>::read(in.at("fill"));
    if (in.has("line")) {
        own.lineWidth = in.at("line").at("width").number(0, Limits::mostBorder);
        own.lineColour = fromJson<PaintColour>(in.at("line").at("colour"));
    }
    return own;
}

/// Draws what designs hold of own artwork.
void drawOwn(Job& job, const FontSource& others) {
    OpenFonts open;
    const FontSource fonts = fontSourceOf(*job.assets, open, others);
    const AssetSource assets = assetSourceOf(*job.assets);
    for (std::size_t d = 0; d < job.designs.size(); ++d) {
        const std::vector<Item>& items = std::as_const(job).designs[d].artwork.items;
        if (std::ranges::none_of(items, [](const Item& item) { return item.own(); }))
            continue;
        for (Item& item : job.designs[d].artwork.items)
            if (item.own())
                drawAsRead(item, fonts, assets);
    }
}

} // namespace

void Fields<Item>::write(json& about, const Item& item) {
    if (const OwnArtwork* own = item.own()) {
        about.update(ownToJson(*own));
        return;
    }
    if (const auto* picture = std::get_if<FilePicture>(&item.content))
        about.update(hasami::toJson(*picture));
    else
        about.update(hasami::toJson(std::get<FilePage>(item.content)));
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
    else if (std::ranges::find(ownKinds, kind) != ownKinds.end()) {
        item.content = ownFromJson(kind, in);
        return;
    } else
        in.at("kind").refuse("%1 must be \"picture\", \"page\", \"lettering\", \"shape\" or \"code\"");
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
    const json line{{"type", "object"},
                    {"required", {"width", "colour"}},
                    {"properties",
                     {{"width", {{"type", "number"}, {"minimum", 0}, {"maximum", Limits::mostBorder}}},
                      {"colour", fields::schema<PaintColour>()}}}};
    json kinds(contentKinds);
    for (const char* kind : ownKinds)
        kinds.push_back(kind);
    schema["properties"].update({{"kind", {{"enum", kinds}}},
                                 {"pixels", wholeNumbers(2, 1)},
                                 {"crop", wholeNumbers(4, 0)},
                                 {"lettering", fields::schema<Lettering>()},
                                 {"shape", fields::schema<Figure>()},
                                 {"code", fields::schema<CodeArtwork>()},
                                 {"fill", Codec<Fill>::schema()},
                                 {"line", line}});
    schema["required"].push_back("kind");
    schema["oneOf"] = json::array({{{"required", {"asset", "pixels"}}}, {{"required", {"fill"}}}});
}

std::string jobToJson(const Job& job) {
    json designs = json::array();
    for (const Design& design : job.designs)
        designs.push_back(toJson(design));
    json assets = json::object();
    for (const auto& [sha256, asset] : *job.assets)
        assets[sha256] = {{"name", asset->name}};
    json all{{"format", jobFormat},
             {"unit", nameOf(units, job.unit)},
             {"profile", hasami::toJson(job.profile)},
             {"assets", assets},
             {"designs", designs},
             {"sheet", toJson(job.plan)},
             {"outputs", toJson(job.outputs)}};
    if (!(job.prices == Prices{}))
        all["prices"] = toJson(job.prices);
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

Job jobFromJson(std::string_view text, Assets assets, const FontSource& fonts) {
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
    if (in.has("prices"))
        job.prices = fromJson<Prices>(in.at("prices"));
    job.assets = std::move(assets);
    for (const JsonReader& design : in.at("designs").elements(Limits::mostDesigns))
        job.designs.push_back(fromJson<Design>(design));
    requireAssets(job);
    drawOwn(job, fonts);
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
          {"outputs", fields::schema<OutputPlan>()},
          {"prices", fields::schema<Prices>()}}}};
    return all.dump(2) + "\n";
}

} // namespace hasami
