#pragma once

#include "job/job.h"
#include "lettering/open_fonts.h"

#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

namespace hasami {

/// A font that lettering can be set in.
struct KnownFont {
    std::string family, style;
    std::filesystem::path file; ///< empty: shipped with the program
    int weight = 0;             ///< 0 thin to 210 black, as fontconfig has it
    bool isItalic = false;
    int face = 0;                             ///< as in FontChoice
    std::shared_ptr<const void> letters = {}; ///< fontconfig's set of those it has; shipped ones have none

    std::string name() const { return style.empty() ? family : family + " " + style; }
};

/// The fonts that are shipped and those of the machine, found by fontconfig. For any thread.
class FontLibrary {
public:
    /// Those that are shipped first, then by family, weight and slant. Only fonts of outlines; of variable
    /// fonts their named instances. Found once.
    const std::vector<KnownFont>& fonts();

    /// By family, or family and style together; whatever its case. Without a style the regular one, else the
    /// first.
    const KnownFont* find(const std::string& name);

    /// The first that has all the letters; else the one that has most of them. nullptr: none has any.
    const KnownFont* having(const std::u32string& letters);

    /// Its file as an asset. Throws InputError where it can't be read or is no font.
    std::shared_ptr<const Asset> file(const KnownFont& font);
    std::shared_ptr<const Font> open(const KnownFont& font);
    /// The same without keeping it: for a look at many.
    static std::shared_ptr<const Font> openOnce(const KnownFont& font);

    /// The font for lettering of the job, whose bytes the job then holds, if the font's licence allows that.
    /// Throws InputError.
    FontChoice choose(Job& job, const KnownFont& font);

    /// A font file's font. Throws InputError.
    FontChoice choose(Job& job, const std::filesystem::path& fontFile);

    /// The lettering with fonts added for the letters that its own lack, as far as any has them. Throws
    /// InputError.
    void addFallbacks(Job& job, Lettering& lettering);

    /// Fonts by family and style, without those that jobs hold. It must live as long as what is given back.
    FontSource onMachine();

    /// Fonts of the job and of the machine. What is given here must live as long as what is given back.
    FontSource sourceFor(const Job& job);

    OpenFonts& opened() { return opened_; }

private:
    /// The choice as it is, with the file as its asset where the licence allows it.
    FontChoice kept(Job& job, FontChoice choice, const std::shared_ptr<const Asset>& file);

    OpenFonts opened_;
    std::mutex mutex_;
    std::optional<std::vector<KnownFont>> fonts_;
    std::map<std::filesystem::path, std::shared_ptr<const Asset>> files_;
};

/// The text's letters, without what is not seen.
std::u32string lettersIn(const std::string& utf8);

} // namespace hasami
