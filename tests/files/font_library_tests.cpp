#include "base/error.h"
#include "drawing/draw.h"
#include "files/font_library.h"
#include "files/job_file.h"
#include "files/safe_write.h"
#include "lettering/shipped_fonts.h"
#include "support/temporary_folder.h"
#include "workshop/make_all.h"

#include <catch2/catch.hpp>

#include <algorithm>

using namespace hasami;
using namespace hasami::test;

namespace {

/// A shipped font whose licence bits say that documents may not hold it (OS/2 fsType 2).
std::string restrictedFont() {
    const auto& bytes = shippedFonts()[1].bytes;
    std::string font(reinterpret_cast<const char*>(bytes.data()), bytes.size());
    const auto number = [&](std::size_t at) {
        std::size_t value = 0;
        for (std::size_t i = 0; i < 4; ++i)
            value = value << 8 | static_cast<unsigned char>(font[at + i]);
        return value;
    };
    const std::size_t tables = number(4) >> 16; // sixteen bits of it
    for (std::size_t i = 0; i < tables; ++i)
        if (font.compare(12 + 16 * i, 4, "OS/2") == 0)
            font[number(12 + 16 * i + 8) + 9] = 2;
    return font;
}

Item lettered(Job& job, FontLibrary& fonts, FontChoice font, const std::string& text) {
    OwnArtwork own;
    Lettering lettering;
    lettering.text = text;
    lettering.fonts = {std::move(font)};
    fonts.addFallbacks(job, lettering);
    own.what = lettering;
    return newItem(own, text, fonts.sourceFor(job), assetSourceOf(*job.assets));
}

const Lettering& letteringOf(const Item& item) {
    return std::get<Lettering>(item.own()->what);
}

} // namespace

TEST_CASE("the fonts that are shipped come first, and are found by family, or family and style") {
    FontLibrary fonts;
    REQUIRE(fonts.fonts().size() > shippedFonts().size());
    CHECK(fonts.fonts().front().family == "League Spartan");
    REQUIRE(fonts.find("bebas neue"));
    CHECK(fonts.find("bebas neue bold")->style == "Bold");
    REQUIRE(fonts.find("Open Sans ExtraBold"));
    CHECK(fonts.find("Open Sans ExtraBold")->style == "ExtraBold");
    CHECK(fonts.find("Open Sans")->style == "Regular");
    REQUIRE(fonts.find("DejaVu Sans")); // of the machine
    CHECK_FALSE(fonts.find("No Such Family"));
    for (const KnownFont& font : fonts.fonts())
        if (font.file.empty())
            CHECK(fonts.open(font)->family() == font.family);
}

TEST_CASE("letters that the chosen font lacks are set in another, which the job then holds") {
    FontLibrary fonts;
    Job job;
    const FontChoice bebas = fonts.choose(job, *fonts.find("Bebas Neue"));
    CHECK(job.assets->size() == 1);
    const Item item = lettered(job, fonts, bebas, "MOOR \xD8\xB3\xD9\x84\xD8\xA7\xD9\x85"); // and Arabic
    REQUIRE(letteringOf(item).fonts.size() == 2);
    CHECK(job.assets->size() == 2);
    CHECK(item.own()->drawing->drawing->lacking.empty());
    // What no font has is named, and nothing is added for it.
    const Item lacking = lettered(job, fonts, bebas, "A\xF3\xB0\x80\x80");
    CHECK(letteringOf(lacking).fonts.size() == 1);
    CHECK(lacking.own()->drawing->drawing->lacking == "\xF3\xB0\x80\x80");
}

TEST_CASE("a font that a job may not hold leaves its outlines in it") {
    const TemporaryFolder folder;
    writeSafely(folder / "restricted.otf", restrictedFont());
    Job job;
    {
        FontLibrary fonts;
        const FontChoice font = fonts.choose(job, folder / "restricted.otf");
        CHECK(font.asset.empty());
        CHECK(job.assets->empty());
        const Item item = lettered(job, fonts, font, "Moor");
        CHECK_FALSE(letteringOf(item).outlines.empty());
        addDesign(job, item);
        CHECK_FALSE(item.own()->drawing->drawing->lostFont);
    }
    saveJob(folder / "moor.hasami", job, "");
    const Job elsewhere = openJob(folder / "moor.hasami"); // without the font
    const Item& back = elsewhere.designs[0].artwork.items[0];
    CHECK(back.own()->drawing->drawing->lostFont->family == "League Spartan");
    CHECK(back.own()->drawing->drawing->width == Approx(job.designs[0].artwork.items[0].place.width));
    Cache cache;
    const Made made = makeAll(elsewhere, 1, {}, cache);
    REQUIRE(made.designs.size() == 1);
    CHECK_FALSE(made.designs[0].sticker->lines.empty());
    CHECK(std::ranges::any_of(made.designs[0].remarks,
                              [](const Remark& remark) { return remark.code == FindingCode::fontMissing; }));
}
