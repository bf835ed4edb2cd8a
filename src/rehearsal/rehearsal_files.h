#pragma once

#include "files/outputs.h"
#include "rehearsal/rehearse.h"

#include <QImage>

#include <filesystem>
#include <vector>

namespace hasami {

/// The printed sheet as it lies on the bed, its leading edge on the left, at most in that many pixels a
/// millimetre.
QImage pictureOf(const PrintedSheet& sheet, double pixelsPerMillimetre);

/// A sticker as it comes out: what lies inside the cut, as the design stands, transparent around it. Empty
/// where there is no cut. REQUIRES: the rehearsal is not refused.
QImage stickerOf(const Rehearsal& rehearsal, const MadeDesign& made, const Piece& piece);

/// The files of a rehearsal: print.png, result.json, and where it was cut cut.png and one sticker-NAME.png
/// for each design of the sheet. REQUIRES: `made` was made from this job.
std::vector<Output> rehearsalFiles(const Rehearsal& rehearsal, const Job& job, const Made& made,
                                   std::size_t sheet, const std::filesystem::path& folder);

} // namespace hasami
