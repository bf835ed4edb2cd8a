#include "job/job_json.h"

#include "artwork/colour_text.h"
#include "base/json_reader.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <span>

namespace hasami {

namespace {

using nlohmann::json;

constexpr double farthest = 20'000; // mm; an item's place in its design
constexpr int mostPixels = 100'000; // along one side
constexpr int mostPages = 1'000'000;

template <class Value>
struct Named {
    const char* name;
    Value value;
};

constexpr Named<EdgeWay> ways[] = {{"auto", EdgeWay::automatic},    {"transparency", EdgeWay::transparency},
                                   {"backdrop", EdgeWay::backdrop}, {"brightness", EdgeWay::brightness},
                                   {"colours", EdgeWay::colours},   {"shape", EdgeWay::shape},
                                   {"paint", EdgeWay::paint},       {"lines", EdgeWay::lines}};
constexpr Named<LoopChoice> loopChoices[] = {
    {"outer", LoopChoice::outer}, {"openings", LoopChoice::openings}, {"all", LoopChoice::all}};
constexpr Named<PlainShapeKind> shapeKinds[] = {{"box", PlainShapeKind::box},
                                                {"rounded", PlainShapeKind::rounded},
                                                {"ellipse", PlainShapeKind::ellipse},
                                                {"circle", PlainShapeKind::circle},
                                                {"polygon", PlainShapeKind::polygon}};

constexpr Named<CornerForm> cornerForms[] = {
    {"round", CornerForm::round}, {"sharp", CornerForm::sharp}, {"flat", CornerForm::flat}};

constexpr Named<LineKind> kinds[] = {{"kiss", LineKind::kiss},
                                     {"crease", LineKind::crease},
                                     {"perforated", LineKind::perforated},
                                     {"die", LineKind::die}};
constexpr Named<LineCourse> courses[] = {
    {"edge", LineCourse::edge}, {"shape", LineCourse::shape}, {"fold", LineCourse::fold}};
constexpr Named<TabRule::Way> tabWays[] = {
    {"count", TabRule::Way::count}, {"pattern", TabRule::Way::pattern}, {"byHand", TabRule::Way::byHand}};

constexpr Named<InkKind> inks[] = {
    {"white", InkKind::white}, {"gloss", InkKind::gloss}, {"primer", InkKind::primer}};
constexpr Named<InkArea> inkAreas[] = {{"silhouette", InkArea::silhouette},
                                       {"notWhite", InkArea::notWhite},
                                       {"colours", InkArea::colours},
                                       {"coverage", InkArea::coverage}};
constexpr Named<StickerUse> uses[] = {
    {"stickers", StickerUse::stickers},   {"labels", StickerUse::labels},
    {"popOut", StickerUse::popOut},       {"lightCloth", StickerUse::lightCloth},
    {"darkCloth", StickerUse::darkCloth}, {"window", StickerUse::window},
    {"magnet", StickerUse::magnet},       {"wall", StickerUse::wall}};

template <class Value>
const char* nameOf(std::span<const Named<Value>> all, Value value) {
    return std::find_if(all.begin(), all.end(), [&](const auto& n) { return n.value == value; })->name;
}
template <class Value, std::size_t count>
const char* nameOf(const Named<Value> (&all)[count], Value value) {
    return nameOf(std::span<const Named<Value>>(all), value);
}

template <class Value, std::size_t count>
Value valueOf(const Named<Value> (&all)[count], const JsonReader& in) {
    const std::string text = in.text(50);
    std::string names;
    for (const auto& n : all) {
        if (n.name == text)
            return n.value;
        names += (names.empty() ? "\"" : ", \"") + std::string(n.name) + "\"";
    }
    in.refuse("must be one of " + names);
}

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

json toJson(Point p) {
    return json::array({p.x, p.y});
}

json toJson(const TouchUp& touchUp) {
    json beneath = json::array(), path = json::array();
    for (const Point p : touchUp.beneath)
        beneath.push_back(toJson(p));
    for (const CurveSegment& s : touchUp.path)
        path.push_back(s.straight ? json::array({toJson(s.end)})
                                  : json::array({toJson(s.control1), toJson(s.control2), toJson(s.end)}));
    return {{"from", toJson(touchUp.from)},
            {"to", toJson(touchUp.to)},
            {"beneath", std::move(beneath)},
            {"path", std::move(path)},
            {"item", touchUp.item}};
}

json toJson(const PlainShape& shape) {
    return {{"kind", nameOf(shapeKinds, shape.kind)},
            {"margin", shape.margin},
            {"radius", shape.radius},
            {"sides", shape.sides},
            {"bySize", shape.bySize},
            {"width", shape.width},
            {"height", shape.height},
            {"shared", shape.shared}};
}

/// What has its start value is left out.
json toJson(const LineRecipe& line) {
    const LineRecipe start;
    json about{{"kind", nameOf(kinds, line.kind)},
               {"offset", line.offset},
               {"corners", nameOf(cornerForms, line.corners.form)},
               {"cornerLimit", line.corners.limit}};
    if (!line.isCut)
        about["cut"] = false;
    if (line.course != start.course)
        about["course"] = nameOf(courses, line.course);
    if (!(line.shape == start.shape))
        about["shape"] = toJson(line.shape);
    if (const Stretch& by = line.stretch; !(by == start.stretch))
        about["stretch"] = {by.left, by.top, by.right, by.bottom};
    if (line.course == LineCourse::fold)
        about["fold"] = {{"across", line.foldsAcross}, {"at", line.foldAt}};
    if (!(line.liftTab == start.liftTab))
        about["liftTab"] = {{"size", line.liftTab.size}, {"at", line.liftTab.at}};
    if (const TabRule& tabs = line.tabs; !(tabs == start.tabs)) {
        about["tabs"] = {{"way", nameOf(tabWays, tabs.way)},
                         {"count", tabs.count},
                         {"cut", tabs.cut},
                         {"length", tabs.length}};
        for (const Point place : tabs.places)
            about["tabs"]["places"].push_back(toJson(place));
    }
    return about;
}

json toJson(const InkLayer& layer) {
    json about{{"ink", nameOf(inks, layer.ink)},
               {"area", nameOf(inkAreas, layer.area)},
               {"choke", layer.choke},
               {"threshold", layer.threshold}};
    for (const Rgba colour : layer.colours)
        about["colours"].push_back(colourText(colour));
    return about;
}

json toJson(const Recipe& recipe) {
    const EdgeOptions& options = recipe.edge;
    json edge{{"find", nameOf(ways, options.way)},
              {"backdrop", options.takesBackdrop},
              {"level", options.level ? json(*options.level) : json(nullptr)},
              {"colours", options.colours},
              {"shadow", options.shadow},
              {"smoothing", options.smoothing},
              {"leastSpeck", options.leastSpeck},
              {"leastOpening", options.leastOpening},
              {"loops", nameOf(loopChoices, options.loops)},
              {"shape", toJson(options.shape)}};
    for (const LoopSwitch& s : options.switches)
        edge["switches"].push_back({{"x", s.centre.x},
                                    {"y", s.centre.y},
                                    {"size", s.size},
                                    {"opening", s.isOpening},
                                    {"cut", s.isCut},
                                    {"item", s.item}});
    for (const TouchUp& touchUp : options.touchUps)
        edge["touchUps"].push_back(toJson(touchUp));
    if (options.tolerance)
        edge["tolerance"] = *options.tolerance;
    json lines = json::array();
    for (const LineRecipe& line : recipe.lines)
        lines.push_back(toJson(line));
    json layers = json::array();
    for (const InkLayer& layer : recipe.inks)
        layers.push_back(toJson(layer));
    const BleedRecipe& bleed = recipe.bleed;
    return {{"use", nameOf(uses, recipe.use)},
            {"mirrored", recipe.isMirrored},
            {"inks", std::move(layers)},
            {"edge", edge},
            {"bridge", recipe.bridge},
            {"border",
             {{"width", recipe.border.width},
              {"colour", colourText(recipe.border.colour)},
              {"onOpenings", recipe.border.onOpenings}}},
            {"lines", std::move(lines)},
            {"bleed",
             {{"amount", bleed.amount},
              {"colour", bleed.colour ? json(colourText(*bleed.colour)) : json(nullptr)},
              {"trims", bleed.trims}}}};
}

json toJson(const Design& design) {
    json items = json::array();
    for (const Item& item : design.artwork.items)
        items.push_back(toJson(item));
    json about{{"id", design.id},
               {"name", design.name},
               {"count", design.count},
               {"items", items},
               {"recipe", toJson(design.recipe)}};
    for (const Guide& guide : design.guides)
        about["guides"].push_back({{guide.isUpright ? "x" : "y", guide.at}});
    return about;
}

json toJson(const SheetPlan& plan) {
    json medium{{"width", plan.medium.width}, {"length", nullptr}};
    if (plan.medium.length)
        medium["length"] = *plan.medium.length;
    return {{"medium", medium}, {"gap", plan.gap}};
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
    item.pixelWidth = pixels[0].wholeNumber(1, mostPixels);
    item.pixelHeight = pixels[1].wholeNumber(1, mostPixels);
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

/// A place in parts of the artwork's longer side; what is done by hand may lie outside of it.
Point placeFromJson(const JsonReader& in) {
    const auto parts = in.elements(2);
    if (parts.size() != 2)
        in.refuse("must be two numbers: x and y");
    return {parts[0].number(-100, 100), parts[1].number(-100, 100)};
}

/// Files of one item a design do not say.
int itemNumber(const JsonReader& in) {
    return in.has("item") ? in.at("item").wholeNumber(0, 999) : 0;
}

TouchUp touchUpFromJson(const JsonReader& in) {
    TouchUp touchUp{placeFromJson(in.at("from")), placeFromJson(in.at("to")), {}, {}, itemNumber(in)};
    for (const JsonReader& p : in.at("beneath").elements(100))
        touchUp.beneath.push_back(placeFromJson(p));
    Point at = touchUp.from;
    for (const JsonReader& piece : in.at("path").elements(Limits::mostPiecesByHand)) {
        const auto points = piece.elements(3);
        if (points.size() == 1)
            touchUp.path.push_back(straightSegment(at, placeFromJson(points[0])));
        else if (points.size() == 3)
            touchUp.path.push_back(
                {placeFromJson(points[0]), placeFromJson(points[1]), placeFromJson(points[2]), false});
        else
            piece.refuse("must be one point or three");
        at = touchUp.path.back().end;
    }
    if (touchUp.path.empty())
        in.at("path").refuse("must not be empty");
    return touchUp;
}

PlainShape shapeFromJson(const JsonReader& in) {
    PlainShape shape;
    shape.kind = valueOf(shapeKinds, in.at("kind"));
    shape.margin = in.at("margin").number(Limits::mostInset, Limits::mostOffset);
    shape.radius = in.at("radius").number(0, Limits::mostSize);
    shape.sides = in.at("sides").wholeNumber(3, Limits::mostSides);
    if (in.has("bySize")) {
        shape.bySize = in.at("bySize").flag();
        shape.width = in.at("width").number(Limits::leastSize, Limits::mostSize * 4);
        shape.height = in.at("height").number(Limits::leastSize, Limits::mostSize * 4);
        shape.shared = in.at("shared").wholeNumber(0, int(Limits::mostDesigns));
    }
    return shape;
}

/// What later versions added may be missing.
EdgeOptions edgeFromJson(const JsonReader& in) {
    EdgeOptions edge;
    edge.way = valueOf(ways, in.at("find"));
    if (!in.at("level").isNull())
        edge.level = in.at("level").number(0, 100);
    if (in.has("colours"))
        edge.colours = in.at("colours").wholeNumber(0, mostColours);
    if (in.has("backdrop"))
        edge.takesBackdrop = in.at("backdrop").flag();
    if (in.has("shadow"))
        edge.shadow = in.at("shadow").number(0, 100);
    if (in.has("smoothing"))
        edge.smoothing = in.at("smoothing").number(0, Limits::mostSmoothing);
    edge.leastSpeck = in.at("leastSpeck").number(0, 1e6);
    edge.leastOpening = in.at("leastOpening").number(0, 1e6);
    if (in.has("cutOpenings") && in.at("cutOpenings").flag())
        edge.loops = LoopChoice::all;
    if (in.has("loops"))
        edge.loops = valueOf(loopChoices, in.at("loops"));
    if (in.has("switches"))
        for (const JsonReader& s : in.at("switches").elements(Limits::mostSwitches))
            edge.switches.push_back({{s.at("x").number(-2, 2), s.at("y").number(-2, 2)},
                                     s.at("size").number(0, 2),
                                     s.at("opening").flag(),
                                     s.at("cut").flag(),
                                     itemNumber(s)});
    if (in.has("touchUps"))
        for (const JsonReader& touchUp : in.at("touchUps").elements(Limits::mostTouchUps))
            edge.touchUps.push_back(touchUpFromJson(touchUp));
    if (in.has("shape"))
        edge.shape = shapeFromJson(in.at("shape"));
    if (in.has("tolerance"))
        edge.tolerance = in.at("tolerance").number(0.001, 1);
    return edge;
}

Stretch stretchFromJson(const JsonReader& in) {
    const auto sides = in.elements(4);
    if (sides.size() != 4)
        in.refuse("must be four numbers: left, top, right and bottom");
    const auto side = [&](std::size_t i) { return sides[i].number(-Limits::mostSize, Limits::mostSize); };
    return {side(0), side(1), side(2), side(3)};
}

TabRule tabsFromJson(const JsonReader& in) {
    TabRule tabs;
    tabs.way = valueOf(tabWays, in.at("way"));
    tabs.count = in.at("count").wholeNumber(leastTabs, Limits::mostTabs);
    tabs.cut = in.at("cut").number(Limits::leastTab, Limits::mostSize);
    tabs.length = in.at("length").number(Limits::leastTab, Limits::longestTab);
    if (in.has("places"))
        for (const JsonReader& place : in.at("places").elements(Limits::mostTabs))
            tabs.places.push_back(placeFromJson(place));
    return tabs;
}

Rgba colourFromJson(const JsonReader& in) {
    const auto colour = parseColour(in.text(20));
    if (!colour)
        in.refuse("must be a colour such as \"#204060\"");
    return *colour;
}

LineRecipe lineFromJson(const JsonReader& in) {
    LineRecipe line;
    if (in.has("kind"))
        line.kind = valueOf(kinds, in.at("kind"));
    line.offset = in.at("offset").number(Limits::mostInset, Limits::mostOffset);
    if (in.has("corners"))
        line.corners.form = valueOf(cornerForms, in.at("corners"));
    if (in.has("cornerLimit"))
        line.corners.limit = in.at("cornerLimit").number(Limits::leastCornerLimit, Limits::mostCornerLimit);
    if (in.has("cut"))
        line.isCut = in.at("cut").flag();
    if (in.has("course"))
        line.course = valueOf(courses, in.at("course"));
    if (in.has("shape"))
        line.shape = shapeFromJson(in.at("shape"));
    if (in.has("stretch"))
        line.stretch = stretchFromJson(in.at("stretch"));
    if (in.has("fold")) {
        line.foldsAcross = in.at("fold").at("across").flag();
        line.foldAt = in.at("fold").at("at").number(0, 100);
    }
    if (in.has("liftTab"))
        line.liftTab = {in.at("liftTab").at("size").number(0, Limits::mostLiftTab),
                        in.at("liftTab").at("at").number(-360, 360)};
    if (in.has("tabs"))
        line.tabs = tabsFromJson(in.at("tabs"));
    return line;
}

BleedRecipe bleedFromJson(const JsonReader& in) {
    BleedRecipe bleed;
    bleed.amount = in.at("amount").number(0, Limits::mostBleed);
    if (!in.at("colour").isNull())
        bleed.colour = colourFromJson(in.at("colour"));
    bleed.trims = in.at("trims").flag();
    return bleed;
}

Border borderFromJson(const JsonReader& in) {
    Border border;
    border.width = in.at("width").number(0, Limits::mostBorder);
    border.colour = colourFromJson(in.at("colour"));
    border.onOpenings = in.at("onOpenings").flag();
    return border;
}

InkLayer inkFromJson(const JsonReader& in) {
    InkLayer layer;
    layer.ink = valueOf(inks, in.at("ink"));
    layer.area = valueOf(inkAreas, in.at("area"));
    layer.choke = in.at("choke").number(0, Limits::mostChoke);
    layer.threshold = in.at("threshold").number(0, 100);
    if (in.has("colours"))
        for (const JsonReader& colour : in.at("colours").elements(mostColours))
            layer.colours.push_back(colourFromJson(colour));
    return layer;
}

/// Format 1 knew one kiss line alone, and had the bridge beside its offset.
Recipe recipeFromJson(const JsonReader& in) {
    Recipe recipe;
    recipe.edge = edgeFromJson(in.at("edge"));
    const JsonReader holdsBridge = in.has("kiss") ? in.at("kiss") : in;
    if (holdsBridge.has("bridge"))
        recipe.bridge = holdsBridge.at("bridge").number(0, Limits::mostBridge);
    if (in.has("border"))
        recipe.border = borderFromJson(in.at("border"));
    if (in.has("use"))
        recipe.use = valueOf(uses, in.at("use"));
    if (in.has("mirrored"))
        recipe.isMirrored = in.at("mirrored").flag();
    if (in.has("inks"))
        for (const JsonReader& layer : in.at("inks").elements(inkKinds.size()))
            recipe.inks.push_back(inkFromJson(layer));
    if (in.has("bleed"))
        recipe.bleed = bleedFromJson(in.at("bleed"));
    else
        recipe.bleed = {0, {}, false}; // before format 5 nothing was printed past the artwork, or left out
    if (in.has("kiss")) {
        recipe.lines = {lineFromJson(in.at("kiss"))};
        return recipe;
    }
    recipe.lines.clear();
    for (const JsonReader& line : in.at("lines").elements(Limits::mostLines))
        recipe.lines.push_back(lineFromJson(line));
    if (recipe.lines.empty())
        in.at("lines").refuse("must not be empty");
    return recipe;
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
    if (in.has("guides"))
        for (const JsonReader& guide : in.at("guides").elements(Limits::mostGuides)) {
            const bool isUpright = guide.has("x");
            design.guides.push_back({isUpright, guide.at(isUpright ? "x" : "y").number(-farthest, farthest)});
        }
    return design;
}

SheetPlan planFromJson(const JsonReader& in) {
    SheetPlan plan;
    const JsonReader medium = in.at("medium");
    plan.medium.width = medium.at("width").number(Limits::leastMedium, Limits::mostMedium);
    if (!medium.at("length").isNull())
        plan.medium.length = medium.at("length").number(Limits::leastMedium, Limits::mostMedium);
    plan.gap = in.at("gap").number(0, Limits::mostGap);
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
            if (!job.assets.contains(item.asset))
                throw InputError("the picture \"" + item.name + "\" of the design \"" + design.name +
                                 "\" is not in the file");
    }
}

} // namespace

std::string jobToJson(const Job& job) {
    json designs = json::array();
    for (const Design& design : job.designs)
        designs.push_back(toJson(design));
    json assets = json::object();
    for (const auto& [sha256, asset] : job.assets)
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

Job jobFromJson(std::string_view text, std::map<std::string, std::shared_ptr<const Asset>> assets) {
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
