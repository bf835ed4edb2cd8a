#include "job/job_json.h"

#include "job/recipe_json.h"

#include <set>

namespace hasami {

namespace {

using nlohmann::json;

constexpr double farthest = 20'000;      // mm; an item's place in its design
constexpr int mostPixelsAlong = 100'000; // along one side
constexpr int mostPages = 1'000'000;

json toJson(const Item& item) {
    json about{{"kind", item.isVector ? "page" : "picture"},
               {"asset", item.asset},
               {"name", item.name},
               {"pixels", {item.pixelWidth, item.pixelHeight}},
               {"x", item.place.at.x},
               {"y", item.place.at.y},
               {"width", item.place.width},
               {"height", item.place.height}};
    if (item.isVector || item.page != 1)
        about["page"] = item.page;
    if (item.place.turn != 0)
        about["turn"] = item.place.turn;
    if (item.place.isMirrored)
        about["mirrored"] = true;
    if (item.crop)
        about["crop"] = {item.crop->left, item.crop->top, item.crop->width, item.crop->height};
    return about;
}

json toJson(const Design& design) {
    json items = json::array();
    for (const Item& item : design.artwork.items)
        items.push_back(toJson(item));
    json about{{"id", design.id},
               {"name", design.name},
               {"count", design.count},
               {"items", items},
               {"recipe", hasami::toJson(design.recipe)}};
    if (design.fills)
        about["fills"] = true;
    if (design.turning.kind == Turning::Kind::none)
        about["turning"] = "none";
    else if (design.turning.kind == Turning::Kind::steps)
        about["turning"] = design.turning.step;
    for (const Guide& guide : design.guides)
        about["guides"].push_back({{guide.isUpright ? "x" : "y", guide.at}});
    return about;
}

json boxJson(const Box& box) {
    return {box.least.x, box.least.y, box.width(), box.height()};
}

json toJson(const Medium& medium) {
    json about{{"width", medium.width}, {"length", nullptr}};
    if (medium.length)
        about["length"] = *medium.length;
    if (medium.rollLength)
        about["roll_length"] = *medium.rollLength;
    for (const auto& [name, value] : {std::pair("start", medium.start),
                                      {"end", medium.end},
                                      {"first_side", medium.firstSide},
                                      {"last_side", medium.lastSide},
                                      {"price", medium.price}})
        if (value != 0)
            about[name] = value;
    for (const Track& track : medium.tracks)
        about["tracks"].push_back({track.at, track.width});
    for (const UsedArea& used : medium.used)
        about["used"].push_back({{"sheet", used.sheet}, {"box", boxJson(used.box)}});
    return about;
}

json toJson(const RowRules& rows) {
    json about = json::object();
    if (rows.across)
        about["across"] = *rows.across;
    if (rows.along)
        about["along"] = *rows.along;
    if (rows.most != 0)
        about["most"] = rows.most;
    for (const auto& [name, isSo] : {std::pair("staggered", rows.isStaggered),
                                     {"alternate_turned", rows.turnsAlternate},
                                     {"centred", rows.isCentred}})
        if (isSo)
            about[name] = true;
    return about;
}

json toJson(const LaidPiece& piece) {
    json about{{"design", piece.design}, {"x", piece.centre.x}, {"y", piece.centre.y}, {"turn", piece.turn}};
    if (piece.sheet != 0)
        about["sheet"] = piece.sheet;
    if (piece.copy > 0)
        about["copy"] = piece.copy;
    if (piece.isPinned)
        about["pinned"] = true;
    return about;
}

json toJson(const SheetPlan& plan) {
    json about{{"medium", toJson(plan.medium)}, {"gap", plan.gap}};
    if (const auto& box = plan.box) {
        about["box"] = {{"kind", kindInFiles(box->kind)}, {"margin", box->margin}, {"radius", box->radius}};
        if (!(box->tabs == TabRule{}))
            about["box"]["tabs"] = hasami::toJson(box->tabs);
    }
    if (plan.margin != 0)
        about["margin"] = plan.margin;
    if (plan.packing == Packing::nest)
        about["packing"] = "nest";
    if (!(plan.rows == RowRules{}))
        about["rows"] = toJson(plan.rows);
    if (plan.sets != 1)
        about["sets"] = plan.sets;
    for (const LaidPiece& piece : *plan.laid)
        about["laid"].push_back(toJson(piece));
    return about;
}

PixelBox cropFromJson(const JsonReader& in, const Item& item) {
    const auto parts = in.elements(4);
    if (parts.size() != 4)
        in.refuse("must be four numbers: left, top, width and height");
    const int left = parts[0].wholeNumber(0, item.pixelWidth - 1);
    const int top = parts[1].wholeNumber(0, item.pixelHeight - 1);
    return {left, top, parts[2].wholeNumber(1, item.pixelWidth - left),
            parts[3].wholeNumber(1, item.pixelHeight - top)};
}

Item itemFromJson(const JsonReader& in) {
    const std::string kind = in.at("kind").text(50);
    if (kind != "picture" && kind != "page")
        in.at("kind").refuse("must be \"picture\" or \"page\"");
    Item item;
    item.isVector = kind == "page";
    if (item.isVector || in.has("page"))
        item.page = in.at("page").wholeNumber(1, mostPages);
    item.asset = in.at("asset").text(64);
    item.name = in.at("name").text(1000);
    const auto pixels = in.at("pixels").elements(2);
    if (pixels.size() != 2)
        in.at("pixels").refuse("must be two numbers: width and height");
    item.pixelWidth = pixels[0].wholeNumber(1, mostPixelsAlong);
    item.pixelHeight = pixels[1].wholeNumber(1, mostPixelsAlong);
    item.place = {{in.at("x").number(-farthest, farthest), in.at("y").number(-farthest, farthest)},
                  in.at("width").number(Limits::leastSize * (1 - 1e-6), Limits::mostSize * (1 + 1e-6)),
                  in.at("height").number(Limits::leastSize * (1 - 1e-6), Limits::mostSize * (1 + 1e-6))};
    if (in.has("turn"))
        item.place.turn = in.at("turn").number(-360, 360);
    if (in.has("mirrored"))
        item.place.isMirrored = in.at("mirrored").flag();
    if (in.has("crop"))
        item.crop = cropFromJson(in.at("crop"), item);
    return item;
}

Turning turningFromJson(const JsonReader& in) {
    if (in.isNumber())
        return {Turning::Kind::steps, in.number(Limits::leastTurnStep, 360)};
    if (in.text(10) != "none")
        in.refuse("must be \"none\" or a step in degrees");
    return {Turning::Kind::none};
}

Design designFromJson(const JsonReader& in) {
    Design design;
    design.id = in.at("id").text(100);
    design.name = in.at("name").text(1000);
    design.count = in.at("count").wholeNumber(0, Limits::mostCopies);
    const auto items = in.at("items").elements(Limits::mostItems);
    if (items.empty())
        in.at("items").refuse("must not be empty");
    for (const JsonReader& item : items)
        design.artwork.items.push_back(itemFromJson(item));
    design.recipe = recipeFromJson(in.at("recipe"));
    if (in.has("fills"))
        design.fills = in.at("fills").flag();
    if (in.has("turning"))
        design.turning = turningFromJson(in.at("turning"));
    if (in.has("guides"))
        for (const JsonReader& guide : in.at("guides").elements(Limits::mostGuides)) {
            const bool isUpright = guide.has("x");
            design.guides.push_back({isUpright, guide.at(isUpright ? "x" : "y").number(-farthest, farthest)});
        }
    return design;
}

SharedBox boxFromJson(const JsonReader& in) {
    SharedBox box;
    box.kind = kindFromJson(in.at("kind"));
    if (box.kind != LineKind::die && box.kind != LineKind::perforated)
        in.at("kind").refuse("must be \"die\" or \"perforated\"");
    box.margin = in.at("margin").number(0, Limits::mostOffset);
    box.radius = in.at("radius").number(0, Limits::mostSize);
    if (in.has("tabs"))
        box.tabs = tabsFromJson(in.at("tabs"));
    return box;
}

Box usedBoxFromJson(const JsonReader& in) {
    const auto parts = in.elements(4);
    if (parts.size() != 4)
        in.refuse("must be four numbers: x, y, width and height");
    const Point least{parts[0].number(0, Limits::mostMedium), parts[1].number(0, Limits::mostMedium)};
    return {least,
            least + Point{parts[2].number(0, Limits::mostMedium), parts[3].number(0, Limits::mostMedium)}};
}

Medium mediumFromJson(const JsonReader& in) {
    Medium medium;
    medium.width = in.at("width").number(Limits::leastMedium, Limits::mostMedium);
    if (!in.at("length").isNull())
        medium.length = in.at("length").number(Limits::leastMedium, Limits::mostMedium);
    if (in.has("roll_length"))
        medium.rollLength = in.at("roll_length").number(Limits::leastMedium, Limits::mostMedium);
    for (const auto& [name, value, most] : {std::tuple("start", &medium.start, Limits::mostMedium),
                                            {"end", &medium.end, Limits::mostMedium},
                                            {"first_side", &medium.firstSide, Limits::mostMedium},
                                            {"last_side", &medium.lastSide, Limits::mostMedium},
                                            {"price", &medium.price, Limits::mostPrice}})
        if (in.has(name))
            *value = in.at(name).number(0, most);
    if (in.has("tracks"))
        for (const JsonReader& track : in.at("tracks").elements(Limits::mostTracks)) {
            const auto parts = track.elements(2);
            if (parts.size() != 2)
                track.refuse("must be two numbers: where it begins across, and its width");
            medium.tracks.push_back(
                {parts[0].number(0, Limits::mostMedium), parts[1].number(0, Limits::mostMedium)});
        }
    if (in.has("used"))
        for (const JsonReader& used : in.at("used").elements(Limits::mostUsedAreas))
            medium.used.push_back(
                {used.at("sheet").wholeNumber(0, Limits::mostSheets), usedBoxFromJson(used.at("box"))});
    return medium;
}

RowRules rowsFromJson(const JsonReader& in) {
    RowRules rows;
    if (in.has("across"))
        rows.across = in.at("across").number(0, Limits::mostGap);
    if (in.has("along"))
        rows.along = in.at("along").number(0, Limits::mostGap);
    if (in.has("most"))
        rows.most = in.at("most").wholeNumber(0, Limits::mostInRow);
    for (const auto& [name, isSo] : {std::pair("staggered", &rows.isStaggered),
                                     {"alternate_turned", &rows.turnsAlternate},
                                     {"centred", &rows.isCentred}})
        if (in.has(name))
            *isSo = in.at(name).flag();
    return rows;
}

LaidPiece laidFromJson(const JsonReader& in) {
    LaidPiece piece;
    piece.design = in.at("design").text(100);
    piece.centre = {in.at("x").number(-Limits::farthestLaid, Limits::farthestLaid),
                    in.at("y").number(-Limits::farthestLaid, Limits::farthestLaid)};
    piece.turn = in.at("turn").number(-360, 360);
    if (in.has("sheet"))
        piece.sheet = in.at("sheet").wholeNumber(0, Limits::mostSheets);
    if (in.has("pinned"))
        piece.isPinned = in.at("pinned").flag();
    if (in.has("copy"))
        piece.copy = in.at("copy").wholeNumber(1, int(Limits::mostLaid));
    return piece;
}

SheetPlan planFromJson(const JsonReader& in) {
    SheetPlan plan;
    plan.medium = mediumFromJson(in.at("medium"));
    plan.gap = in.at("gap").number(0, Limits::mostGap);
    if (in.has("box"))
        plan.box = boxFromJson(in.at("box"));
    if (in.has("margin"))
        plan.margin = in.at("margin").number(0, Limits::mostGap);
    if (in.has("packing")) {
        const std::string packing = in.at("packing").text(10);
        if (packing != "rows" && packing != "nest")
            in.at("packing").refuse("must be \"rows\" or \"nest\"");
        plan.packing = packing == "nest" ? Packing::nest : Packing::rows;
    }
    if (in.has("rows"))
        plan.rows = rowsFromJson(in.at("rows"));
    if (in.has("sets"))
        plan.sets = in.at("sets").wholeNumber(1, Limits::mostSets);
    if (in.has("laid"))
        for (const JsonReader& piece : in.at("laid").elements(Limits::mostLaid))
            plan.laid.edit().push_back(laidFromJson(piece));
    numberCopies(plan.laid.edit()); // as jobs before format 8 did not
    return plan;
}

LengthUnit unitFromJson(const JsonReader& in) {
    const std::string name = in.text(10);
    for (const LengthUnit unit : lengthUnits)
        if (unitName(unit) == name)
            return unit;
    in.refuse("must be \"mm\", \"cm\", \"in\" or \"pt\"");
}

void requireAssets(const Job& job) {
    std::set<std::string> ids;
    for (const Design& design : job.designs) {
        if (!ids.insert(design.id).second)
            throw InputError("two designs have the id \"" + design.id + "\"");
        for (const Item& item : design.artwork.items)
            if (!job.assets->contains(item.asset))
                throw InputError("the picture \"" + item.name + "\" of the design \"" + design.name +
                                 "\" is not in the file");
    }
    for (const LaidPiece& piece : *job.plan.laid)
        if (!ids.contains(piece.design))
            throw InputError("a sticker on the sheet is of a design \"" + piece.design +
                             "\" that is not in the file");
}

} // namespace

std::string jobToJson(const Job& job) {
    json designs = json::array();
    for (const Design& design : job.designs)
        designs.push_back(toJson(design));
    json assets = json::object();
    for (const auto& [sha256, asset] : *job.assets)
        assets[sha256] = {{"name", asset->name}};
    const json all{
        {"format", jobFormat}, {"unit", unitName(job.unit)}, {"profile", hasami::toJson(job.profile)},
        {"assets", assets},    {"designs", designs},         {"sheet", toJson(job.plan)}};
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
        throw InputError("it was made by a newer Hasami (job format " + std::to_string(format) +
                         "; this one reads up to " + std::to_string(jobFormat) + ")");
    Job job;
    if (in.has("unit"))
        job.unit = unitFromJson(in.at("unit"));
    job.profile = profileFromJson(in.at("profile"));
    job.plan = planFromJson(in.at("sheet"));
    job.assets = std::move(assets);
    for (const JsonReader& design : in.at("designs").elements(Limits::mostDesigns))
        job.designs.push_back(designFromJson(design));
    requireAssets(job);
    return job;
}

} // namespace hasami
