#pragma once

#include "geometry/curve.h"

#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <vector>

struct hb_font_t;

namespace hasami {

/// An OpenType font that is open for shaping. For any thread.
class Font {
public:
    /// `face` as in FontChoice. `name` of the file, for sentences; `keeper` keeps the bytes alive. Throws
    /// InputError where they are no font, are damaged, lack the face, or hold no outlines (fonts made of
    /// pixels).
    Font(std::span<const std::byte> bytes, const std::string& name, std::shared_ptr<const void> keeper = {},
         int face = 0);
    ~Font();
    Font(const Font&) = delete;
    Font& operator=(const Font&) = delete;

    /// Height of a capital H in the font's units: by its OS/2 table, else as the H is drawn.
    double capHeight() const { return capHeight_; }
    std::string family() const, style() const;
    bool has(char32_t letter) const;

    /// Whether its licence lets documents hold it (OS/2 fsType: installable, or editable embedding).
    bool mayBeKept() const;

    /// A glyph's outline in the font's units, y down, from its origin. Outer rims have positive area. Of a
    /// glyph in colours the layers' outlines.
    std::vector<Curve> outline(std::uint32_t glyph) const;

    hb_font_t* shaper() const { return font_; }

private:
    std::string nameOf(unsigned better, unsigned usual) const;

    std::shared_ptr<const void> keeper_;
    hb_font_t* font_ = nullptr;
    double capHeight_ = 0;
};

/// The font that is shipped for the window, which text on sheets is set in.
const Font& windowFont();

} // namespace hasami
