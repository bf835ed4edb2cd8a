#pragma once

#include "artwork/rgba.h"

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace hasami {

/// Cyan, magenta, yellow and black, 0 to 1.
using Inks = std::array<double, 4>;

/// A colour that is chosen here: of own artwork, borders, bleed and marks. What is printed is the spot colour
/// where one is named, else the inks where they are given, else the RGB, which in all cases shows it on
/// screen.
struct PaintColour {
    Rgba shown{0, 0, 0, 255};
    std::optional<Inks> inks = {}; ///< of a spot colour: what programs without it show in its place
    std::string spot = {};         ///< its name; letter by letter as the printer's software has it

    friend bool operator==(const PaintColour&, const PaintColour&) = default;
};

/// In these inks, as they look without a profile.
PaintColour colourOfInks(const Inks& inks);

/// Black ink alone: sharp, and without fringes where plates don't meet.
PaintColour blackInk();

/// The colour's inks, or those that its RGB is without a profile.
Inks inksOf(const PaintColour& colour);

/// Whether it is printed in black ink alone, or, white, in none; and looks like that.
bool isPlainGrey(const PaintColour& colour);

/// Of a spot colour's name, in bytes: what PDF allows everywhere.
inline constexpr std::size_t longestSpotName = 127;

/// "#204060"; "0 60 100 0", the inks in percent; or "Comb Gold = 0 60 100 0", a spot colour and what shows
/// it.
std::string paintColourText(const PaintColour& colour);

/// Reads what paintColourText gives, also with commas or percent signs between the inks, and "black" for
/// black ink alone; nothing if it is something else.
std::optional<PaintColour> parsePaintColour(std::string_view text);

/// Whether a spot colour may have the name: not empty, not too long, neither "All" nor "None", which are no
/// inks (ISO 32000-1, 8.6.6.4), and none of the four process inks.
bool isSpotName(std::string_view name);

} // namespace hasami
