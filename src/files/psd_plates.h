#pragma once

#include "artwork/vector_page.h"

#include <QByteArray>

#include <optional>
#include <vector>

namespace hasami {

/// The plates of a page: process inks and spot colours.
struct Plates {
    FineColours process; ///< 4 channels of 8 bits
    std::vector<SpotPlate> spots;
};

/// From a PSD file as Ghostscript's psdcmyk writes it: one picture of 8 bits, not packed. Nothing where it is
/// something else.
std::optional<Plates> platesOfPsd(const QByteArray& file);

} // namespace hasami
