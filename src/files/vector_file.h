#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "files/file_kind.h"

#include <optional>
#include <stop_token>

namespace hasami {

/// Reads a page of vector art: what it paints, and a picture of it. SVG and PostScript become PDF first. The
/// inks of a page in CMYK, where they are asked for, are drawn by Ghostscript; where it can't, there are
/// none. All of it happens in processes of their own, with limits on memory and time. Throws InputError, and
/// Stopped: the process is then ended at once.
Picture readVector(const Asset& asset, FileKind kind, const PictureWish& wish,
                   const std::stop_token& stop = {});

/// A page's CMYK, pixel by pixel as its picture, drawn by Ghostscript; nothing where it can't be. Throws
/// Stopped. REQUIRES: the picture is of a page.
std::optional<FineColours> inksOf(const Asset& asset, const Picture& picture, const std::stop_token& stop);

} // namespace hasami
