#include "lettering/open_fonts.h"

namespace hasami {

std::shared_ptr<const Font> OpenFonts::open(const std::shared_ptr<const Asset>& file, int face) {
    const std::lock_guard lock(mutex_);
    std::shared_ptr<const Font>& font = open_[{file->sha256, face}];
    if (!font)
        font = std::make_shared<const Font>(file->bytes, file->name, file, face);
    return font;
}

} // namespace hasami
