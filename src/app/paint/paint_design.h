#pragma once

#include "app/document/document.h"

#include <QPainter>
#include <QPainterPath>

#include <array>
#include <optional>

namespace hasami {

/// An item's picture, without the cut lines that it brings; nothing while it is being read.
std::shared_ptr<const Pyramid> pictureOf(Document& document, const Design& design, const Item& item);

/// How a design is drawn in its own millimetres. `pixelsPerMillimetre` is the painter's scale.
struct DesignPainting {
    Document& document;
    const Design& design;
    const Sticker& sticker;
    double pixelsPerMillimetre;
    bool withBleed = true;                ///< printed, or left out to be compared
    const MadeDesign* ofResult = nullptr; ///< that the sticker is of; none: the newest

    const MadeDesign* result() const { return ofResult ? ofResult : document.newest(design.id); }

    /// The artwork; nothing while its pictures are being read.
    void artwork(QPainter& painter) const;

    /// The bleed alone. REQUIRES: the sticker has one.
    void bleed(QPainter& painter) const;

    /// All that is printed: the artwork, its bleed and its border.
    void printed(QPainter& painter) const;

    /// The special inks as they would look on a dark ground, each in a tint of its own; all, or one.
    void inks(QPainter& painter, std::optional<InkKind> only = {}) const;

    /// One special ink in a tint.
    void ink(QPainter& painter, const PrintedInk& ink, const QColor& tint) const;

    /// As it looks on a ground: white ink hides what is behind it, colours let it through. A mirrored print
    /// is seen through its medium.
    void onGround(QPainter& painter, const QColor& ground) const;

    /// White vinyl within the cut lines.
    void vinyl(QPainter& painter) const;

    /// As it will look when peeled: white within the cut line, nothing outside of it.
    void peeled(QPainter& painter) const;

    /// The cut lines, as wide on screen at every zoom, their course in the middle. Kiss: solid green with a
    /// white casing. Die: a double rail in persimmon.
    void cutLines(QPainter& painter, double width = 2) const;

    /// Lines of the recipe that are left out, thin, grey and dotted.
    void notCut(QPainter& painter) const;

    /// The artwork's silhouette as a thin line of ink with a white casing: while it is being found, the line
    /// that is there at once.
    void edge(QPainter& painter) const;

    /// The nodes of the silhouette, as large on screen at every zoom.
    void edgePoints(QPainter& painter) const;

private:
    QImage printedAside(QPainter& painter) const;
    void paintOwn(QPainter& painter, const Item& item) const;
};

/// Cut lines by kind, to be drawn often.
using LinePaths = std::array<QPainterPath, lineKinds.size()>;
LinePaths linePaths(const std::vector<CutLine>& lines);

/// Lines that were found, or are in the recipe, and are not cut.
void paintNotCut(QPainter& painter, const QPainterPath& lines);

/// Draws lines as cutLines does.
void paintCutLines(QPainter& painter, const LinePaths& lines, double width);

/// The design's newest result, empty while there is none.
const Sticker& stickerOf(const Document& document, const std::string& design);

} // namespace hasami
