#include "app/stickers/colour_tool.h"

#include "app/paint/artwork_colours.h"

#include <utility>

namespace hasami {

bool ColourTool::press(const PointerPlace& pointer) {
    pressed_ = pointer.at;
    return true;
}

void ColourTool::release(const PointerPlace&) {
    const std::optional<Point> at = std::exchange(pressed_, std::nullopt);
    const Design* design = document_.selectedDesign();
    if (!at || !design)
        return;
    if (const auto colour = colourAt(document_, *design, *at))
        take_(*colour);
}

} // namespace hasami
