#pragma once

#include "sticker/recipe_step.h"

#include <array>
#include <cstddef>
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
    marksLowContrast,
    leadLeftOut,
    bleedShort,
    fontMissing,
    notX4,
    epsFlattened,
    cornerCut,
    smallCode,
    crossingLine,
    shortLine,
    tightCorner,
    smallOpening,
    thinNeck,
    severalParts,
    whiteShows,
    artworkCut,
    hiddenPrint,
    spotNameTaken,
    inkShows,
    whiteHides,
    whiteOnMarks,
    nearMark,
    mediumShort,
    fileChanged,
    outOfDate,
    paleFringe,
    channelLeftOut,
    printDiffers,
};

/// What the codes are called, in their order.
inline constexpr std::array<std::string_view, 45> findingNames{
    "not-made",      "sheet-not-made",     "coarse-picture",   "touch-up-lost",
    "open-line",     "name-doubtful",      "drawn-as-picture", "few-tabs",
    "bleed-wide",    "bleed-left-out",     "bleed-colours",    "ink-lost",
    "copies-lost",   "too-close",          "out-of-reach",     "kept-free",
    "few-marks",     "marks-low-contrast", "lead-left-out",    "bleed-short",
    "font-missing",  "not-pdf-x4",         "eps-flattened",    "corner-cut",
    "small-code",    "crossing-line",      "short-line",       "tight-corner",
    "small-opening", "thin-neck",          "several-parts",    "white-shows",
    "art-cut",       "hidden-print",       "spot-name-taken",  "ink-shows",
    "white-hides",   "white-on-marks",     "near-mark",        "medium-short",
    "file-changed",  "out-of-date",        "pale-fringe",      "channel-left-out",
    "print-differs"};

inline constexpr auto findingCodes = [] {
    std::array<FindingCode, findingNames.size()> codes{};
    for (std::size_t i = 0; i < codes.size(); ++i)
        codes[i] = FindingCode(i);
    return codes;
}();

/// "not-made", "coarse-picture".
constexpr std::string_view codeName(FindingCode code) {
    return findingNames[std::size_t(code)];
}

/// What was left out or can't be as asked for, of one step of a recipe: a sentence without a full stop, to be
/// read beside the design's name.
struct Remark {
    FindingCode code;
    RecipeStep step;
    std::string text;
    double amount = 0; ///< of `pale-fringe` its width, mm

    friend bool operator==(const Remark&, const Remark&) = default;
};

} // namespace hasami
