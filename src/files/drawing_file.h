#pragma once

#include "artwork/own_artwork.h"
#include "artwork/picture.h"
#include "workshop/make_all.h"

#include <QImage>

#include <functional>
#include <stop_token>
#include <string>

class QPainter;

namespace hasami {

/// Gives a picture to be shown inside a drawing, of any resolution; none while it is being read.
using FillPictures = std::function<QImage(const Asset& asset, const PictureFill& fill)>;

/// Paints a drawing in mm of its own frame, as it looks on screen.
void paintDrawing(QPainter& painter, const Drawing& drawing, const FillPictures& pictures);

/// A page of PDF with the drawing as it is printed: outlines as paths, colours as they are named, pictures as
/// in their files, clipped. Throws InputError where a picture can't be read, and Stopped.
std::string drawingPdf(const Drawing& drawing, const std::string& title, const PictureSource& pictures,
                       const std::stop_token& stop = {});

/// A drawing as a page of vector art. Throws as drawingPdf. REQUIRES: the asset is a drawing.
Picture readDrawing(const Asset& asset, const PictureWish& wish, const PictureSource& pictures,
                    const std::stop_token& stop = {});

} // namespace hasami
