#pragma once

#include "app/document/document.h"
#include "app/paint/paint_design.h"

#include <QPainter>
#include <QPixmap>

#include <map>

namespace hasami {

/// Designs drawn once for a zoom, to be laid down at each of their pieces.
class SheetStamps {
public:
    explicit SheetStamps(Document& document) : document_(document) {}

    /// Paints a piece in mm of its sheet: small ones whole, at the nearest pixel, from a picture for each
    /// turn that can be distinguished at their size; large ones exactly. REQUIRES: the design has a sticker.
    void paint(QPainter& painter, const MadeDesign& design, const Affine& place, double pixelsPerMillimetre);

    /// Draws what painting such a piece needs, unless it is there. `ratio`: of the screen's pixels.
    void prepare(const MadeDesign& design, const Affine& place, double pixelsPerMillimetre, double ratio);

    /// Whether the painter is turned by a quarter, clockwise.
    void setTurned(bool isTurned) { turn_ = isTurned ? Affine{0, 1, -1, 0, 0, 0} : Affine{}; }

    /// Those drawn while one of their pictures was still being read.
    void forgetUnfinished();
    void forgetDeleted();

    /// Of cut lines, in pixels.
    static double lineWidth(double pixelsPerMillimetre);

private:
    struct Stamp {
        std::shared_ptr<const Sticker> sticker;
        double scale = 0; ///< pixels a mm
        double ratio = 1; ///< of the screen's pixels to those
        QPixmap pixmap;   ///< of a large one, without its lines
        LinePaths lines;
        bool isSmall = false;
        bool isUnfinished = false;     ///< a picture was missing
        std::map<int, QPixmap> turned; ///< of a small one, by the steps of its turn, and whether mirrored
    };

    Stamp& stampOf(const MadeDesign& design, double scale, double ratio);
    const QPixmap& turnedStampOf(Stamp& stamp, const std::string& design, const Affine& place);
    QPixmap turnedStamp(Stamp& stamp, const std::string& design, const Affine& turned);
    void printInto(QPainter& painter, Stamp& stamp, const std::string& design, double scale);

    Document& document_;
    std::map<std::string, Stamp> stamps_;
    Affine turn_; ///< of the painter
};

} // namespace hasami
