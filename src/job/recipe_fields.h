#pragma once

// The fields of a recipe as the job file keeps them (docs/job-format.md), and as cache keys see them.

#include "artwork/paint_colour_fields.h"
#include "job/job.h"

namespace hasami {

inline constexpr Named<EdgeWay> edgeWays[] = {
    {"auto", EdgeWay::automatic},    {"transparency", EdgeWay::transparency},
    {"backdrop", EdgeWay::backdrop}, {"brightness", EdgeWay::brightness},
    {"colours", EdgeWay::colours},   {"shape", EdgeWay::shape},
    {"paint", EdgeWay::paint},       {"lines", EdgeWay::lines}};
inline constexpr Named<LoopChoice> loopChoices[] = {
    {"outer", LoopChoice::outer}, {"openings", LoopChoice::openings}, {"all", LoopChoice::all}};
inline constexpr Named<PlainShapeKind> shapeKinds[] = {{"box", PlainShapeKind::box},
                                                       {"rounded", PlainShapeKind::rounded},
                                                       {"ellipse", PlainShapeKind::ellipse},
                                                       {"circle", PlainShapeKind::circle},
                                                       {"polygon", PlainShapeKind::polygon}};
inline constexpr Named<CornerForm> cornerForms[] = {
    {"round", CornerForm::round}, {"sharp", CornerForm::sharp}, {"flat", CornerForm::flat}};
inline constexpr Named<LineKind> kindsInFiles[] = {{"kiss", LineKind::kiss},
                                                   {"crease", LineKind::crease},
                                                   {"perforated", LineKind::perforated},
                                                   {"die", LineKind::die}};
inline constexpr Named<LineCourse> courses[] = {{"edge", LineCourse::edge},
                                                {"shape", LineCourse::shape},
                                                {"fold", LineCourse::fold},
                                                {"drawn", LineCourse::drawn}};
inline constexpr Named<TabRule::Way> tabWays[] = {
    {"count", TabRule::Way::count}, {"pattern", TabRule::Way::pattern}, {"byHand", TabRule::Way::byHand}};
inline constexpr Named<InkKind> inksInFiles[] = {
    {"white", InkKind::white}, {"gloss", InkKind::gloss}, {"primer", InkKind::primer}};
inline constexpr Named<InkArea> inkAreas[] = {{"silhouette", InkArea::silhouette},
                                              {"notWhite", InkArea::notWhite},
                                              {"colours", InkArea::colours},
                                              {"coverage", InkArea::coverage},
                                              {"brought", InkArea::brought}};
inline constexpr Named<BleedSource> bleedSources[] = {{"edge", BleedSource::edge},
                                                      {"cutLine", BleedSource::cutLine}};
inline constexpr Named<StickerUse> usesInFiles[] = {
    {"stickers", StickerUse::stickers},   {"labels", StickerUse::labels},
    {"popOut", StickerUse::popOut},       {"lightCloth", StickerUse::lightCloth},
    {"darkCloth", StickerUse::darkCloth}, {"window", StickerUse::window},
    {"magnet", StickerUse::magnet},       {"wall", StickerUse::wall}};

/// [x, y]: without another range, fractions of the artwork's longer side. What is done by hand may lie
/// outside of it.
template <>
struct Codec<Point> {
    static constexpr double farthest = 100;

