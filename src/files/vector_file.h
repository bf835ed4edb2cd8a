#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"
#include "files/file_kind.h"
#include "files/psd_plates.h"

#include <QByteArray>

#include <optional>
#include <stop_token>

namespace hasami {

/// Reads a page of vector art: what it paints, and a picture of it. SVG and PostScript become PDF first. The
/// inks of a page in CMYK, where they are asked for, are drawn by Ghostscript; where it can't, there are
/// none. All of it happens in processes of their own, with limits on memory and time. Throws InputError, and
/// Stopped: the process is then ended at once.
Picture readVector(const Asset& asset, FileKind kind, const PictureWish& wish,
                   const std::stop_token& stop = {});

/// PostScript as PDF, its colours as they are; what it draws decides the page's size where the file says
/// none. Throws InputError, Stopped.
QByteArray pdfOfPostScript(const Asset& asset, const QByteArray& bytes, const std::stop_token& stop);

/// Adds a page's own colours pixel by pixel, drawn by Ghostscript, as the picture's fine colours and the
/// page's spot plates: where it has CMYK or spot colours, or where all its colours have one ICC profile. As
/// it is where it has neither, or where it can't be drawn. Throws Stopped. REQUIRES: the picture is of a
/// page.
void addOwnColours(const Asset& asset, Picture& picture, const std::stop_token& stop);

/// The page's plates in the pixels of its picture, drawn by Ghostscript; nothing where it can't be drawn.
/// Throws Stopped. REQUIRES: the picture is of a page.
std::optional<Plates> platesOf(const Asset& asset, const Picture& picture, const std::stop_token& stop = {});

} // namespace hasami
