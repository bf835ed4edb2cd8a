#pragma once

#include "files/print_file.h"

#include <string>

namespace hasami {

/// A sheet's print as a picture, drawn by Ghostscript: RGB, or as TIFF in the colours of the job's profile or
/// in CMYK, whose own inks stay as they are; exact in size, turned as the pages of the print
/// file are, without cut lines.
struct PrintPicture {
    enum class Format { png, tiff }; ///< both without loss
    Format format = Format::png;
    double dotsPerInch = 300;
    bool isInInks = false; ///< a TIFF in CMYK where the job has no profile

    /// The file of one sheet with marks and without special inks; or of one of these alone, as greys: black
    /// where there is most of it. REQUIRES: as printPdf. Throws OutputError, naming `file`, where it would
    /// have more than 1,000 million pixels or can't be drawn; InputError; Stopped.
    std::string drawn(const std::string& file, const Job& job, const Made& made,
                      const PictureSource& pictures, std::size_t sheet, std::optional<InkKind> ink,
                      const std::stop_token& stop) const;
};

/// The special inks that a sheet has, from the medium up.
std::vector<InkKind> inksOn(const Job& job, const Made& made, const Sheet& sheet);

} // namespace hasami