    static nlohmann::json write(Point p) { return nlohmann::json::array({p.x, p.y}); }
    static Point read(const JsonReader& in, Within range = {-farthest, farthest}) {
        const auto parts = in.elements(2);
        if (parts.size() != 2)
            in.refuse("%1 must be two numbers: x and y");
        return {parts[0].number(range.least, range.most), parts[1].number(range.least, range.most)};
    }
    static nlohmann::json schema() { return fields::numbersSchema(2, -farthest, farthest); }
    template <class Key>
    static void hash(Key& key, Point p) {
        key << p.x << p.y;
    }
};

/// A straight piece is its end alone; the others have two control points as well.
template <>
struct Codec<CurveSegment> {
    static nlohmann::json write(const CurveSegment& s) {
        using Place = Codec<Point>;
        return s.straight ? nlohmann::json::array({Place::write(s.end)})
                          : nlohmann::json::array(
                                {Place::write(s.control1), Place::write(s.control2), Place::write(s.end)});
    }
    /// Where a straight piece begins is known once the whole path is read.
    static CurveSegment read(const JsonReader& in) {
        const auto points = in.elements(3);
        if (points.size() == 1) {
            const Point end = Codec<Point>::read(points[0]);
            return {end, end, end, true};
        }
        if (points.size() != 3)
            in.refuse("%1 must be one point or three");
        return {Codec<Point>::read(points[0]), Codec<Point>::read(points[1]), Codec<Point>::read(points[2]),
                false};
    }
    static nlohmann::json schema() {
        return {{"type", "array"}, {"minItems", 1}, {"maxItems", 3}, {"items", Codec<Point>::schema()}};
    }
    template <class Key>
    static void hash(Key& key, const CurveSegment& s) {
        for (const Point p : {s.control1, s.control2, s.end})
            key << p.x << p.y;
        key << double(s.straight);
    }
};

/// [left, top, right, bottom], mm.
template <>
struct Codec<Stretch> {
    static nlohmann::json write(const Stretch& by) { return {by.left, by.top, by.right, by.bottom}; }
    static Stretch read(const JsonReader& in) {
        const auto sides = in.elements(4);
        if (sides.size() != 4)
            in.refuse("%1 must be four numbers: left, top, right and bottom");
        const auto side = [&](std::size_t i) { return sides[i].number(-Limits::mostSize, Limits::mostSize); };
        return {side(0), side(1), side(2), side(3)};
    }
    static nlohmann::json schema() { return fields::numbersSchema(4, -Limits::mostSize, Limits::mostSize); }
    template <class Key>
    static void hash(Key& key, const Stretch& by) {
        key << by.left << by.top << by.right << by.bottom;
    }
};

inline constexpr Within itemNumbers{0, double(Limits::mostItems - 1)};

template <>
struct Fields<PlainShape> {
    static constexpr Within sizes{Limits::leastSize, Limits::mostSize * 4};
    static constexpr auto list = std::make_tuple(
        field("kind", &PlainShape::kind, OneOf(shapeKinds)),
        field("margin", &PlainShape::margin, Within{Limits::mostInset, Limits::mostOffset}),
        field("radius", &PlainShape::radius, Within{0, Limits::mostSize}),
        field("sides", &PlainShape::sides, Within{3, double(Limits::mostSides)}),
        field("bySize", &PlainShape::bySize, Anything{}, Kept::sinceThen),
        field("width", &PlainShape::width, sizes, Kept::sinceThen),
        field("height", &PlainShape::height, sizes, Kept::sinceThen),
        field("shared", &PlainShape::shared, Within{0, double(Limits::mostDesigns)}, Kept::sinceThen));
};

template <>
struct Fields<LoopSwitch> {
    static constexpr auto list = std::make_tuple(
        field(
            "x", [](auto& s) -> auto& { return s.centre.x; }, Within{-2, 2}),
        field(
            "y", [](auto& s) -> auto& { return s.centre.y; }, Within{-2, 2}),
        field("size", &LoopSwitch::size, Within{0, 2}), field("opening", &LoopSwitch::isOpening, Anything{}),
        field("cut", &LoopSwitch::isCut, Anything{}),
        field("item", &LoopSwitch::item, itemNumbers, Kept::sinceThen));
};

template <>
struct Fields<TouchUp> {
    static constexpr auto list =
        std::make_tuple(field("from", &TouchUp::from, Anything{}), field("to", &TouchUp::to, Anything{}),
                        field("beneath", &TouchUp::beneath, Each{100, Anything{}}),
                        field("path", &TouchUp::path, Each{Limits::mostPiecesByHand, Anything{}, 1}),
                        field("item", &TouchUp::item, itemNumbers, Kept::sinceThen));

