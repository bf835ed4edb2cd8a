#include "base/error.h"
#include "geometry/region_operations.h"
#include "lettering/carets.h"
#include "lettering/ink.h"
#include "lettering/lay_lettering.h"
#include "lettering/shape_text.h"
#include "lettering/shipped_fonts.h"
#include "lettering/tighten.h"

#include <catch2/catch.hpp>

#include <fstream>
#include <iterator>
#include <numbers>
#include <random>

using namespace hasami;

namespace {

std::shared_ptr<const Font> shipped(const std::string& family) {
    for (const ShippedFont& font : shippedFonts())
        if (font.family == family && !font.isForWindow)
            return std::make_shared<const Font>(font.bytes, font.file);
    return {};
}

FontSource sourceOf(const std::shared_ptr<const Font>& font) {
    return [font](const FontChoice&) { return font; };
}

Lettering letteringOf(const std::string& text) {
    Lettering lettering;
    lettering.text = text;
    lettering.fonts = {{"Some", "Regular"}};
    return lettering;
}

Region regionOf(const std::vector<Curve>& rims) {
    return enclosed(rims, FillRule::nonZero);
}

Box boxOf(const LaidLettering& laid) {
    Box box;
    for (const LaidLetter& letter : laid.letters)
        for (const Curve& rim : letter.rims)
            box.add(bounds(flatten(rim, 0.0005)));
    return box;
}

/// The least distance between two areas that do not overlap, along x at heights that are sampled finely.
double gapBetween(const LaidLetter& left, const LaidLetter& right) {
    const auto loops = [](const LaidLetter& letter) {
        std::vector<Loop> all;
        for (const Curve& rim : letter.rims)
            all.push_back(flatten(rim, 0.0005));
        return all;
    };
    return -moveUntilTouching(LetterSides(loops(left)), LetterSides(loops(right)));
}

} // namespace

TEST_CASE("a capital H is as high as the cap height says, in each font that is shipped") {
    for (const ShippedFont& font : shippedFonts()) {
        Lettering lettering = letteringOf("H");
        lettering.capHeight = 25;
        const auto open = std::make_shared<const Font>(font.bytes, font.file);
        const Box box = boxOf(layLettering(lettering, sourceOf(open)));
        INFO(font.file);
        CHECK(box.height() == Approx(25).margin(font.family == std::string("Lobster Two") ? 0.8 : 0.5));
        CHECK(std::abs(box.most.y) < 0.5);
        CHECK(open->family() == font.family);
        CHECK(open->mayBeKept());
    }
}

TEST_CASE("a polygon slides along another until they touch at the nearest corner") {
    const std::vector<Loop> wedge{{{0, 0}, {4, 5}, {0, 10}}}, box{{{20, 4}, {25, 4}, {25, 20}, {20, 20}}};
    CHECK(moveUntilTouching(LetterSides(wedge), LetterSides(box)) == Approx(-16)); // the tip at y = 5
    const std::vector<Loop> above{{{20, -9}, {25, -9}, {25, -2}, {20, -2}}};
    CHECK(moveUntilTouching(LetterSides(wedge), LetterSides(above)) ==
          Approx(-16)); // they pass: by their boxes
}

TEST_CASE("tightened neighbours touch within 0.02 mm and never overlap") {
    for (const char* family :
         {"League Spartan", "Bebas Neue", "Quicksand", "Comic Neue", "Open Sans", "Lobster Two"})
        for (const char* text : {"WAVE", "HEATHER", "Toffee", "AVATAR LTd.", "jolly 4711"}) {
            Lettering lettering = letteringOf(text);
            lettering.closeness = 1;
            const LaidLettering laid = layLettering(lettering, sourceOf(shipped(family)));
            std::vector<const LaidLetter*> seen;
            for (const LaidLetter& letter : laid.letters)
                if (!letter.rims.empty())
                    seen.push_back(&letter);
            INFO(family << " " << text);
            for (std::size_t i = 1; i < seen.size(); ++i) {
                const Region overlap = intersection(regionOf(seen[i - 1]->rims), regionOf(seen[i]->rims));
                CHECK(area(overlap) < 1e-6);
                if (seen[i - 1]->to != seen[i]->from)
                    continue; // a space between them stays
                double closest = gapBetween(*seen[i - 1], *seen[i]);
                for (std::size_t j = 0; j + 1 < i; ++j) // or one before, which overhangs
                    closest = std::min(closest, gapBetween(*seen[j], *seen[i]));
                CHECK(closest < 0.02);
            }
        }
}

