#pragma once

#include "workshop/make_all.h"

#include <QPainterPath>

#include <map>

namespace hasami {

/// The level line of designs whose edge is not made yet, found at once on coarse previews: what one sees
/// while a slider moves.
class LiveEdge {
public:
    /// In mm of the design. Empty where the made edge holds, or while there is no preview. `made` is the
    /// newest result for the design, or nullptr. About a pass over a million cells, once for each change.
    const QPainterPath& of(const Design& design, const MadeDesign* made);

private:
    struct Kept {
        Artwork artwork;
        EdgeOptions options;
        std::vector<std::shared_ptr<const EdgePreview>> previews;
        QPainterPath path;
    };
    std::map<std::string, Kept> kept_; ///< by design
};

} // namespace hasami