    static void complete(TouchUp& touchUp, const JsonReader&) {
        Point at = touchUp.from;
        for (CurveSegment& s : touchUp.path) {
            if (s.straight)
                s = straightSegment(at, s.end);
            at = s.end;
        }
    }
};

template <>
struct Fields<EdgeOptions> {
    /// How the edge is found, without the choice of loops: that is made of those found.
    static constexpr auto finding = std::make_tuple(
        field("find", &EdgeOptions::way, OneOf(edgeWays)),
        field("level", &EdgeOptions::level, Within{0, 100}),
        field("colours", &EdgeOptions::colours, Within{0, double(mostColours)}, Kept::sinceThen),
        field("backdrop", &EdgeOptions::takesBackdrop, Anything{}, Kept::sinceThen),
        field("shadow", &EdgeOptions::shadow, Within{0, 100}, Kept::sinceThen),
        field("smoothing", &EdgeOptions::smoothing, Within{0, Limits::mostSmoothing}, Kept::sinceThen),
        field("leastSpeck", &EdgeOptions::leastSpeck, Within{0, 1e6}),
        field("leastOpening", &EdgeOptions::leastOpening, Within{0, 1e6}),
        field("tolerance", &EdgeOptions::tolerance, Within{0.001, 1}, Kept::unlessStart));
    static constexpr auto choice = std::make_tuple(
        field("loops", &EdgeOptions::loops, OneOf(loopChoices), Kept::sinceThen),
        field("shape", &EdgeOptions::shape, Anything{}, Kept::sinceThen),
        field("switches", &EdgeOptions::switches, Each{Limits::mostSwitches, Anything{}}, Kept::unlessStart));
    static constexpr auto byHand = std::make_tuple(
        field("touchUps", &EdgeOptions::touchUps, Each{Limits::mostTouchUps, Anything{}}, Kept::unlessStart));
    static constexpr auto list = std::tuple_cat(finding, choice, byHand);

