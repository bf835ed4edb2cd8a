#pragma once

#include "artwork/picture.h"
#include "sticker/sticker.h"

#include <memory>
#include <optional>
#include <span>
#include <stop_token>

namespace hasami {

/// A special ink as it is printed.
struct PrintedInk {
    InkKind ink = InkKind::white;
    std::vector<Curve> area; ///< by the even-odd rule

    /// Graded by coverage: how much ink each pixel has, within the area. None: full ink all over it.
    struct Graded {
        Grid<std::uint8_t> amounts;
        Affine fromPixels; ///< to mm of the design
    };
    std::optional<Graded> graded = {};
};

/// The layer of one sticker, shrunk by its choke; the area is empty where nothing is left. `shown`: the rims
/// of what the artwork shows, with all its openings, which need not be cut. `pictures`: one for each item.
/// Within the tolerance of what the artwork shows, of a picture to some tenths of a pixel.
/// Throws Stopped.
PrintedInk printInk(const Artwork& artwork, const Sticker& sticker, const std::vector<Curve>& shown,
                    const InkLayer& layer, std::span<const std::shared_ptr<const Picture>> pictures,
                    double tolerance, const std::stop_token& stop = {});

} // namespace hasami
