#pragma once

#include "app/document.h"

#include <QPainter>

namespace hasami {

/// How a design is drawn in its own millimetres. `pixelsPerMillimetre` is the painter's scale.
struct DesignPainting {
    Document& document;
    const Design& design;
    const Sticker& sticker;
    double pixelsPerMillimetre;

    /// The artwork; nothing while its pictures are being read.
    void artwork(QPainter& painter) const;

    /// White vinyl within the cut lines.
    void vinyl(QPainter& painter) const;

    /// As it will look when peeled: white within the cut line, nothing outside of it.
    void peeled(QPainter& painter) const;

    /// The kiss lines: solid green with a white casing, as wide on screen at every zoom, their course in the
    /// middle.
    void kissLines(QPainter& painter, double width = 2) const;

    /// The artwork's silhouette as a thin line of ink with a white casing: while it is being found, the line
    /// that is there at once.
    void edge(QPainter& painter) const;

    /// The nodes of the silhouette, as large on screen at every zoom.
    void edgePoints(QPainter& painter) const;
};

/// Draws lines as kissLines does.
void paintKissLines(QPainter& painter, const QPainterPath& lines, double width);

/// The design's newest result, empty while there is none.
const Sticker& stickerOf(const Document& document, const std::string& design);

} // namespace hasami
