#pragma once

#include "artwork/paint_list.h"

#include <functional>
#include <poppler/GfxState.h>

class SplashPath;

namespace hasami {

/// What the page is drawn on has dots as small as this: glyphs come in sixty-fourths of a dot, so they are
/// right to a fifth of a micrometre.
constexpr double millimetresPerDot = 0.01;

/// From user space, as it is now, to mm of the page.
Affine toPage(const GfxState& state);

/// All paths are kept within what a paint list can hold; files may name places at the end of the world.
Path pathOf(const GfxPath& gfx, const Affine& map);
Path pathOf(SplashPath& splash, Point origin, const Affine& map);
Path pathWithin(Path path);

/// A stroke with the line style as it is now. Its units are made about as large as a millimetre, evenly, so
/// that a pen that is wider than high stays so. `pathIn` gives the path as it lies after the map that it is
/// given.
PaintShape strokeShape(const GfxState& state, const std::function<Path(const Affine&)>& pathIn);

/// What pictures are put onto: a square of one unit in user space.
Path pictureArea(const GfxState& state);

/// Where a shading paints, on the page: as much of it as can be seen.
Path shadedArea(const GfxState& state, const GfxFunctionShading& shading);
Path shadedArea(const GfxState& state, const GfxAxialShading& shading);
Path shadedArea(const GfxState& state, const GfxRadialShading& shading);

/// Whether the clip leaves nothing.
bool isOutside(const GfxState& state);

} // namespace hasami
