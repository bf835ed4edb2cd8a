#include "lettering/open_fonts.h"

namespace hasami {

std::shared_ptr<const Font> OpenFonts::open(const std::shared_ptr<const Asset>& file) {
    const std::lock_guard lock(mutex_);
    std::shared_ptr<const Font>& font = open_[file->sha256];
    if (!font)
        font = std::make_shared<const Font>(file->bytes, file->name, file);
    return font;
}

} // namespace hasami
