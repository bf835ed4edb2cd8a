#include "lettering/shape_text.h"

#include <algorithm>
#include <fribidi.h>
#include <hb.h>
#include <memory>
#include <new>

namespace hasami {

namespace {

struct DestroyBuffer {
    void operator()(hb_buffer_t* buffer) const { hb_buffer_destroy(buffer); }
};

/// Letters and where each begins in the text.
struct Letters {
    std::vector<hb_codepoint_t> points;
    std::vector<std::size_t> at; ///< one more than points
};

Letters lettersOf(std::string_view text) {
    const std::unique_ptr<hb_buffer_t, DestroyBuffer> buffer(hb_buffer_create());
    hb_buffer_add_utf8(buffer.get(), text.data(), int(text.size()), 0, int(text.size()));
    unsigned count = 0;
    const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer.get(), &count);
    Letters letters;
    for (unsigned i = 0; i < count; ++i) {
        letters.points.push_back(infos[i].codepoint);
        letters.at.push_back(infos[i].cluster);
    }
    letters.at.push_back(text.size());
    return letters;
}

/// The embedding level of each letter, by the Unicode Bidirectional Algorithm; odd: right to left.
std::vector<FriBidiLevel> levelsOf(const std::vector<hb_codepoint_t>& points, bool& isRightToLeft) {
    const auto count = FriBidiStrIndex(points.size());
    std::vector<FriBidiCharType> types(points.size());
    fribidi_get_bidi_types(points.data(), count, types.data());
    std::vector<FriBidiBracketType> brackets(points.size());
    fribidi_get_bracket_types(points.data(), count, types.data(), brackets.data());
    std::vector<FriBidiLevel> levels(points.size(), 0);
    FriBidiParType paragraph = FRIBIDI_PAR_ON;
    if (count > 0 && fribidi_get_par_embedding_levels_ex(types.data(), brackets.data(), count, &paragraph,
                                                         levels.data()) == 0)
        throw std::bad_alloc();
    isRightToLeft = FRIBIDI_IS_RTL(paragraph);
    return levels;
}

/// Marks, spaces and signs take the script of what stands before them.
std::vector<hb_script_t> scriptsOf(const std::vector<hb_codepoint_t>& points) {
    hb_unicode_funcs_t* unicode = hb_unicode_funcs_get_default();
    std::vector<hb_script_t> scripts;
    for (const hb_codepoint_t point : points) {
        const hb_script_t script = hb_unicode_script(unicode, point);
        const bool isPlain = script == HB_SCRIPT_COMMON || script == HB_SCRIPT_INHERITED;
        scripts.push_back(isPlain ? scripts.empty() ? HB_SCRIPT_COMMON : scripts.back() : script);
    }
    for (std::size_t i = scripts.size(); i-- > 1;)
        if (scripts[i - 1] == HB_SCRIPT_COMMON)
            scripts[i - 1] = scripts[i];
    return scripts;
}

/// Which of the fonts sets each letter; -1: none has it. Marks stay with their letter.
std::vector<int> fontsOf(const std::vector<hb_codepoint_t>& points, std::span<const Font* const> fonts) {
    hb_unicode_funcs_t* unicode = hb_unicode_funcs_get_default();
    std::vector<int> chosen;
    for (const hb_codepoint_t point : points) {
        const auto category = hb_unicode_general_category(unicode, point);
        const bool isMark = category == HB_UNICODE_GENERAL_CATEGORY_NON_SPACING_MARK ||
                            category == HB_UNICODE_GENERAL_CATEGORY_ENCLOSING_MARK ||
                            category == HB_UNICODE_GENERAL_CATEGORY_SPACING_MARK;
        const bool isUnseen =
            category == HB_UNICODE_GENERAL_CATEGORY_FORMAT || category == HB_UNICODE_GENERAL_CATEGORY_CONTROL;
        if ((isMark || isUnseen) && !chosen.empty()) {
            chosen.push_back(chosen.back());
            continue;
        }
        const auto has = std::ranges::find_if(fonts, [&](const Font* font) { return font->has(point); });
        chosen.push_back(has != fonts.end() ? int(has - fonts.begin()) : isUnseen ? 0 : -1);
    }
    return chosen;
}

bool isJoining(hb_script_t script) {
    switch (script) {
    case HB_SCRIPT_ARABIC:
    case HB_SCRIPT_SYRIAC:
    case HB_SCRIPT_NKO:
    case HB_SCRIPT_MONGOLIAN:
    case HB_SCRIPT_DEVANAGARI:
    case HB_SCRIPT_BENGALI:
    case HB_SCRIPT_GURMUKHI:
        return true;
    default:
        return false;
    }
}

struct Run {
    std::size_t first = 0, last = 0; ///< letters, the last not among them
    FriBidiLevel level = 0;
    hb_script_t script = HB_SCRIPT_COMMON;
    int font = 0;
};

/// From left to right (rule L2 of the algorithm: reverse what is of a level or above, from the highest on).
void orderForEye(std::vector<Run>& runs) {
    int highest = 0;
    for (const Run& run : runs)
        highest = std::max(highest, int(run.level));
    for (int level = highest; level > 0; --level)
        for (auto from = runs.begin(); from != runs.end();) {
            from = std::find_if(from, runs.end(), [&](const Run& run) { return run.level >= level; });
            const auto to = std::find_if(from, runs.end(), [&](const Run& run) { return run.level < level; });
            std::reverse(from, to);
            from = to;
        }
}

class LineShaper {
public:
    LineShaper(std::string_view text, std::span<const Font* const> fonts)
        : fonts_(fonts), letters_(lettersOf(text)) {}

