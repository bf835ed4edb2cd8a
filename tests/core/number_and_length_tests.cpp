#include "base/number_text.h"
#include "geometry/length_text.h"

#include <catch2/catch.hpp>

using namespace hasami;

TEST_CASE("numbers are written with a point, without trailing zeros") {
    CHECK(numberText(2, 4) == "2");
    CHECK(numberText(2.5, 4) == "2.5");
    CHECK(numberText(-0.00001, 4) == "0");
    CHECK(numberText(0.1 + 0.2, 6) == "0.3");
    CHECK(numberText(1200, 0) == "1200");
    CHECK(numberText(-3.14159, 2) == "-3.14");
}

TEST_CASE("lengths are understood as people type them") {
    const auto reads = [](const char* text, double millimetres) {
        INFO(text);
        const auto read = parseLength(text);
        REQUIRE(read.has_value());
        CHECK(*read == Approx(millimetres).margin(1e-12));
    };
    reads("5", 5);
    reads("5mm", 5);
    reads(" 5 mm ", 5);
    reads("2in", 50.8);
    reads("0.05 in", 1.27);
    reads("1 3/8 in", 34.925);
    reads("3/8\"", 9.525);
    reads("12,5", 12.5);
    reads("1.2 CM", 12);
    reads("72pt", 25.4);
    reads("2cm + 3mm", 23);
    reads("1in - 5.4 mm", 20);
    reads("-2 mm", -2);
    reads("2+3 cm", 50);
    reads("2 inches", 50.8);
    CHECK(*parseLength("2", LengthUnit::inch) == Approx(50.8));
}

TEST_CASE("what is not a length is refused") {
    for (const char* text : {"", " ", "mm", "abc", "5 parsecs", "1/0 in", "5 6", "1..2", "5mm mm", "+", "2 +",
                             "nan", "inf", "1e400", "200 000 000 mm", "1 3/ in", "--3", "0x10"}) {
        INFO(text);
        CHECK_FALSE(parseLength(text).has_value());
    }
}

TEST_CASE("lengths are shown no finer than a machine works, and read back as shown") {
    CHECK(lengthText(2) == "2 mm");
    CHECK(lengthText(2.004) == "2 mm");
    CHECK(lengthText(25.4, LengthUnit::inch) == "1 in");
    CHECK(lengthText(12.34, LengthUnit::centimetre) == "1.234 cm");
    for (const LengthUnit unit :
         {LengthUnit::millimetre, LengthUnit::centimetre, LengthUnit::inch, LengthUnit::point})
        CHECK(*parseLength(lengthText(123.46, unit)) == Approx(123.46).margin(0.02));
}
