#pragma once

#include "cli/options.h"
#include "files/font_library.h"
#include "files/picture_file.h"

#include <string>
#include <vector>

namespace hasami {

/// Lettering, codes and shapes that show artwork inside: what `outline` and `new` share.
struct OwnArtworkArguments {
    std::vector<std::string> letterings, codes;
    std::string font, capHeight = "10mm", letterSpace, arcRadius, letteringAt, fill = "black",
                      counters = "keep", codeSize = "20mm", codeAt, clip, slant, weight;
    bool isTightened = false, isWelded = false;

    void addTo(CLI::App& command);

    /// Whether it makes a design without any artwork.
    bool isAny() const { return !letterings.empty() || !codes.empty(); }

    /// Lays them on a design's artwork, or clips that. Throws InputError, UsageError.
    void applyTo(Job& job, Design& design, const StickerArguments& sticker, PictureStore& pictures,
                 FontLibrary& fonts) const;

    /// A design of them alone. REQUIRES: isAny().
    Design& addDesignTo(Job& job, const StickerArguments& sticker, PictureStore& pictures,
                        FontLibrary& fonts) const;

private:
    Item letteringItem(Job& job, const std::string& text, PictureStore& pictures, FontLibrary& fonts) const;
    Item codeItem(const Job& job, const std::string& code) const;
    Fill fillFrom(Job& job, PictureStore& pictures) const;
    void clipArtwork(Job& job, Design& design, const StickerArguments& sticker, PictureStore& pictures) const;
};

} // namespace hasami