    ShapedLine shaped() {
        for (const Run& run : runs())
            if (run.font >= 0)
                add(run);
            else
                addLacking(run);
        return std::move(line_);
    }

private:
    std::vector<Run> runs() {
        const auto levels = levelsOf(letters_.points, line_.isRightToLeft);
        const auto scripts = scriptsOf(letters_.points);
        const auto chosen = fontsOf(letters_.points, fonts_);
        std::vector<Run> all;
        for (std::size_t i = 0; i < letters_.points.size(); ++i) {
            const Run one{i, i + 1, levels[i], scripts[i], chosen[i]};
            if (!all.empty() && all.back().level == one.level && all.back().script == one.script &&
                all.back().font == one.font)
                all.back().last = i + 1;
            else
                all.push_back(one);
        }
        orderForEye(all);
        return all;
    }

    void add(const Run& run) {
        const Font& font = *fonts_[std::size_t(run.font)];
        const double scale = fonts_.front()->capHeight() / font.capHeight();
        const bool isRightToLeft = run.level % 2 == 1;
        const std::unique_ptr<hb_buffer_t, DestroyBuffer> buffer(hb_buffer_create());
        for (std::size_t i = run.first; i < run.last; ++i)
            hb_buffer_add(buffer.get(), letters_.points[i], unsigned(i));
        hb_buffer_set_content_type(buffer.get(), HB_BUFFER_CONTENT_TYPE_UNICODE);
        hb_buffer_set_direction(buffer.get(), isRightToLeft ? HB_DIRECTION_RTL : HB_DIRECTION_LTR);
        hb_buffer_set_script(buffer.get(), run.script);
        hb_buffer_set_language(buffer.get(), hb_language_from_string("und", -1));
        hb_shape(font.shaper(), buffer.get(), nullptr, 0);
        unsigned count = 0;
        const hb_glyph_info_t* infos = hb_buffer_get_glyph_infos(buffer.get(), &count);
        const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), &count);
        std::vector<std::size_t> clusters{run.last};
        for (unsigned i = 0; i < count; ++i)
            clusters.push_back(infos[i].cluster);
        std::sort(clusters.begin(), clusters.end());
        for (unsigned i = 0; i < count; ++i) {
            const std::size_t first = infos[i].cluster;
            const std::size_t next = *std::upper_bound(clusters.begin(), clusters.end(), first);
            line_.glyphs.push_back(
                {&font, infos[i].codepoint, scale, letters_.at[first], letters_.at[next],
                 Point{line_.width + places[i].x_offset * scale, -double(places[i].y_offset) * scale},
                 line_.width, places[i].x_advance * scale, isRightToLeft, isJoining(run.script)});
            line_.width += places[i].x_advance * scale;
        }
    }

    /// Space where the letters would stand.
    void addLacking(const Run& run) {
        const bool isRightToLeft = run.level % 2 == 1;
        for (std::size_t n = run.first; n < run.last; ++n) {
            const std::size_t i = isRightToLeft ? run.first + run.last - 1 - n : n;
            const double wide = fonts_.front()->capHeight() * 0.6;
            line_.glyphs.push_back({nullptr, 0, 1, letters_.at[i], letters_.at[i + 1], Point{line_.width, 0},
                                    line_.width, wide, isRightToLeft, false});
            line_.width += wide;
        }
    }

    std::span<const Font* const> fonts_;
    Letters letters_;
    ShapedLine line_;
};

} // namespace

ShapedLine shapeLine(std::string_view text, std::span<const Font* const> fonts) {
    return LineShaper(text, fonts).shaped();
}

} // namespace hasami
