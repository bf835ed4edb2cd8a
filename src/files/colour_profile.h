#pragma once

#include "artwork/artwork.h"

#include <filesystem>
#include <memory>
#include <string>

namespace hasami {

/// What an ICC profile of a printer or a press says of itself.
struct ColourProfile {
    std::string name;
    int channels = 4; ///< 1 grey, 3 RGB, 4 CMYK
};

/// Throws InputError with a sentence that names the asset: no ICC profile, damaged, of no device that prints
/// or shows colours, or of other colours than grey, RGB and CMYK.
ColourProfile colourProfileOf(const Asset& asset);

/// Reads such a file, to be kept with a job. Throws InputError.
std::shared_ptr<const Asset> readColourProfile(const std::filesystem::path& path);

/// The standard colours of the web and of most pictures, as an ICC profile: the same bytes each time.
std::string standardRgbProfile();

} // namespace hasami
