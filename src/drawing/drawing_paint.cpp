#include "drawing/drawing_paint.h"

namespace hasami {

namespace {

PaintItem paintOf(const DrawnArea& area) {
    PaintItem item;
    for (const Curve& rim : area.rims)
        item.shape.path.push_back({rim.start, rim.segments, true});
    if (const auto* colour = std::get_if<PaintColour>(&area.fill)) {
        item.colour = colour->shown;
        item.spot = colour->spot;
    } else {
        item.kind = PaintItem::Kind::shading;
    }
    return item;
}

bool hasInks(const PaintColour& colour) {
    return colour.inks || !colour.spot.empty();
}

bool hasInks(const DrawnArea& area) {
    if (const auto* colour = std::get_if<PaintColour>(&area.fill))
        return hasInks(*colour);
    const auto* gradient = std::get_if<Gradient>(&area.fill);
    return gradient && (hasInks(gradient->from) || hasInks(gradient->to));
}

} // namespace

PaintList paintListOf(const Drawing& drawing) {
    PaintList list;
    list.width = drawing.width;
    list.height = drawing.height;
    list.hasNoBackdrop = true;
    for (const DrawnArea& area : drawing.areas) {
        list.items.push_back(paintOf(area));
        list.hasInks = list.hasInks || hasInks(area);
    }
    return list;
}

} // namespace hasami
