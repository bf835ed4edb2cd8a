#pragma once

// The fields of lettering, shapes and codes as the job file keeps them (docs/job-format.md).

#include "codes/code.h"
#include "job/recipe_fields.h"

namespace hasami {

inline constexpr std::size_t mostLettersBytes = 40'000; // of a lettering's text
inline constexpr std::size_t mostCodeBytes = 5'000;
inline constexpr double farthestInItem = 40'000; // mm

inline constexpr Named<TextAlignment> alignmentsInFiles[] = {
    {"left", TextAlignment::left}, {"middle", TextAlignment::middle}, {"right", TextAlignment::right}};
inline constexpr Named<FigureKind> figuresInFiles[] = {
    {"rectangle", FigureKind::rectangle}, {"ellipse", FigureKind::ellipse}, {"polygon", FigureKind::polygon},
    {"star", FigureKind::star},           {"ring", FigureKind::ring},       {"arrow", FigureKind::arrow},
    {"bubble", FigureKind::bubble},       {"ribbon", FigureKind::ribbon},   {"leaf", FigureKind::leaf},
    {"heart", FigureKind::heart},         {"outline", FigureKind::outline}};
inline constexpr Named<CodeKind> codesInFiles[] = {
    {"qr", CodeKind::qr},           {"datamatrix", CodeKind::dataMatrix},
    {"code128", CodeKind::code128}, {"ean13", CodeKind::ean13},
    {"ean8", CodeKind::ean8},       {"upca", CodeKind::upcA}};

/// {"start": [x, y], "pieces": [[x, y] or [x, y, x, y, x, y], …]}, closed; mm, or parts of the unit square.
template <>
struct Codec<Curve> {
    static nlohmann::json write(const Curve& curve) {
        nlohmann::json pieces = nlohmann::json::array();
        for (const CurveSegment& s : curve.segments)
            pieces.push_back(s.straight ? nlohmann::json{s.end.x, s.end.y}
                                        : nlohmann::json{s.control1.x, s.control1.y, s.control2.x,
                                                         s.control2.y, s.end.x, s.end.y});
        return {{"start", {curve.start.x, curve.start.y}}, {"pieces", pieces}};
    }
    static Curve read(const JsonReader& in) {
        const auto numbers = [](const JsonReader& list) {
            std::vector<double> all;
            for (const JsonReader& one : list.elements(6))
                all.push_back(one.number(-farthestInItem, farthestInItem));
            return all;
        };
        const std::vector<double> start = numbers(in.at("start"));
        if (start.size() != 2)
            in.at("start").refuse("%1 must be two numbers: x and y");
        Curve curve{{start[0], start[1]}, {}};
        Point at = curve.start;
        for (const JsonReader& piece : in.at("pieces").elements(1'000'000)) {
            const std::vector<double> n = numbers(piece);
            if (n.size() == 2)
                curve.segments.push_back(straightSegment(at, {n[0], n[1]}));
            else if (n.size() == 6)
                curve.segments.push_back({{n[0], n[1]}, {n[2], n[3]}, {n[4], n[5]}, false});
            else
                piece.refuse("%1 must be two numbers or six");
            at = curve.segments.back().end;
        }
        if (curve.segments.empty() || distance(at, curve.start) > 1e-6)
            in.refuse("%1 must end where it starts");
        curve.segments.back().end = curve.start;
        return curve;
    }
    static nlohmann::json schema() {
        return {
            {"type", "object"},
            {"required", {"start", "pieces"}},
            {"properties",
             {{"start", fields::numbersSchema(2, -farthestInItem, farthestInItem)},
              {"pieces",
               {{"type", "array"},
                {"minItems", 1},
                {"items",
                 {{"type", "array"}, {"minItems", 2}, {"maxItems", 6}, {"items", {{"type", "number"}}}}}}}}}};
    }
};

template <>
struct Fields<Gradient> {
    static constexpr auto list =
        std::make_tuple(field("radial", &Gradient::isRadial, Anything{}, Kept::unlessStart),
                        field("angle", &Gradient::angle, Within{-360, 360}, Kept::unlessStart),
                        field("from", &Gradient::from, Anything{}), field("to", &Gradient::to, Anything{}));
};

template <>
struct Fields<PictureFill> {
    static constexpr Within place{-farthestInItem, farthestInItem}, size{1e-3, farthestInItem};
    static constexpr auto list = std::make_tuple(
        field(
            "asset", [](auto& f) -> auto& { return f.file.asset; }, AtMost{64}),
        field(
            "page", [](auto& f) -> auto& { return f.file.page; }, Within{1, 1e6}, Kept::unlessStart),
        field("vector", &PictureFill::isVector, Anything{}, Kept::unlessStart),
        field("fitted", &PictureFill::isFitted, Anything{}),
        field(
            "x", [](auto& f) -> auto& { return f.place.at.x; }, place),
        field(
            "y", [](auto& f) -> auto& { return f.place.at.y; }, place),
        field(
            "width", [](auto& f) -> auto& { return f.place.width; }, size),
        field(
            "height", [](auto& f) -> auto& { return f.place.height; }, size),
        field(
            "turn", [](auto& f) -> auto& { return f.place.turn; }, Within{-360, 360}, Kept::unlessStart));
};

/// "none", or an object with a "kind".
template <>
struct Codec<Fill> {
    static nlohmann::json write(const Fill& fill) {
        if (const auto* colour = std::get_if<PaintColour>(&fill))
            return with("colour", toJson(*colour));
        if (const auto* gradient = std::get_if<Gradient>(&fill))
            return with("gradient", toJson(*gradient));
        if (const auto* picture = std::get_if<PictureFill>(&fill))
            return with("picture", toJson(*picture));
        return {{"kind", "none"}};
    }
    static Fill read(const JsonReader& in) {
        const std::string kind = in.at("kind").text(20);
        if (kind == "colour")
            return fromJson<PaintColour>(in);
        if (kind == "gradient")
            return fromJson<Gradient>(in);
        if (kind == "picture")
            return fromJson<PictureFill>(in);
        if (kind != "none")
            in.at("kind").refuse("%1 must be \"none\", \"colour\", \"gradient\" or \"picture\"");
        return {};
    }
    static nlohmann::json schema() {
        return {{"oneOf",
                 {of("none", {{"type", "object"},
                              {"properties", nlohmann::json::object()},
                              {"required", nlohmann::json::array()}}),
                  of("colour", fields::schema<PaintColour>()), of("gradient", fields::schema<Gradient>()),
                  of("picture", fields::schema<PictureFill>())}}};
    }

private:
    static nlohmann::json with(const char* kind, nlohmann::json about) {
        about["kind"] = kind;
        return about;
    }
    static nlohmann::json of(const char* kind, nlohmann::json schema) {
        schema["properties"]["kind"] = {{"const", kind}};
        schema["required"].push_back("kind");
        return schema;
    }
};

template <>
struct Fields<FontChoice> {
    static constexpr auto list =
        std::make_tuple(field("family", &FontChoice::family, AtMost{300}),
                        field("style", &FontChoice::style, AtMost{300}, Kept::unlessStart),
                        field("asset", &FontChoice::asset, AtMost{64}, Kept::unlessStart),
                        field("face", &FontChoice::face, Within{0, 0x7FFFFFFF}, Kept::unlessStart));
};

template <>
struct Fields<Counter> {
    static constexpr auto list =
        std::make_tuple(field("letter", &Counter::letter, Within{0, double(mostLettersBytes)}),
                        field("number", &Counter::number, Within{0, 1000}));
};

template <>
struct Fields<Lettering> {
    static constexpr auto list = std::make_tuple(
        field("text", &Lettering::text, AtMost{mostLettersBytes}),
        field("fonts", &Lettering::fonts, Each{20, Anything{}}),
        field("capHeight", &Lettering::capHeight, Within{Limits::leastCapHeight, Limits::mostCapHeight}),
        field("letterSpace", &Lettering::letterSpace, Within{-Limits::mostSpace, Limits::mostSpace},
              Kept::unlessStart),
        field("lineSpace", &Lettering::lineSpace, Within{0.1, 10}, Kept::unlessStart),
        field("alignment", &Lettering::alignment, OneOf(alignmentsInFiles), Kept::unlessStart),
        field("closeness", &Lettering::closeness, Within{0, 2}, Kept::unlessStart),
        field("welded", &Lettering::isWelded, Anything{}, Kept::unlessStart),
        field("counters", &Lettering::keepsCounters, Anything{}, Kept::unlessStart),
        field("switched", &Lettering::switched, Each{10'000, Anything{}}, Kept::unlessStart),
        field("weight", &Lettering::weight, Within{-Limits::mostWeight, Limits::mostWeight},
              Kept::unlessStart),
        field("slant", &Lettering::slant, Within{-60, 60}, Kept::unlessStart),
        field("fitWidth", &Lettering::fitWidth, Within{0, Limits::mostSize}, Kept::unlessStart),
        field("arcRadius", &Lettering::arcRadius, Within{-Limits::mostSize, Limits::mostSize},
              Kept::unlessStart),
        field("arcSpread", &Lettering::arcSpread, Within{0, 360}, Kept::unlessStart),
        field("outlines", &Lettering::outlines, Each{100'000, Anything{}}, Kept::unlessStart));
};

template <>
struct Fields<Figure> {
    static constexpr Within size{Limits::leastSize * (1 - 1e-6), Limits::mostSize*(1 + 1e-6)};
    static constexpr auto list = std::make_tuple(
        field("form", &Figure::kind, OneOf(figuresInFiles)), field("width", &Figure::width, size),
        field("height", &Figure::height, size),
        field("radius", &Figure::radius, Within{0, Limits::mostSize}, Kept::unlessStart),
        field("points", &Figure::points, Within{3, double(Limits::mostSides)}, Kept::unlessStart),
        field("inner", &Figure::inner, Within{0.01, 0.99}, Kept::unlessStart),
        field("hole", &Figure::hole, Within{0, Limits::mostSize}, Kept::unlessStart),
        field(
            "holeX", [](auto& f) -> auto& { return f.holeAt.x; }, Within{-Limits::mostSize, Limits::mostSize},
            Kept::unlessStart),
        field(
            "holeY", [](auto& f) -> auto& { return f.holeAt.y; }, Within{-Limits::mostSize, Limits::mostSize},
            Kept::unlessStart),
        field("outline", &Figure::outline, Each{100'000, Anything{}}, Kept::unlessStart));
};

template <>
struct Fields<CodeArtwork> {
    static constexpr Within size{Limits::leastSize * (1 - 1e-6), Limits::mostSize*(1 + 1e-6)};
    static constexpr auto list = std::make_tuple(
        field("symbology", &CodeArtwork::kind, OneOf(codesInFiles)),
        field("text", &CodeArtwork::text, AtMost{mostCodeBytes}), field("width", &CodeArtwork::width, size),
        field("height", &CodeArtwork::height, size),
        field("correction", &CodeArtwork::correction, Within{0, 3}, Kept::unlessStart),
        field("showsText", &CodeArtwork::showsText, Anything{}, Kept::unlessStart),
        field("ground", &CodeArtwork::hasGround, Anything{}, Kept::unlessStart));
};

} // namespace hasami
