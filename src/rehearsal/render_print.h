#pragma once

#include "files/print_file.h"
#include "machine/printed_sheet.h"

#include <functional>

namespace hasami {

/// A sheet's print file as a printer draws it, without cut lines: drawn by Poppler's pdftoppm in a confined
/// process, band after band, straight into pixels. At 300 dots an inch; of sheets beyond 650 million pixels
/// fewer. `progress` is called with the share that is drawn, 0 to 1. A stop is heard within 0.1 s. Throws
/// OutputError where it can't be drawn; InputError; Stopped. REQUIRES: as printPdf.
SheetPicture renderPrint(const Job& job, const Made& made, const PictureSource& pictures, std::size_t sheet,
                         const std::stop_token& stop = {}, const std::function<void(double)>& progress = {});

} // namespace hasami
