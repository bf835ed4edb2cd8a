#pragma once

#include "geometry/point.h"
#include "lettering/font.h"

#include <span>
#include <string_view>
#include <vector>

namespace hasami {

/// A glyph of a shaped line. Lengths in units of the line's first font; fonts with another scale are brought
/// to the same cap height.
struct Glyph {
    const Font* font = nullptr; ///< nullptr: no font has the letter
    std::uint32_t glyph = 0;
    double scale = 1; ///< from the font's own units to the line's
    std::size_t from = 0,
                to = 0; ///< the bytes of the text that its cluster stands for; alike for all of a cluster
    Point origin;       ///< y down
    double at = 0, advance = 0;                   ///< of the cluster's glyph along the line, from its left
    bool isRightToLeft = false, isJoined = false; ///< of a script whose letters run into each other
};

/// A line of text, its glyphs from left to right.
struct ShapedLine {
    std::vector<Glyph> glyphs;
    double width = 0;
    bool isRightToLeft = false;
};

/// Shapes a line of text (UTF-8): FriBidi orders it, HarfBuzz shapes each run of one direction, script and
/// font. A letter is set in the first of the fonts that has it. What is not UTF-8 becomes U+FFFD. Linear in
/// the text. REQUIRES: at least one font.
ShapedLine shapeLine(std::string_view text, std::span<const Font* const> fonts);

} // namespace hasami
