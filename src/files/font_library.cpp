#include "files/font_library.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/read_file.h"
#include "lettering/shape_text.h"
#include "lettering/shipped_fonts.h"

#include <QString>

#include <algorithm>
#include <fontconfig/fontconfig.h>
#include <tuple>

namespace hasami {

namespace {

constexpr std::size_t mostFontBytes = 64 << 20;

template <auto destroy>
struct Release {
    template <class T>
    void operator()(T* object) const {
        destroy(object);
    }
};

std::string textOf(FcPattern* pattern, const char* what) {
    FcChar8* text = nullptr;
    return FcPatternGetString(pattern, what, 0, &text) == FcResultMatch ? reinterpret_cast<char*>(text)
                                                                        : std::string();
}

int numberOf(FcPattern* pattern, const char* what) {
    int value = 0;
    FcPatternGetInteger(pattern, what, 0, &value);
    return value;
}

std::shared_ptr<const void> keptLetters(FcCharSet* letters) {
    if (!letters)
        return nullptr;
    return std::shared_ptr<FcCharSet>(FcCharSetCopy(letters), FcCharSetDestroy);
}

std::vector<KnownFont> ofMachine() {
    std::vector<KnownFont> fonts;
    const std::unique_ptr<FcConfig, Release<FcConfigDestroy>> config(FcInitLoadConfigAndFonts());
    const std::unique_ptr<FcPattern, Release<FcPatternDestroy>> all(FcPatternCreate());
    FcPatternAddBool(all.get(), FC_OUTLINE, FcTrue);
    FcPatternAddBool(all.get(), FC_VARIABLE, FcFalse);
    const std::unique_ptr<FcObjectSet, Release<FcObjectSetDestroy>> wanted(FcObjectSetBuild(
        FC_FAMILY, FC_STYLE, FC_FILE, FC_INDEX, FC_WEIGHT, FC_SLANT, FC_FONTFORMAT, FC_CHARSET, nullptr));
    const std::unique_ptr<FcFontSet, Release<FcFontSetDestroy>> found(
        config ? FcFontList(config.get(), all.get(), wanted.get()) : nullptr);
    for (int i = 0; found && i < found->nfont; ++i) {
        FcPattern* one = found->fonts[i];
        const std::string format = textOf(one, FC_FONTFORMAT);
        if (format != "TrueType" && format != "CFF")
            continue; // formats of old
        FcCharSet* letters = nullptr;
        FcPatternGetCharSet(one, FC_CHARSET, 0, &letters);
        fonts.push_back({textOf(one, FC_FAMILY), textOf(one, FC_STYLE), textOf(one, FC_FILE),
                         numberOf(one, FC_WEIGHT), numberOf(one, FC_SLANT) > 0, numberOf(one, FC_INDEX),
                         keptLetters(letters)});
    }
    std::ranges::sort(fonts, [](const KnownFont& a, const KnownFont& b) {
        return std::tie(a.family, a.weight, a.isItalic, a.style, a.file) <
               std::tie(b.family, b.weight, b.isItalic, b.style, b.file);
    });
    return fonts;
}

std::string lowered(const std::string& text) {
    return QString::fromStdString(text).toCaseFolded().toStdString();
}

} // namespace

std::u32string lettersIn(const std::string& utf8) {
    std::u32string letters;
    for (const char32_t letter : QString::fromStdString(utf8).toStdU32String())
        if (letter > U' ')
            letters += letter;
    return letters;
}

const std::vector<KnownFont>& FontLibrary::fonts() {
    const std::lock_guard lock(mutex_);
    if (!fonts_) {
        fonts_.emplace();
        for (const ShippedFont& font : shippedFonts())
            fonts_->push_back({font.family, font.style, {}, font.isForWindow ? 80 : 200});
        std::rotate(fonts_->begin(), fonts_->begin() + 1, fonts_->end()); // the window's own last
        for (KnownFont& font : ofMachine())
            if (std::ranges::none_of(*fonts_, [&](const KnownFont& known) {
                    return known.family == font.family && known.style == font.style;
                }))
                fonts_->push_back(std::move(font));
    }
    return *fonts_;
}

const KnownFont* FontLibrary::find(const std::string& name) {
    const std::string wanted = lowered(name);
    const KnownFont* best = nullptr;
    for (const KnownFont& font : fonts()) {
        if (lowered(font.name()) == wanted)
            return &font;
        const bool isRegular = font.style == "Regular" || font.style == "Book";
        if (lowered(font.family) == wanted && (!best || (isRegular && best->style != "Regular")))
            best = &font;
    }
    return best;
}

const KnownFont* FontLibrary::having(const std::u32string& letters) {
    const KnownFont* best = nullptr;
    std::ptrdiff_t most = 0;
    for (const KnownFont& font : fonts()) {
        const auto shipped = font.letters ? nullptr : open(font);
        const auto count = std::ranges::count_if(letters, [&](char32_t letter) {
            return shipped ? shipped->has(letter)
                           : FcCharSetHasChar(static_cast<const FcCharSet*>(font.letters.get()), letter) ==
                                 FcTrue;
        });
        if (count > most) {
            most = count;
            best = &font;
        }
        if (most == std::ptrdiff_t(letters.size()))
            break;
    }
    return best;
}

namespace {

std::shared_ptr<const Asset> readFont(const KnownFont& font) {
    auto asset = std::make_shared<Asset>();
    if (font.file.empty()) {
        const auto& all = shippedFonts();
        const auto shipped = std::ranges::find_if(all, [&](const ShippedFont& one) {
            return one.family == font.family && one.style == font.style;
        });
        asset->name = shipped->file;
        asset->bytes.assign(shipped->bytes.begin(), shipped->bytes.end());
    } else {
        asset->name = font.file.filename().string();
        asset->bytes = readFile(font.file, mostFontBytes);
    }
    asset->sha256 = sha256Of(asset->bytes);
    return asset;
}

} // namespace

std::shared_ptr<const Asset> FontLibrary::file(const KnownFont& font) {
    const std::lock_guard lock(mutex_);
    std::shared_ptr<const Asset>& kept =
        files_[font.file.empty() ? std::filesystem::path(font.name()) : font.file];
    if (!kept)
        kept = readFont(font);
    return kept;
}

std::shared_ptr<const Font> FontLibrary::openOnce(const KnownFont& font) {
    const auto asset = readFont(font);
    return std::make_shared<const Font>(asset->bytes, asset->name, asset, font.face);
}

std::shared_ptr<const Font> FontLibrary::open(const KnownFont& font) {
    return opened_.open(file(font), font.face);
}

FontChoice FontLibrary::kept(Job& job, FontChoice choice, const std::shared_ptr<const Asset>& file) {
    if (!opened_.open(file, choice.face)->mayBeKept())
        return choice;
    if (!job.assets->contains(file->sha256))
        job.assets.edit()[file->sha256] = file;
    choice.asset = file->sha256;
    return choice;
}

FontChoice FontLibrary::choose(Job& job, const KnownFont& font) {
    return kept(job, {font.family, font.style, {}, font.face}, file(font));
}

FontChoice FontLibrary::choose(Job& job, const std::filesystem::path& fontFile) {
    auto asset = std::make_shared<Asset>();
    asset->name = fontFile.filename().string();
    asset->bytes = readFile(fontFile, mostFontBytes);
    asset->sha256 = sha256Of(asset->bytes);
    const auto font = opened_.open(asset);
    const std::string family = font->family();
    FontChoice choice = kept(job, {family.empty() ? asset->name : family, font->style()}, asset);
    if (choice.asset.empty()) {
        const std::lock_guard lock(mutex_);
        files_[choice.family + " " + choice.style] = asset; // for as long as the program runs
    }
    return choice;
}

void FontLibrary::addFallbacks(Job& job, Lettering& lettering) {
    std::u32string lacking;
    const FontSource source = sourceFor(job);
    for (const char32_t letter : lettersIn(lettering.text))
        if (std::ranges::none_of(lettering.fonts, [&](const FontChoice& choice) {
                const auto font = source(choice);
                return font && font->has(letter);
            }))
            lacking += letter;
    while (!lacking.empty() && lettering.fonts.size() < 20) {
        const KnownFont* font = having(lacking);
        if (!font)
            return;
        lettering.fonts.push_back(choose(job, *font));
        const auto opened = open(*font);
        std::erase_if(lacking, [&](char32_t letter) { return opened->has(letter); });
    }
}

FontSource FontLibrary::onMachine() {
    return [this](const FontChoice& choice) -> std::shared_ptr<const Font> {
        {
            const std::lock_guard lock(mutex_);
            const auto given = files_.find(choice.family + " " + choice.style);
            if (given != files_.end() && given->second)
                return opened_.open(given->second);
        }
        for (const KnownFont& font : fonts())
            if (font.family == choice.family && font.style == choice.style)
                return open(font);
        return nullptr;
    };
}

FontSource FontLibrary::sourceFor(const Job& job) {
    return fontSourceOf(*job.assets, opened_, onMachine());
}

} // namespace hasami
