#pragma once

#include "files/print_file.h"
#include "machine/printed_sheet.h"

namespace hasami {

/// A sheet's print file as a printer draws it, without cut lines. At 300 dots an inch; of sheets beyond 150
/// million pixels fewer, down to 200. Throws OutputError where that is not enough or Ghostscript can't draw
/// it; InputError; Stopped. REQUIRES: as printPdf.
SheetPicture renderPrint(const Job& job, const Made& made, const PictureSource& pictures, std::size_t sheet,
                         const std::stop_token& stop = {});

} // namespace hasami
