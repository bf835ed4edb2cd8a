#pragma once

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace hasami {

/// What image resources (the blocks of a PSD file, or of a TIFF file's field 34377) say of one of the
/// channels that a picture has beside its colours.
struct ExtraChannel {
    std::string name;
    bool isInk = true; ///< else it is a selection or a mask
};

/// In the order of the channels. What is damaged, or cut off, names none.
std::vector<ExtraChannel> extraChannels(std::span<const std::byte> resources);

} // namespace hasami
