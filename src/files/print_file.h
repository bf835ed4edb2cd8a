#pragma once

#include "job/job.h"
#include "workshop/route_sheet.h"

#include <optional>
#include <stop_token>
#include <string>

namespace hasami {

struct PrintOptions {
    bool cutLines = true;                  ///< with them, or print only: then no spot colour is in the file
    std::optional<std::size_t> sheet = {}; ///< one sheet by its index; else all, a page each
    bool artwork = true;                   ///< or cut lines and marks alone
    LineKinds kinds = {};                  ///< of cut lines
    bool inks = true;                      ///< special ones
    bool isForItsPrinter = false;          ///< CMYK without a profile is that of the job's profile
    std::optional<InkKind> plate = {}; ///< nothing but this ink, as greys: black where there is most of it
};

/// The print file: PDF, exact in size, the sheet turned a quarter clockwise so that its leading edge is on
/// top. Layers "Print", "Bleed", one for each special ink, one for each kind of cut line, "Marks"; each
/// picture is embedded once; cut lines are strokes below 0.25 pt, special inks are fills, both in the
/// profile's spot colours and set to overprint. REQUIRES: `made` was made from this job and holds a sheet.
/// Throws Stopped, InputError.
std::string printPdf(const Job& job, const Made& made, const PictureSource& pictures,
                     const PrintOptions& options, std::stop_token stop = {});

/// Map from mm of the sheet to mm of the print page (PDF's: origin bottom left, y up).
Affine sheetToPage(const Sheet& sheet, const Medium& medium);

} // namespace hasami
