#pragma once

#include "geometry/point.h"

#include <optional>
#include <span>

namespace hasami {

/// How far the points of a line scatter about a smooth course, estimated from the line alone: the root mean
/// square about parabolas over stretches of eight details, of neighbouring stretches the middle one, so that
/// corners don't count; of these the one that four fifths don't exceed. Stretches without any scatter, which
/// even a coarse grid gives along its axes, are left out. Nothing where the line is shorter than some forty
/// details. O(points). `detail`: a pixel, for a line found in a picture.
std::optional<double> scatterOf(std::span<const Point> line, bool isClosed, double detail);

} // namespace hasami
