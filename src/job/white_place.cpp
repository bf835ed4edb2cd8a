#include "job/white_place.h"

#include <algorithm>

namespace hasami {

bool hasWhite(const Design& design) {
    return std::ranges::any_of(design.recipe.inks, [](const InkLayer& layer) {
        return layer.ink == InkKind::white && layer.area != InkArea::colours;
    });
}

std::optional<WhitePlace> whitePlaceFor(const Job& job) {
    const auto any = [&](bool seenThrough) {
        return std::ranges::any_of(job.designs, [&](const Design& design) {
            return hasWhite(design) && isSeenThrough(design) == seenThrough;
        });
    };
    const bool isUnder = any(false), isOver = any(true);
    if (isUnder && isOver)
        return WhitePlace::between;
    return isUnder  ? std::optional(WhitePlace::under)
           : isOver ? std::optional(WhitePlace::over)
                    : std::nullopt;
}

void suitInkOrder(Job& job) {
    InkOrder& order = job.profile.printer.inkOrder;
    const bool isWrong = std::ranges::any_of(job.designs, [&](const Design& design) {
        return hasWhite(design) && !suits(order.white(), isSeenThrough(design));
    });
    if (isWrong)
        order = order.with(*whitePlaceFor(job));
}

} // namespace hasami
