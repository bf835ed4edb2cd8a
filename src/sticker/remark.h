#pragma once

#include "sticker/recipe_step.h"

#include <array>
#include <string>
#include <string_view>

namespace hasami {

/// What can be wrong with a job. The names are stable: reports and scripts rely on them. docs/findings.md
/// lists them with their reasons.
enum class FindingCode {
    notMade,
    sheetNotMade,
    coarsePicture,
    touchUpLost,
    openLine,
    nameDoubtful,
    drawnAsPicture,
    fewTabs,
    bleedWide,
    bleedLeftOut,
    bleedColours,
    inkLost,
    copiesLost,
    tooClose,
    outOfReach,
    keptFree,
    fewMarks,
    marksUnseen,
    leadLeftOut,
    bleedShort,
    fontMissing,
    notX4,
    epsFlattened,
    cornerCut,
};

inline constexpr std::array findingCodes{
    FindingCode::notMade,        FindingCode::sheetNotMade, FindingCode::coarsePicture,
    FindingCode::touchUpLost,    FindingCode::openLine,     FindingCode::nameDoubtful,
    FindingCode::drawnAsPicture, FindingCode::fewTabs,      FindingCode::bleedWide,
    FindingCode::bleedLeftOut,   FindingCode::bleedColours, FindingCode::inkLost,
    FindingCode::copiesLost,     FindingCode::tooClose,     FindingCode::outOfReach,
    FindingCode::keptFree,       FindingCode::fewMarks,     FindingCode::marksUnseen,
    FindingCode::leadLeftOut,    FindingCode::bleedShort,   FindingCode::fontMissing,
    FindingCode::notX4,          FindingCode::epsFlattened, FindingCode::cornerCut};

/// "not-made", "coarse-picture".
constexpr std::string_view codeName(FindingCode code) {
    constexpr std::array<std::string_view, findingCodes.size()> names{
        "not-made",      "sheet-not-made",   "coarse-picture", "touch-up-lost", "open-line",
        "name-doubtful", "drawn-as-picture", "few-tabs",       "bleed-wide",    "bleed-left-out",
        "bleed-colours", "ink-lost",         "copies-lost",    "too-close",     "out-of-reach",
        "kept-free",     "few-marks",        "marks-unseen",   "lead-left-out", "bleed-short",
        "font-missing",  "not-pdf-x4",       "eps-flattened",  "corner-cut"};
    return names[std::size_t(code)];
}

/// What was left out or can't be as asked for, of one step of a recipe: a sentence without a full stop, to be
/// read beside the design's name.
struct Remark {
    FindingCode code;
    RecipeStep step;
    std::string text;

    friend bool operator==(const Remark&, const Remark&) = default;
};

} // namespace hasami
