#include "artwork/paint_colour.h"

#include "artwork/colour_text.h"
#include "base/number_text.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace hasami {

namespace {

constexpr std::string_view blanks = " \t";

std::string_view trimmed(std::string_view text) {
    const std::size_t first = text.find_first_not_of(blanks);
    if (first == std::string_view::npos)
        return {};
    return text.substr(first, text.find_last_not_of(blanks) - first + 1);
}

/// Four percentages, parted by blanks, commas or slashes.
std::optional<Inks> parseInks(std::string_view text) {
    constexpr std::string_view between = " \t,;/%";
    Inks inks{};
    std::size_t count = 0;
    for (std::size_t at = text.find_first_not_of(between); at < text.size();
         at = text.find_first_not_of(between, at)) {
        const std::size_t end = std::min(text.find_first_of(between, at), text.size());
        double percent = -1;
        const auto read = std::from_chars(text.data() + at, text.data() + end, percent);
        if (count == inks.size() || read.ec != std::errc{} || read.ptr != text.data() + end ||
            !(percent >= 0 && percent <= 100))
            return {};
        inks[count++] = percent / 100;
        at = end;
    }
    return count == inks.size() ? std::optional(inks) : std::nullopt;
}

std::optional<PaintColour> parseProcess(std::string_view text) {
    if (text == "black")
        return blackInk();
    if (const auto shown = parseColour(text))
        return PaintColour{*shown};
    const auto inks = parseInks(text);
    return inks ? std::optional(colourOfInks(*inks)) : std::nullopt;
}

std::string processText(const PaintColour& colour) {
    if (!colour.inks)
        return colourText(colour.shown);
    std::string text;
    for (const double ink : *colour.inks)
        text += (text.empty() ? "" : " ") + numberText(ink * 100, 2);
    return text;
}

} // namespace

PaintColour colourOfInks(const Inks& inks) {
    const auto part = [&](double ink) { return std::uint8_t(std::lround(255 * (1 - ink) * (1 - inks[3]))); };
    return {{part(inks[0]), part(inks[1]), part(inks[2]), 255}, inks};
}

PaintColour blackInk() {
    return colourOfInks({0, 0, 0, 1});
}

Inks inksOf(const PaintColour& colour) {
    if (colour.inks)
        return *colour.inks;
    const auto& [red, green, blue, coverage] = colour.shown;
    const double most = std::max({red, green, blue}) / 255.0;
    if (most == 0)
        return {0, 0, 0, 1};
    const auto ink = [&](std::uint8_t part) { return 1 - part / 255.0 / most; };
    return {ink(red), ink(green), ink(blue), 1 - most};
}

bool isPlainGrey(const PaintColour& colour) {
    if (!colour.spot.empty())
        return false;
    if (!colour.inks)
        return colour.shown == Rgba{255, 255, 255, 255};
    return colour.shown == colourOfInks(*colour.inks).shown &&
           std::all_of(colour.inks->begin(), colour.inks->begin() + 3, [](double ink) { return ink == 0; });
}

std::string paintColourText(const PaintColour& colour) {
    return colour.spot.empty() ? processText(colour) : colour.spot + " = " + processText(colour);
}

std::optional<PaintColour> parsePaintColour(std::string_view text) {
    const std::size_t equals = text.rfind('=');
    if (equals == std::string_view::npos)
        return parseProcess(trimmed(text));
    auto colour = parseProcess(trimmed(text.substr(equals + 1)));
    const std::string_view name = trimmed(text.substr(0, equals));
    if (!colour || !isSpotName(name))
        return {};
    colour->spot = name;
    return colour;
}

bool isSpotName(std::string_view name) {
    constexpr std::array<std::string_view, 6> taken{"All", "None", "Cyan", "Magenta", "Yellow", "Black"};
    return !name.empty() && name.size() <= longestSpotName && name == trimmed(name) &&
           std::ranges::find(taken, name) == taken.end();
}

} // namespace hasami
