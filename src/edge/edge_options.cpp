#include "edge/edge_options.h"

namespace hasami {

EdgeOptions forItem(EdgeOptions options, std::size_t item) {
    const auto isOther = [&](const auto& told) { return std::size_t(told.item) != item; };
    std::erase_if(options.switches, isOther);
    std::erase_if(options.touchUps, isOther);
    return options;
}

} // namespace hasami
