#pragma once

// The fields of designs and of the sheet as the job file keeps them (docs/job-format.md).

#include "job/recipe_fields.h"
#include "profile/track_fields.h"

namespace hasami {

inline constexpr double farthestItem = 20'000; // mm; an item's place in its design
inline constexpr int mostPages = 1'000'000;
inline constexpr int mostPixelsAlong = 100'000; // along one side

/// [x, y, width, height], mm.
template <>
struct Codec<Box> {
    static nlohmann::json write(const Box& box) {
        return {box.least.x, box.least.y, box.width(), box.height()};
    }
    static Box read(const JsonReader& in) {
        const auto parts = in.elements(4);
        if (parts.size() != 4)
            in.refuse("%1 must be four numbers: x, y, width and height");
        const auto part = [&](std::size_t i) { return parts[i].number(0, Limits::mostMedium); };
        const Point least{part(0), part(1)};
        return {least, least + Point{part(2), part(3)}};
    }
    static nlohmann::json schema() { return fields::numbersSchema(4, 0, Limits::mostMedium); }
};

/// "none", or a step in degrees; a free one is left out.
template <>
struct Codec<Turning> {
    static nlohmann::json write(const Turning& turning) {
        return turning.kind == Turning::Kind::none ? nlohmann::json("none") : nlohmann::json(turning.step);
    }
    static Turning read(const JsonReader& in) {
        if (in.isNumber())
            return {Turning::Kind::steps, in.number(Limits::leastTurnStep, 360)};
        if (in.text(10) != "none")
            in.refuse("%1 must be \"none\" or a step in degrees");
        return {Turning::Kind::none};
    }
    static nlohmann::json schema() {
        return {{"oneOf",
                 {nlohmann::json{{"const", "none"}},
                  {{"type", "number"}, {"minimum", Limits::leastTurnStep}, {"maximum", 360}}}}};
    }
};

/// {"x": mm} for an upright one, {"y": mm} for a level one.
template <>
struct Codec<Guide> {
    static nlohmann::json write(const Guide& guide) { return {{guide.isUpright ? "x" : "y", guide.at}}; }
    static Guide read(const JsonReader& in) {
        const bool isUpright = in.has("x");
        return {isUpright, in.at(isUpright ? "x" : "y").number(-farthestItem, farthestItem)};
    }
    static nlohmann::json schema() {
        const nlohmann::json at{{"type", "number"}, {"minimum", -farthestItem}, {"maximum", farthestItem}};
        return {{"type", "object"}, {"properties", {{"x", at}, {"y", at}}}};
    }
};

template <>
struct Fields<FilePicture> {
    static constexpr auto list =
        std::make_tuple(field(
                            "asset", [](auto& f) -> auto& { return f.asset; }, AtMost{64}),
                        field(
                            "page", [](auto& f) -> auto& { return f.page; }, Within{1, double(mostPages)},
                            Kept::unlessStart));
};

template <>
struct Fields<FilePage> {
    static constexpr auto list =
        std::make_tuple(field(
                            "asset", [](auto& f) -> auto& { return f.asset; }, AtMost{64}),
                        field(
                            "page", [](auto& f) -> auto& { return f.page; }, Within{1, double(mostPages)}));
};

/// An item's own fields stand beside those of its content, whose kind is "kind".
template <>
struct Fields<Item> {
    static constexpr Within place{-farthestItem, farthestItem};
    static constexpr Within size{Limits::leastSize * (1 - 1e-6), Limits::mostSize*(1 + 1e-6)};
    static constexpr auto list = std::make_tuple(
        field("name", &Item::name, AtMost{1000}),
        field(
            "x", [](auto& i) -> auto& { return i.place.at.x; }, place),
        field(
            "y", [](auto& i) -> auto& { return i.place.at.y; }, place),
        field(
            "width", [](auto& i) -> auto& { return i.place.width; }, size),
        field(
            "height", [](auto& i) -> auto& { return i.place.height; }, size),
        field(
            "turn", [](auto& i) -> auto& { return i.place.turn; }, Within{-360, 360}, Kept::unlessStart),
        field(
            "mirrored", [](auto& i) -> auto& { return i.place.isMirrored; }, Anything{}, Kept::unlessStart),
        field("group", &Item::group, Within{0, double(Limits::mostItems)}, Kept::unlessStart),
        field("background", &Item::isBackground, Anything{}, Kept::unlessStart),
        field("locked", &Item::isLocked, Anything{}, Kept::unlessStart));

