#pragma once

#include "artwork/own_artwork.h"
#include "geometry/point.h"

#include <qpdf/QPDF.hh>

namespace hasami {

/// A shading (ISO 32000-1, 8.7.4.5): colours that run along a line, or from its start outward to a radius
/// above 0. With a spot colour at an end it is on the plates of that and of the process inks; else in CMYK
/// where one of the colours is, else in RGB.
QPDFObjectHandle newShading(QPDF& pdf, const Gradient& gradient, Point from, Point to, double radius);

} // namespace hasami
