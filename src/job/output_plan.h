#pragma once

#include "profile/profile.h"

#include <optional>
#include <string>
#include <vector>

namespace hasami {

enum class PrintFormat { pdf, eps, png, tiff };

/// One of the outputs that a job is written as: a file, or one for each sheet, special ink or tool.
struct PlannedOutput {
    enum class What { print, cut };
    What what = What::print;

    PrintFormat print = PrintFormat::pdf;
    bool cutLines = true;       ///< in the print, where its format can hold them
    bool isOnePerSheet = false; ///< a PDF for each sheet, rather than one of all
    double dotsPerInch = 300;   ///< of pictures
    bool isInInks = false;      ///< a TIFF in CMYK where no profile says what it is in

    std::optional<CutLanguage> cut = {}; ///< DEFAULT: the machine's
    std::vector<LineKind> kinds = {};    ///< of a cut file; empty: all
    bool isOnePerTool = false;           ///< a cut file for each holder that is used

    friend bool operator==(const PlannedOutput&, const PlannedOutput&) = default;
};

/// What leaves the program, where it goes and what it is called.
struct OutputPlan {
    std::string folder; ///< empty: beside the job's file

    /// Of files, without the ending: {job}, {sheet}, {what} and {day} stand for what they say.
    std::string names = "{job}-{sheet}-{what}";

    /// Of the ICC profile of the printer, an asset of the job, by its SHA-256; empty: none.
    std::string colours;

    std::vector<PlannedOutput> outputs = {{}, {PlannedOutput::What::cut}};

    friend bool operator==(const OutputPlan&, const OutputPlan&) = default;
};

} // namespace hasami
