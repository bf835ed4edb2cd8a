#include "drawing/drawing_paint.h"

#include <algorithm>

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

bool isPlainGrey(const DrawnArea& area) {
    const auto* colour = std::get_if<PaintColour>(&area.fill);
    return colour ? isPlainGrey(*colour) : std::holds_alternative<std::monostate>(area.fill);
}

} // namespace

PaintList paintListOf(const Drawing& drawing) {
    PaintList list;
    list.width = drawing.width;
    list.height = drawing.height;
    list.hasNoBackdrop = true;
    for (const DrawnArea& area : drawing.areas)
        list.items.push_back(paintOf(area));
    list.isGrey = std::ranges::all_of(drawing.areas, [](const DrawnArea& area) { return isPlainGrey(area); });
    list.hasInks = !list.isGrey &&
                   std::ranges::any_of(drawing.areas, [](const DrawnArea& area) { return hasInks(area); });
    return list;
}

} // namespace hasami
