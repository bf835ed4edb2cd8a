#pragma once

// Colours as job files and profiles keep them, and as cache keys see them.

#include "artwork/colour_text.h"
#include "artwork/paint_colour.h"
#include "base/fields.h"

namespace hasami {

/// "#204060".
template <>
struct Codec<Rgba> {
    static nlohmann::json write(Rgba colour) { return colourText(colour); }
    static Rgba read(const JsonReader& in) {
        const auto colour = parseColour(in.text(20));
        if (!colour)
            in.refuse("%1 must be a colour such as \"#204060\"");
        return *colour;
    }
    static nlohmann::json schema() { return {{"type", "string"}, {"pattern", "^#[0-9A-Fa-f]{6}$"}}; }
    template <class Key>
    static void hash(Key& key, Rgba colour) {
        key << colourText(colour);
    }
};

/// [cyan, magenta, yellow, black], 0 to 1.
template <>
struct Codec<Inks> {
    static nlohmann::json write(const Inks& inks) { return inks; }
    static Inks read(const JsonReader& in) {
        const auto parts = in.elements(4);
        if (parts.size() != 4)
            in.refuse("%1 must be four numbers from 0 to 1: cyan, magenta, yellow and black");
        Inks inks{};
        for (std::size_t i = 0; i < 4; ++i)
            inks[i] = parts[i].number(0, 1);
        return inks;
    }
    static nlohmann::json schema() { return fields::numbersSchema(4, 0, 1); }
    template <class Key>
    static void hash(Key& key, const Inks& inks) {
        for (const double ink : inks)
            key << ink;
    }
};

template <>
struct Fields<PaintColour> {
    static constexpr auto list =
        std::make_tuple(field("colour", &PaintColour::shown, Anything{}),
                        field("cmyk", &PaintColour::inks, Anything{}, Kept::unlessStart),
                        field("spot", &PaintColour::spot, AtMost{longestSpotName}, Kept::unlessStart));
};

/// Rule of a colour that older files know as RGB alone: "#204060"; else an object.
struct AsColour {
    static nlohmann::json write(const PaintColour& colour) {
        return colour == PaintColour{colour.shown} ? Codec<Rgba>::write(colour.shown) : toJson(colour);
    }
    static void read(const JsonReader& in, PaintColour& colour) {
        colour = in.json().is_object() ? fromJson<PaintColour>(in) : PaintColour{Codec<Rgba>::read(in)};
    }
    static nlohmann::json schema() {
        return {{"oneOf", {Codec<Rgba>::schema(), fields::schema<PaintColour>()}}};
    }
};

} // namespace hasami