TEST_CASE("on the way to touching, letters move as far as the slider says, and past it they overlap") {
    const FontSource font = sourceOf(shipped("League Spartan"));
    const auto widthAt = [&](double closeness) {
        Lettering lettering = letteringOf("HOH");
        lettering.closeness = closeness;
        return boxOf(layLettering(lettering, font)).width();
    };
    const double loose = widthAt(0), touching = widthAt(1);
    CHECK(touching < loose);
    CHECK(widthAt(0.5) == Approx((loose + touching) / 2).margin(0.01));
    CHECK(widthAt(2) == Approx(touching - 2 * 0.15 * 10).margin(0.01));
}

TEST_CASE("tightened and welded letters are one outline, each word its own") {
    Lettering lettering = letteringOf("WILD HEATHER");
    lettering.closeness = 1;
    lettering.isWelded = true;
    const FontSource font = sourceOf(shipped("League Spartan"));
    const auto outlines = letterOutlines(lettering, layLettering(lettering, font));
    REQUIRE(outlines.size() == 1);
    int outer = 0;
    for (const Curve& rim : outlines.front())
        outer += signedArea(flatten(rim, 0.01)) > 0;
    CHECK(outer == 2);
    double loose = 0;
    for (const LaidLetter& letter : layLettering(lettering, font).letters)
        loose += area(regionOf(letter.rims));
    CHECK(area(regionOf(outlines.front())) == Approx(loose).epsilon(0.002));
}

TEST_CASE("whatever touches is one piece once welded, in every font") {
    for (const char* family : {"League Spartan", "Bebas Neue", "Quicksand", "Comic Neue", "Open Sans"})
        for (const char* text : {"HEATHER", "WAVE", "MOOR", "QUILLMOOR", "LTd"}) {
            Lettering lettering = letteringOf(text);
            lettering.closeness = 1;
            lettering.isWelded = true;
            const FontSource font = sourceOf(shipped(family));
            const auto outlines = letterOutlines(lettering, layLettering(lettering, font));
            int outer = 0;
            for (const Curve& rim : outlines.front())
                outer += signedArea(flatten(rim, 0.002)) > 0;
            INFO(family << " " << text);
            CHECK(outer == 1);
        }
}

TEST_CASE("sides that go on from letter to letter are one straight side") {
    Lettering lettering = letteringOf("HHH");
    lettering.closeness = 1;
    lettering.isWelded = true;
    const FontSource font = sourceOf(shipped("League Spartan"));
    const auto outline = letterOutlines(lettering, layLettering(lettering, font)).front();
    Box box;
    std::size_t points = 0;
    for (const Curve& rim : outline) {
        points += rim.points();
        box.add(bounds(flatten(rim, 0.001)));
    }
    CHECK(box.most.y == Approx(0).margin(0.001)); // nothing stands out below the baseline
    CHECK(box.least.y == Approx(-10).margin(0.15));
    // Four corners outside, four for each of the six bays, whose two inner ones are rounded by a hundredth.
    CHECK(points <= 4 + 6 * (4 + 2));
}

TEST_CASE("counters are removed all at once, or one by hand") {
    const FontSource font = sourceOf(shipped("League Spartan"));
    const auto holes = [&](const Lettering& lettering) {
        int count = 0;
        for (const LaidLetter& letter : layLettering(lettering, font).letters)
            for (const Curve& rim : letter.rims)
                count += signedArea(flatten(rim, 0.01)) < 0;
        return count;
    };
    Lettering lettering = letteringOf("BARON");
    CHECK(holes(lettering) == 5); // two of the B, one each of A, R and O
    lettering.keepsCounters = false;
    CHECK(holes(lettering) == 0);
    lettering.switched = {{0, 1}, {3, 0}};
    CHECK(holes(lettering) == 2);
    lettering.keepsCounters = true;
    CHECK(holes(lettering) == 3);
}

TEST_CASE("letters on a circle have their baseline on it, upright at its top or its bottom") {
    const FontSource font = sourceOf(shipped("Bebas Neue"));
    for (const double radius : {40.0, -40.0}) {
        Lettering lettering = letteringOf("HHHHHHH");
        lettering.arcRadius = radius;
        const LaidLettering laid = layLettering(lettering, font);
        for (const LaidLetter& letter : laid.letters) {
            // The feet of an H reach a little past a circle through their middle, or fall a little short of
            // it.
            double nearest = 1e9, farthest = 0;
            for (const Curve& rim : letter.rims)
                for (const Point p : flatten(rim, 0.001)) {
                    nearest = std::min(nearest, length(p));
                    farthest = std::max(farthest, length(p));
                }
            CHECK((radius > 0 ? nearest : farthest) == Approx(40).margin(0.3));
            CHECK((radius > 0 ? farthest : nearest) == Approx(radius > 0 ? 50 : 30).margin(0.3));
        }
        const Box box = boxOf(laid);
        CHECK(box.centre().x == Approx(0).margin(0.2)); // in its middle
        CHECK((radius > 0 ? box.least.y : box.most.y) == Approx(radius > 0 ? -50 : 40).margin(0.3));
    }
    Lettering spread = letteringOf("AROUND THE COMB");
    spread.arcRadius = 40;
    spread.arcSpread = 180;
    const LaidLettering laid = layLettering(spread, font);
    CHECK(laid.lines.front().width == Approx(std::numbers::pi * 40).epsilon(1e-6));
}

