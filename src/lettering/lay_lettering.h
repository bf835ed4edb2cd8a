#pragma once

#include "artwork/own_artwork.h"
#include "geometry/affine.h"
#include "lettering/font.h"

#include <functional>
#include <memory>
#include <string>
#include <vector>

namespace hasami {

/// Gives the font of a choice, open; nullptr where it is nowhere to be found. Throws InputError where it is
/// damaged.
using FontSource = std::function<std::shared_ptr<const Font>(const FontChoice&)>;

/// A letter, or several that the font draws as one, where it stands.
struct LaidLetter {
    std::size_t from = 0, to = 0; ///< the bytes of the text that it stands for
    int line = 0;
    std::vector<Curve> rims; ///< outer ones and openings
    Affine place;            ///< from its own frame: the baseline's start of the letter at 0, 0
    double advance = 0;      ///< along the baseline
    bool isRightToLeft = false;
    bool isLacking = false; ///< no font has it
};

/// Lettering as it stands: the first baseline at y = 0, mm, y down. On a circle: its middle at 0, 0.
struct LaidLettering {
    std::vector<LaidLetter> letters; ///< line by line, each from left to right
    struct Line {
        std::size_t from = 0, to = 0; ///< bytes of the text, without the "\n"
        Affine start;                 ///< where its first letter begins
        double width = 0;
    };
    std::vector<Line> lines;
    std::string lacking;  ///< letters that no font has, each once
    double capHeight = 0; ///< after it was fitted to a width
};

/// Lays out lettering: shapes its lines, moves letters together by their outlines, aligns the lines, bends
/// them to a circle and fits them to a width. Counters are taken out where that is wished; letters are
/// neither grown nor welded yet. Outlines are the font's own curves. Neighbours that touch do so within 0.01
/// mm and never overlap, also those that overlap in the font; scripts whose letters are joined stay as they
/// are.
/// Throws InputError: a font is missing, the circle is smaller than the lettering.
LaidLettering layLettering(const Lettering& lettering, const FontSource& fonts);

/// The letters' outlines as they are cut and printed: grown by the weight and welded, where that is wished,
/// within 0.005 mm; else as laid.
std::vector<std::vector<Curve>> letterOutlines(const Lettering& lettering, const LaidLettering& laid);

} // namespace hasami