    static void write(nlohmann::json& about, const Item& item);
    static void complete(Item& item, const JsonReader& in);
    static void describe(nlohmann::json& schema);
};

template <>
struct Fields<Design> {
    static constexpr auto list = std::make_tuple(
        field("id", &Design::id, AtMost{100}), field("name", &Design::name, AtMost{1000}),
        field("count", &Design::count, Within{0, double(Limits::mostCopies)}),
        field(
            "items", [](auto& d) -> auto& { return d.artwork.items; },
            Each{Limits::mostItems, Anything{}, 1}),
        field("recipe", &Design::recipe, Anything{}),
        field("fills", &Design::fills, Anything{}, Kept::unlessStart),
        field("turning", &Design::turning, Anything{}, Kept::unlessStart),
        field("guides", &Design::guides, Each{Limits::mostGuides, Anything{}}, Kept::unlessStart));
};

template <>
struct Fields<UsedArea> {
    static constexpr auto list =
        std::make_tuple(field("sheet", &UsedArea::sheet, Within{0, double(Limits::mostSheets)}),
                        field("box", &UsedArea::box, Anything{}));
};

template <>
struct Fields<Medium> {
    static constexpr Within whole{Limits::leastMedium, Limits::mostMedium}, part{0, Limits::mostMedium};
    static constexpr auto list = std::make_tuple(
        field("width", &Medium::width, whole), field("length", &Medium::length, whole),
        field("rollLength", &Medium::rollLength, whole, Kept::unlessStart, "roll_length"),
        field("start", &Medium::start, part, Kept::unlessStart),
        field("end", &Medium::end, part, Kept::unlessStart),
        field("firstSide", &Medium::firstSide, part, Kept::unlessStart, "first_side"),
        field("lastSide", &Medium::lastSide, part, Kept::unlessStart, "last_side"),
        field("colour", &Medium::colour, Anything{}, Kept::unlessStart),
        field("clear", &Medium::isClear, Anything{}, Kept::unlessStart),
        field("price", &Medium::price, Within{0, Limits::mostPrice}, Kept::unlessStart),
        field("tracks", &Medium::tracks, Each{Limits::mostTracks, Anything{}}, Kept::unlessStart),
        field("used", &Medium::used, Each{Limits::mostUsedAreas, Anything{}}, Kept::unlessStart));
};

template <>
struct Fields<RowRules> {
    static constexpr Within gap{0, Limits::mostGap};
    static constexpr auto list = std::make_tuple(
        field("across", &RowRules::across, gap, Kept::unlessStart),
        field("along", &RowRules::along, gap, Kept::unlessStart),
        field("most", &RowRules::most, Within{0, double(Limits::mostInRow)}, Kept::unlessStart),
        field("staggered", &RowRules::isStaggered, Anything{}, Kept::unlessStart),
        field("alternateTurned", &RowRules::turnsAlternate, Anything{}, Kept::unlessStart,
              "alternate_turned"),
        field("centred", &RowRules::isCentred, Anything{}, Kept::unlessStart));
};

template <>
struct Fields<LaidPiece> {
    static constexpr Within place{-Limits::farthestLaid, Limits::farthestLaid};
    static constexpr auto list = std::make_tuple(
        field("design", &LaidPiece::design, AtMost{100}),
        field("sheet", &LaidPiece::sheet, Within{0, double(Limits::mostSheets)}, Kept::unlessStart),
        field(
            "x", [](auto& p) -> auto& { return p.centre.x; }, place),
        field(
            "y", [](auto& p) -> auto& { return p.centre.y; }, place),
        field("turn", &LaidPiece::turn, Within{-360, 360}),
        field("pinned", &LaidPiece::isPinned, Anything{}, Kept::unlessStart),
        field("copy", &LaidPiece::copy, Within{1, double(Limits::mostLaid)}, Kept::unlessStart));
};

inline constexpr Named<LineKind> boxKinds[] = {{"die", LineKind::die}, {"perforated", LineKind::perforated}};
inline constexpr Named<Packing> packings[] = {{"rows", Packing::rows}, {"nest", Packing::nest}};

template <>
struct Fields<SharedBox> {
    static constexpr auto list =
        std::make_tuple(field("kind", &SharedBox::kind, OneOf(boxKinds)),
                        field("margin", &SharedBox::margin, Within{0, Limits::mostOffset}),
                        field("radius", &SharedBox::radius, Within{0, Limits::mostSize}),
                        field("tabs", &SharedBox::tabs, Anything{}, Kept::unlessStart));
};

template <>
struct Fields<SheetPlan> {
    /// The pieces, without a copy of them where they are only looked at.
    struct Laid {
        const std::vector<LaidPiece>& operator()(const SheetPlan& plan) const { return *plan.laid; }
        std::vector<LaidPiece>& operator()(SheetPlan& plan) const { return plan.laid.edit(); }
    };
    static constexpr auto list = std::make_tuple(
        field("medium", &SheetPlan::medium, Anything{}),
        field("gap", &SheetPlan::gap, Within{0, Limits::mostGap}),
        field("box", &SheetPlan::box, Anything{}, Kept::unlessStart),
        field("margin", &SheetPlan::margin, Within{0, Limits::mostGap}, Kept::unlessStart),
        field("packing", &SheetPlan::packing, OneOf(packings), Kept::unlessStart),
        field("rows", &SheetPlan::rows, Anything{}, Kept::unlessStart),
        field("sets", &SheetPlan::sets, Within{1, double(Limits::mostSets)}, Kept::unlessStart),
        field("laid", Laid{}, Each{Limits::mostLaid, Anything{}}, Kept::unlessStart));

    /// Jobs before format 8 did not number copies.
    static void complete(SheetPlan& plan, const JsonReader&) { numberCopies(plan.laid.edit()); }
};

} // namespace hasami