TEST_CASE("letters tightened on a circle touch there and do not overlap") {
    for (const double radius : {25.0, -30.0}) {
        Lettering lettering = letteringOf("QUILLMOOR");
        lettering.capHeight = 8;
        lettering.arcRadius = radius;
        lettering.closeness = 1;
        const LaidLettering laid = layLettering(lettering, sourceOf(shipped("League Spartan")));
        for (std::size_t i = 1; i < laid.letters.size(); ++i) {
            const Region before = regionOf(laid.letters[i - 1].rims), now = regionOf(laid.letters[i].rims);
            CHECK(area(intersection(before, now)) < 1e-5);
            CHECK_FALSE(intersection(grownSimple(before, 0.02), now).isEmpty());
        }
    }
}

TEST_CASE("a circle that is too small says so") {
    const FontSource font = sourceOf(shipped("Quicksand"));
    for (const double radius : {3.0, -9.0, 12.0}) {
        Lettering lettering = letteringOf("FAR TOO LONG FOR IT");
        lettering.arcRadius = radius;
        CHECK_THROWS_AS(layLettering(lettering, font), InputError);
    }
}

TEST_CASE("lettering is as wide as it is fitted to, whatever is done to its letters") {
    const FontSource font = sourceOf(shipped("Comic Neue"));
    for (const double weight : {0.0, 0.8, -0.2}) {
        Lettering lettering = letteringOf("Heather\nhoney");
        lettering.fitWidth = 120;
        lettering.weight = weight;
        lettering.slant = 10;
        Box box;
        for (const auto& letter : letterOutlines(lettering, layLettering(lettering, font)))
            for (const Curve& rim : letter)
                box.add(bounds(flatten(rim, 0.001)));
        CHECK(box.width() == Approx(120).margin(0.03));
    }
}

TEST_CASE("a thicker letter has the area that the offset says, and slanting keeps it") {
    const FontSource font = sourceOf(shipped("Bebas Neue"));
    const auto areaOf = [&](const Lettering& lettering) {
        return area(regionOf(letterOutlines(lettering, layLettering(lettering, font)).front()));
    };
    Lettering lettering = letteringOf("I"); // a bar
    lettering.capHeight = 20;
    const Box bar = boxOf(layLettering(lettering, font));
    CHECK(areaOf(lettering) == Approx(bar.width() * bar.height()).epsilon(1e-4));
    lettering.weight = 1;
    CHECK(areaOf(lettering) == Approx((bar.width() + 2) * (bar.height() + 2)).epsilon(1e-3));
    lettering.weight = 0;
    lettering.slant = 20;
    CHECK(areaOf(lettering) == Approx(bar.width() * bar.height()).epsilon(1e-4));
}

TEST_CASE("lines stand below each other at the line space, on the side they are aligned to") {
    const FontSource font = sourceOf(shipped("Bebas Neue"));
    Lettering lettering = letteringOf("IIIIIIII\nII");
    lettering.lineSpace = 2;
    for (const TextAlignment alignment : {TextAlignment::left, TextAlignment::middle, TextAlignment::right}) {
        lettering.alignment = alignment;
        const LaidLettering laid = layLettering(lettering, font);
        REQUIRE(laid.lines.size() == 2);
        const Point first = laid.lines[0].start({}), second = laid.lines[1].start({});
        CHECK(second.y - first.y == Approx(20));
        const double free = laid.lines[0].width - laid.lines[1].width;
        CHECK(second.x - first.x == Approx(alignment == TextAlignment::left     ? 0
                                           : alignment == TextAlignment::middle ? free / 2
                                                                                : free));
    }
}

TEST_CASE("Hebrew runs from right to left, with its digits from left to right") {
    // None of the shipped fonts has Hebrew: what they lack keeps its order all the same.
    const auto font = shipped("Quicksand");
    const Font* fonts[] = {font.get()};
    const ShapedLine line = shapeLine("\xD7\x90\xD7\x91 12", fonts);
    REQUIRE(line.isRightToLeft);
    REQUIRE(line.glyphs.size() == 5);
    CHECK(line.glyphs[0].from == 5); // "1" stands on the far left
    CHECK(line.glyphs[1].from == 6);
    CHECK(line.glyphs[3].from == 2); // the second letter before the first
    CHECK(line.glyphs[4].from == 0);
    CHECK(line.glyphs[4].font == nullptr);
}

