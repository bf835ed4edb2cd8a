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

bool isCmyk(const DrawnArea& area) {
    const auto* colour = std::get_if<PaintColour>(&area.fill);
    return colour && colour->inks;
}

} // namespace

PaintList paintListOf(const Drawing& drawing) {
    PaintList list;
    list.width = drawing.width;
    list.height = drawing.height;
    list.hasNoBackdrop = true;
    list.isCmyk = !drawing.areas.empty();
    for (const DrawnArea& area : drawing.areas) {
        list.items.push_back(paintOf(area));
        list.isCmyk = list.isCmyk && isCmyk(area);
    }
    return list;
}

} // namespace hasami
