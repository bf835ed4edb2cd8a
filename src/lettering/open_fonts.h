#pragma once

#include "artwork/placement.h"
#include "lettering/font.h"

#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <utility>

namespace hasami {

/// Fonts that are open, by the SHA-256 of their files and their faces. For any thread.
class OpenFonts {
public:
    /// Throws InputError where it is no font.
    std::shared_ptr<const Font> open(const std::shared_ptr<const Asset>& file, int face = 0);

private:
    std::mutex mutex_;
    std::map<std::pair<std::string, int>, std::shared_ptr<const Font>> open_;
};

} // namespace hasami