TEST_CASE("Arabic is joined and stays so when it is tightened; ligatures stand for their letters") {
    std::ifstream file("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf", std::ios::binary);
    REQUIRE(file.good()); // of the package fonts-dejavu-core
    const auto bytes = std::make_shared<std::vector<char>>(std::istreambuf_iterator<char>(file),
                                                           std::istreambuf_iterator<char>());
    const auto font = std::make_shared<const Font>(std::as_bytes(std::span(*bytes)), "DejaVuSans.ttf", bytes);
    const Font* fonts[] = {font.get()};
    const std::string salam = "\xD8\xB3\xD9\x84\xD8\xA7\xD9\x85"; // seen, lam, alef, meem
    const ShapedLine line = shapeLine(salam, fonts);
    CHECK(line.isRightToLeft);
    CHECK(line.glyphs.size() == 3); // lam and alef are one
    CHECK(line.glyphs.front().from == 6);
    CHECK(line.glyphs[1].to - line.glyphs[1].from == 4);
    Lettering lettering = letteringOf(salam);
    const double loose = boxOf(layLettering(lettering, sourceOf(font))).width();
    lettering.closeness = 1;
    CHECK(boxOf(layLettering(lettering, sourceOf(font))).width() == Approx(loose));
    // Carets stand between the letters of a ligature too.
    const auto places = caretPlaces(lettering.text, layLettering(lettering, sourceOf(font)));
    REQUIRE(places.size() == 5);
    for (std::size_t i = 1; i < places.size(); ++i)
        CHECK(places[i].base.x < places[i - 1].base.x); // on to the left
}

TEST_CASE("a counter is found at the point clicked, whether it is kept or not") {
    const FontSource font = sourceOf(shipped("League Spartan"));
    Lettering lettering = letteringOf("HO");
    const LaidLettering laid = layLettering(lettering, font);
    Box o;
    for (const Curve& rim : laid.letters[1].rims)
        o.add(bounds(flatten(rim, 0.01)));
    for (const bool keeps : {true, false}) {
        lettering.keepsCounters = keeps;
        CHECK(counterAt(lettering, font, o.centre()) == Counter{1, 0});
        CHECK_FALSE(counterAt(lettering, font, {1, -5}));
    }
}

TEST_CASE("letters that no font has are named, each once, and leave room") {
    const LaidLettering laid = layLettering(letteringOf("A\xE2\x98\x83"
                                                        "B\xE2\x98\x83"),
                                            sourceOf(shipped("Bebas Neue")));
    CHECK(laid.lacking == "\xE2\x98\x83");
    CHECK(laid.letters.size() == 4);
}

TEST_CASE("what is no font, is damaged or holds no outlines is refused with a sentence") {
    const auto& whole = shippedFonts()[1];
    CHECK_THROWS_AS(Font({}, "empty.ttf"), InputError);
    const std::string text = "not a font at all, but long enough to be looked at";
    CHECK_THROWS_AS(Font(std::as_bytes(std::span(text)), "text.ttf"), InputError);
    CHECK_THROWS_AS(Font(whole.bytes.first(200), "cut.otf"), InputError);
    // Damaged anywhere, it is refused or set somehow, and nothing breaks.
    std::mt19937 random(7);
    for (int i = 0; i < 60; ++i) {
        std::vector<std::byte> damaged(whole.bytes.begin(), whole.bytes.end());
        for (int j = 0; j < 40; ++j)
            damaged[random() % damaged.size()] = std::byte(random() % 256);
        try {
            const auto font = std::make_shared<const Font>(damaged, "damaged.otf");
            Lettering lettering = letteringOf("Heather 123 &");
            lettering.closeness = 1;
            for (const LaidLetter& letter : layLettering(lettering, sourceOf(font)).letters)
                for (const Curve& rim : letter.rims)
                    CHECK_FALSE(rim.segments.empty());
        } catch (const InputError&) {
            SUCCEED();
        }
    }
}

TEST_CASE("ten thousand letters, and none at all, are laid") {
    const FontSource font = sourceOf(shipped("Bebas Neue"));
    std::string text;
    for (int i = 0; i < 10'000; ++i)
        text += i % 80 == 79 ? '\n' : char('A' + i % 26);
    CHECK(layLettering(letteringOf(text), font).lines.size() == 126);
    CHECK(layLettering(letteringOf(""), font).letters.empty());
    CHECK(boxOf(layLettering(letteringOf("   \n "), font)).isEmpty());
}

TEST_CASE("heavy fonts have more ink than light ones") {
    CHECK(inkShare(*shipped("League Spartan")) > inkShare(windowFont()) * 1.5);
    CHECK(inkShare(windowFont()) > 0.05);
}
