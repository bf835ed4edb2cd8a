#pragma once

#include "artwork/own_artwork.h"

#include <vector>

namespace hasami {

/// The outline of a figure, in mm, its box from 0, 0 to its width and height; exact but for curves, which are
/// within 0.03 % of circles where they stand for ellipses. Openings run the other way.
std::vector<Curve> figureOutline(const Figure& figure);

/// The outline less `width` on its inner side, within 0.005 mm; with sharp corners.
std::vector<Curve> insetOutline(const std::vector<Curve>& outline, double width);

/// Grown by `width`, with round corners.
std::vector<Curve> grownOutline(const std::vector<Curve>& outline, double width);

} // namespace hasami
