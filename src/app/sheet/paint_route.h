#pragma once

#include "app/sheet/route_bar.h"

#include <QPainter>

#include <functional>

namespace hasami {

/// The tool's path up to now, in mm of the view: what is cut in its kind's tint, the ways between thin
/// and dotted, the knife as a dot. `all` is paled beneath it; `along` gives where a sheet begins.
void paintRoute(QPainter& painter, const RouteBar& route, const std::function<double(std::size_t)>& along,
                const QRectF& all, double pixelsPerMillimetre);

} // namespace hasami
