#include "artwork/paint_colour_fields.h"
#include "base/error.h"
#include "job/job_json.h"
#include "job/recipe_fields.h"
#include "profile/profile.h"

#include <random>

using namespace hasami;

TEST_CASE("colours are read as they are written") {
    std::mt19937 random(7);
    std::uniform_int_distribution<int> byte(0, 255), percent(0, 100);
    for (int i = 0; i < 300; ++i) {
        const auto part = [&] { return std::uint8_t(byte(random)); };
        const auto ink = [&] { return percent(random) / 100.0; };
        PaintColour colour{{part(), part(), part(), 255}};
        if (i % 2 == 0)
            colour = colourOfInks({ink(), ink(), ink(), ink()});
        if (i % 3 == 0)
            colour.spot = "Comb Gold " + std::to_string(i) + " = " + std::to_string(i);
        CHECK(parsePaintColour(paintColourText(colour)) == colour);
    }
}

TEST_CASE("colours are typed in several ways, and what is none is refused") {
    CHECK(parsePaintColour("black") == blackInk());
    CHECK(parsePaintColour(" 0, 60,100 ,0 ") == colourOfInks({0, 0.6, 1, 0}));
    CHECK(parsePaintColour("0% 60% 100% 0%") == colourOfInks({0, 0.6, 1, 0}));
    CHECK(parsePaintColour("0/60/100/0.5") == colourOfInks({0, 0.6, 1, 0.005}));
    CHECK(parsePaintColour("Comb Gold=#c8a020")->spot == "Comb Gold");
    for (const char* wrong : {"", "red", "#12345", "#12345G", "0 60 100", "0 60 100 0 0", "0 60 101 0",
                              "0 60 -1 0", "nan 0 0 0", "= #204060", "All = #204060", "None = #204060",
                              "Black = 0 0 0 100", "Comb Gold", "Comb Gold = gold"})
        CHECK_FALSE(parsePaintColour(wrong));
    CHECK_FALSE(isSpotName(std::string(longestSpotName + 1, 'a')));
    CHECK(isSpotName(std::string(longestSpotName, 'a')));
}

TEST_CASE("inks that follow from red, green and blue show the same colour again") {
    for (int red = 0; red < 256; red += 15)
        for (int green = 0; green < 256; green += 15)
            for (int blue = 0; blue < 256; blue += 15) {
                const Rgba shown{std::uint8_t(red), std::uint8_t(green), std::uint8_t(blue), 255};
                REQUIRE(colourOfInks(inksOf({shown})).shown == shown);
            }
    CHECK(inksOf({{0, 0, 0, 255}}) == Inks{0, 0, 0, 1});
}

TEST_CASE("only black ink, and white, are plain greys") {
    CHECK(isPlainGrey(blackInk()));
    CHECK(isPlainGrey(colourOfInks({0, 0, 0, 0.4})));
    CHECK(isPlainGrey({{255, 255, 255, 255}}));
    CHECK_FALSE(isPlainGrey({{0, 0, 0, 255}})); // of all inks
    CHECK_FALSE(isPlainGrey(colourOfInks({0, 0, 0.1, 0.4})));
    PaintColour spot = blackInk();
    spot.spot = "Comb Gold";
    CHECK_FALSE(isPlainGrey(spot));
}

TEST_CASE("borders, bleed and marks keep their colours, and older files their red, green and blue") {
    Recipe recipe;
    recipe.border.colour = *parsePaintColour("Comb Gold = 0 30 90 10");
    recipe.bleed.colour = colourOfInks({0.1, 0.2, 0.3, 0.4});
    const nlohmann::json json = toJson(recipe);
    CHECK(fromJson<Recipe>({json, "recipe"}) == recipe);
    nlohmann::json older = json;
    older["border"]["colour"] = "#c03020";
    older["bleed"]["colour"] = nullptr;
    const auto read = fromJson<Recipe>({older, "recipe"});
    CHECK(read.border.colour == PaintColour{{0xC0, 0x30, 0x20, 255}});
    CHECK_FALSE(read.bleed.colour);
    CHECK(toJson(read)["border"]["colour"] == "#C03020");
    older["border"]["colour"] = 5;
    CHECK_THROWS_AS(fromJson<Recipe>({older, "recipe"}), InputError);

    Profile profile = startProfile();
    CHECK(profile.marks.colour == blackInk());
    CHECK_FALSE(toJson(profile)["marks"].contains("colour"));
    profile.marks.colour = *parsePaintColour("Marks = 0 0 0 100");
    nlohmann::json marks = toJson(profile);
    CHECK(profileFromJson({marks, "profile"}) == profile);
    marks["marks"].erase("colour");
    marks["marks"]["spot"] = "Marks"; // as files had it before
    CHECK(profileFromJson({marks, "profile"}) == profile);
}
