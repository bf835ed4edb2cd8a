#pragma once

#include "geometry/point.h"

#include <QPen>
#include <QPointF>

namespace hasami {

/// For marks over what lies in mm: as wide on the screen at every zoom.
inline QPen cosmetic(const QColor& colour, double width, Qt::PenStyle style = Qt::SolidLine) {
    QPen pen(colour, width, style);
    pen.setCosmetic(true);
    return pen;
}

inline QPointF toQt(Point p) {
    return {p.x, p.y};
}

} // namespace hasami
