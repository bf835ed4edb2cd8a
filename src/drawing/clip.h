#pragma once

#include "artwork/arrange.h"
#include "drawing/draw.h"

#include <utility>

namespace hasami {

/// A figure that shows an item's picture inside, which stays where it is: `at` is the figure's top left in
/// the design, its sides level. REQUIRES: the item is a file's.
Item clippedTo(const Item& item, const Figure& figure, Point at, const AssetSource& assets);

/// The figure of artwork's edge, in mm of the design, with the top left of its box. REQUIRES: there is an
/// edge.
std::pair<Figure, Point> figureOf(const std::vector<Curve>& edge);

/// The largest figure of a kind in a box, in its middle: rectangles and ellipses fill it, circles and regular
/// polygons stay regular.
std::pair<Figure, Point> figureIn(const Box& box, FigureKind kind, bool isRegular, int points = 6);

} // namespace hasami
