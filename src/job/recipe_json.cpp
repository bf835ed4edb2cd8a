#include "job/recipe_json.h"

#include "artwork/colour_text.h"
#include "job/job.h"
#include "job/json_names.h"

namespace hasami {

namespace {

using nlohmann::json;

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

constexpr Named<BleedSource> bleedSources[] = {{"edge", BleedSource::edge},
                                               {"cutLine", BleedSource::cutLine}};

json toPair(Point p) {
    return json::array({p.x, p.y});
}

json toJson(const TouchUp& touchUp) {
    json beneath = json::array(), path = json::array();
    for (const Point p : touchUp.beneath)
        beneath.push_back(toPair(p));
    for (const CurveSegment& s : touchUp.path)
        path.push_back(s.straight ? json::array({toPair(s.end)})
                                  : json::array({toPair(s.control1), toPair(s.control2), toPair(s.end)}));
    return {{"from", toPair(touchUp.from)},
            {"to", toPair(touchUp.to)},
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
    if (!(line.tabs == start.tabs))
        about["tabs"] = toJson(line.tabs);
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

json toJson(const BleedRecipe& bleed) {
    return {{"amount", bleed.amount},
            {"colour", bleed.colour ? json(colourText(*bleed.colour)) : json(nullptr)},
            {"trims", bleed.trims},
            {"source", nameOf(bleedSources, bleed.source)}};
}

BleedRecipe bleedFromJson(const JsonReader& in) {
    BleedRecipe bleed;
    bleed.amount = in.at("amount").number(0, Limits::mostBleed);
    if (!in.at("colour").isNull())
        bleed.colour = colourFromJson(in.at("colour"));
    bleed.trims = in.at("trims").flag();
    if (in.has("source"))
        bleed.source = valueOf(bleedSources, in.at("source"));
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

} // namespace

const char* kindInFiles(LineKind kind) {
    return nameOf(kinds, kind);
}

LineKind kindFromJson(const JsonReader& in) {
    return valueOf(kinds, in);
}

json toJson(const TabRule& tabs) {
    json about{{"way", nameOf(tabWays, tabs.way)},
               {"count", tabs.count},
               {"cut", tabs.cut},
               {"length", tabs.length}};
    for (const Point place : tabs.places)
        about["places"].push_back(toPair(place));
    return about;
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
            {"bleed", toJson(recipe.bleed)}};
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

} // namespace hasami
