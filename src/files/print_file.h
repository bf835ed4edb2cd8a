#pragma once

#include "job/job.h"
#include "workshop/route_sheet.h"

#include <array>
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

/// What of one design's print is drawn together: the bleed lies under the prints of all pieces, or over them.
enum class DesignPart { bleedUnder, print, bleedOver };
inline constexpr std::array designParts{DesignPart::bleedUnder, DesignPart::print, DesignPart::bleedOver};

/// A page with that part of a design alone, its box as large as `box`, mm of the design. Spot colours of the
/// bleed overprint, and need no transparency. Nothing where the design has no such part.
struct DesignPage {
    std::string pdf;
    Box box;
};
std::optional<DesignPage> designPage(const Job& job, const Made& made, const PictureSource& pictures,
                                     const std::string& design, DesignPart part, std::stop_token stop = {});

/// The print file: PDF, exact in size, the sheet turned a quarter clockwise so that its leading edge is on
/// top. Layers "Print", "Bleed", one for each special ink, one for each kind of cut line, "Marks"; each
/// picture is embedded once; cut lines are strokes below 0.25 pt, special inks are fills, both in the
/// profile's spot colours and set to overprint. REQUIRES: `made` was made from this job and holds a sheet.
/// Throws Stopped, InputError.
std::string printPdf(const Job& job, const Made& made, const PictureSource& pictures,
                     const PrintOptions& options, std::stop_token stop = {});

/// What is printed white under marks on a dark medium: their quiet zones, also those of a code, a text or an
/// arrow at the leading edge.
std::vector<std::vector<Curve>> areasUnderMarks(const Sheet& sheet);

/// Map from mm of the sheet to mm of the print page (PDF's: origin bottom left, y up).
Affine sheetToPage(const Sheet& sheet, const Medium& medium);

} // namespace hasami
