#pragma once

#include "artwork/picture.h"
#include "job/job.h"
#include "workshop/make_all.h"

#include <QImage>
#include <QPainterPath>
#include <QTransform>

#include <memory>
#include <string>

class QPainter;

namespace hasami {

/// The curves as one path; openings stay open (even-odd).
QPainterPath painterPath(const std::vector<Curve>& curves);
QPainterPath painterPath(const std::vector<CutLine>& lines);
QPainterPath painterPath(const Subpath& run);

/// Fills an area of curves, by the even-odd rule.
void fillArea(QPainter& painter, const std::vector<Curve>& area, Rgba colour);

QTransform toQt(const Affine& map);
inline QRectF toRect(const Box& box) {
    return {box.least.x, box.least.y, box.width(), box.height()};
}

/// The picture's own pixels, not copied; it is kept while the image lives.
QImage toImage(std::shared_ptr<const Picture> picture);

/// Scaled down by averages where it is drawn smaller than it is: one step would skip pixels.
QImage scaledFor(const QImage& image, double pixelsWide, double pixelsHigh);

/// Draws the part shown of an item in mm of the design; `whole` is its whole picture, of any resolution.
void paintItem(QPainter& painter, const Item& item, const QImage& whole);

/// What is drawn next is seen only where the sticker's artwork is printed.
void clipWithin(QPainter& painter, const Sticker& sticker);

/// From pixels of the bleed's picture, scaled to a size, to mm of the design.
Affine fromPixelsOf(const BleedPicture& bleed, QSize size);

/// The bleed as printed. `colours` holds the bleed picture at any resolution, `fromPixels` maps that to mm of
/// the design; nothing of it is needed for a bleed of one colour. REQUIRES: the sticker has a bleed.
void paintBleed(QPainter& painter, const Sticker& sticker, const BleedRecipe& recipe, const QImage& colours,
                const Affine& fromPixels);

/// A design's artwork drawn into an image of its footprint, at most `side` pixels along its longer side, as
/// it looks once peeled (white within the cut line, nothing outside) or as printed. Empty without a cut line.
enum class StickerLook { peeled, printed };
QImage stickerImage(const Design& design, const Job& job, const MadeDesign& made,
                    const PictureSource& pictures, int side, StickerLook look);

/// What a file manager shows of a job: its first sheet, or its first design, as PNG of at most 512 pixels a
/// side.
std::string previewPng(const Job& job, const Made& made, const PictureSource& pictures);

} // namespace hasami