    /// The first format knew two choices of loops.
    static void complete(EdgeOptions& edge, const JsonReader& in) {
        if (in.has("cutOpenings") && !in.has("loops") && in.at("cutOpenings").flag())
            edge.loops = LoopChoice::all;
    }
    static void describe(nlohmann::json& schema) {
        schema["properties"]["cutOpenings"] = {{"type", "boolean"}};
    }
};

template <>
struct Fields<Border> {
    static constexpr auto list = std::make_tuple(
        field("width", &Border::width, Within{0, Limits::mostBorder}),
        field("colour", &Border::colour, AsColour{}), field("onOpenings", &Border::onOpenings, Anything{}));
};

template <>
struct Fields<Fold> {
    static constexpr auto list =
        std::make_tuple(field("across", &Fold::isAcross, Anything{}), field("at", &Fold::at, Within{0, 100}));
};

template <>
struct Fields<LiftTab> {
    static constexpr auto list =
        std::make_tuple(field("size", &LiftTab::size, Within{0, Limits::mostLiftTab}),
                        field("at", &LiftTab::at, Within{-360, 360}));
};

template <>
struct Fields<TabRule> {
    static constexpr auto list =
        std::make_tuple(field("way", &TabRule::way, OneOf(tabWays)),
                        field("count", &TabRule::count, Within{double(leastTabs), double(Limits::mostTabs)}),
                        field("cut", &TabRule::cut, Within{Limits::leastTab, Limits::mostSize}),
                        field("length", &TabRule::length, Within{Limits::leastTab, Limits::longestTab}),
                        field("places", &TabRule::places, Each{std::size_t(Limits::mostTabs), Anything{}},
                              Kept::unlessStart));
};

template <>
struct Fields<DrawnCourse> {
    static constexpr auto list =
        std::make_tuple(field("points", &DrawnCourse::points, Each{Limits::mostDrawnPoints, Anything{}}),
                        field("item", &DrawnCourse::item, itemNumbers));
};

template <>
struct Fields<LineRecipe> {
    static constexpr auto list = std::make_tuple(
        field("kind", &LineRecipe::kind, OneOf(kindsInFiles), Kept::sinceThen),
        field("offset", &LineRecipe::offset, Within{Limits::mostInset, Limits::mostOffset}),
        field(
            "corners", [](auto& l) -> auto& { return l.corners.form; }, OneOf(cornerForms), Kept::sinceThen),
        field(
            "cornerLimit", [](auto& l) -> auto& { return l.corners.limit; },
            Within{Limits::leastCornerLimit, Limits::mostCornerLimit}, Kept::sinceThen),
        field("cut", &LineRecipe::isCut, Anything{}, Kept::unlessStart),
        field("course", &LineRecipe::course, OneOf(courses), Kept::unlessStart),
        field("shape", &LineRecipe::shape, Anything{}, Kept::unlessStart),
        field("stretch", &LineRecipe::stretch, Anything{}, Kept::unlessStart),
        field("fold", &LineRecipe::fold, Anything{}, Kept::unlessStart),
        field("drawn", &LineRecipe::drawn, Anything{}, Kept::unlessStart),
        field("liftTab", &LineRecipe::liftTab, Anything{}, Kept::unlessStart),
        field("tabs", &LineRecipe::tabs, Anything{}, Kept::unlessStart));
};

template <>
struct Fields<BleedRecipe> {
    static constexpr auto list = std::make_tuple(
        field("amount", &BleedRecipe::amount, Within{0, Limits::mostBleed}),
        field("colour", &BleedRecipe::colour, AsColour{}), field("trims", &BleedRecipe::trims, Anything{}),
        field("source", &BleedRecipe::source, OneOf(bleedSources), Kept::sinceThen));
};

template <>
struct Fields<InkLayer> {
    static constexpr auto list = std::make_tuple(
        field("ink", &InkLayer::ink, OneOf(inksInFiles)), field("area", &InkLayer::area, OneOf(inkAreas)),
        field("choke", &InkLayer::choke, Within{0, Limits::mostChoke}),
        field("threshold", &InkLayer::threshold, Within{0, 100}),
        field("colours", &InkLayer::colours, Each{std::size_t(mostColours), Anything{}}, Kept::unlessStart));
};

template <>
struct Fields<Recipe> {
    static constexpr auto list = std::make_tuple(
        field("edge", &Recipe::edge, Anything{}),
        field("bridge", &Recipe::bridge, Within{0, Limits::mostBridge}, Kept::sinceThen),
        field("border", &Recipe::border, Anything{}, Kept::sinceThen),
        field("lines", &Recipe::lines, Each{Limits::mostLines, Anything{}, 1}, Kept::sinceThen),
        field("bleed", &Recipe::bleed, Anything{}, Kept::sinceThen),
        field("inks", &Recipe::inks, Each{inkKinds.size(), Anything{}}, Kept::sinceThen),
        field("use", &Recipe::use, OneOf(usesInFiles), Kept::sinceThen),
        field("mirrored", &Recipe::isMirrored, Anything{}, Kept::sinceThen));

    /// Format 1 knew one kiss line alone, and had the bridge beside its offset; before format 5 nothing was
    /// printed past the artwork, or left out.
    static void complete(Recipe& recipe, const JsonReader& in) {
        if (!in.has("bleed"))
            recipe.bleed = {0, {}, false};
        if (!in.has("kiss")) {
            in.at("lines"); // has to be there
            return;
        }
        const JsonReader kiss = in.at("kiss");
        recipe.lines = {fromJson<LineRecipe>(kiss)};
        if (kiss.has("bridge"))
            recipe.bridge = kiss.at("bridge").number(0, Limits::mostBridge);
    }
    static void describe(nlohmann::json& schema) { schema["required"].push_back("lines"); }
};

} // namespace hasami
