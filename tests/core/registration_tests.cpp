#include "support/printed_marks.h"
#include "support/rounds.h"

#include <catch2/catch.hpp>

#include <random>

using namespace hasami;
using namespace hasami::test;

TEST_CASE("a print map leads there and back") {
    PrintError error{{2, -1}, 0.7, 0.004, -0.003, 0.97, 0.6, true};
    const PrintMap map(error, {{0, 0}, {300, 200}});
    for (const Point p : {Point{0, 0}, Point{300, 10}, Point{120, 170}})
        CHECK(distance(map.back(map(p)), p) < 1e-9);
    error = {};
    error.bow = 1;
    CHECK(PrintMap(error, {{0, 0}, {300, 200}})({150, 50}).y == Approx(51));
    CHECK(PrintMap(error, {{0, 0}, {300, 200}})({300, 50}).y == Approx(50));
}

TEST_CASE("marks of every shape are found to 0.05 mm on a shifted, turned and stretched print") {
    std::mt19937 random(81);
    std::uniform_real_distribution<double> share(-1, 1);
    for (const MarkShape shape : {MarkShape::dot, MarkShape::bracket, MarkShape::cross, MarkShape::square}) {
        PrintedMarks print(schemeOf(shape));
        for (int round = 0; round < rounds(6, 2); ++round) {
            INFO("shape " << int(shape) << ", round " << round);
            PrintError error;
            error.shift = {3 * share(random), 3 * share(random)};
            error.turn = share(random);
            error.stretchAlong = 0.006 * share(random);
            error.stretchAcross = 0.006 * share(random);
            const Registration registration = print.registered(error);
            REQUIRE(registration.fault == RunFault::none);
            REQUIRE(registration.found() == 4);
            for (const MarkReading& mark : registration.marks)
                CHECK(distance(*mark.found, (*print.map)(mark.expected)) < 0.05);
            CHECK(print.mostOff(registration) < 0.1);
            CHECK(registration.turn == Approx(error.turn).margin(0.03));
            CHECK(registration.scaleAlong - 1 == Approx(error.stretchAlong).margin(0.0008));
        }
    }
}

TEST_CASE("a mark that is smudged is left out, one that is torn off too, and too few are refused") {
    PrintedMarks print(schemeOf(MarkShape::dot));
    PrintError error;
    error.shift = {1.5, -1};
    error.turn = 0.4;
    const PrintMap map(error, print.medium);
    const auto blemish = [&](std::size_t mark, Blemish::Kind kind) {
        return Blemish{map(print.sheet.marks[mark].centre) + Point{1.2, 0.4}, 4, kind};
    };
    const Registration three = print.registered(error, {blemish(1, Blemish::Kind::smudge)});
    CHECK(three.fault == RunFault::none);
    CHECK(three.found() == 3);
    CHECK_FALSE(three.marks[1].found);
    CHECK(print.mostOff(three) < 0.1);
    const Registration two =
        print.registered(error, {blemish(0, Blemish::Kind::torn), blemish(3, Blemish::Kind::smudge)});
    CHECK(two.fault == RunFault::tooFewMarks);
    CHECK(two.found() == 2);
    CHECK(print
              .registered(error, {blemish(0, Blemish::Kind::torn), blemish(1, Blemish::Kind::torn),
                                  blemish(2, Blemish::Kind::torn), blemish(3, Blemish::Kind::smudge)})
              .fault == RunFault::tooFewMarks);
}

TEST_CASE("what looks like a mark, but is not where the others have one, is not taken") {
    const MarkScheme scheme = schemeOf(MarkShape::dot);
    PrintedMarks print(scheme);
    // Other sizes and shapes close by are refused by themselves.
    MarkScheme other = scheme;
    other.size = 4.5;
    const Point first = print.sheet.marks[0].centre;
    paint(*print.picture, markAlone(9, first + Point{7.5, 0}, other).ink);
    other.shape = MarkShape::square;
    other.size = 5.4;
    paint(*print.picture, markAlone(9, first + Point{0, 8}, other).ink);
    const Registration near = print.registered({});
    CHECK(near.found() == 4);
    CHECK(print.mostOff(near) < 0.1);
    // One just like it, in the place of a mark that is lost, disagrees with the others.
    paint(*print.picture, markAlone(9, first + Point{9, 9}, scheme).ink);
    const Registration decoy = print.registered({}, {{first, 4.2, Blemish::Kind::torn}});
    CHECK(decoy.dropped() == std::vector<int>{1});
    CHECK(decoy.found() == 3);
    CHECK(decoy.fault == RunFault::none);
    CHECK(print.mostOff(decoy) < 0.1);
}

TEST_CASE("a print scaled by the printer, and one that lies the wrong way round, are refused") {
    PrintedMarks print(schemeOf(MarkShape::dot));
    PrintError error;
    error.scale = 0.97;
    CHECK(print.registered(error).fault == RunFault::scaled);
    error.scale = 1.005;
    CHECK(print.registered(error).fault == RunFault::none);
    // Margins of 26 and 36 mm before and behind the work.
    PrintError turned;
    turned.isUpsideDown = true;
    CHECK(print.registered(turned).fault == RunFault::wrongWayRound);
    turned.shift = {2, 2};
    turned.turn = 0.5;
    CHECK(print.registered(turned).fault == RunFault::wrongWayRound);
    // By the corner without a mark.
    MarkScheme three = schemeOf(MarkShape::bracket);
    three.corners = 3;
    PrintedMarks corner(three);
    CHECK(corner.registered({}).fault == RunFault::none);
    CHECK(corner.registered(turned).fault == RunFault::wrongWayRound);
    // By the wedge at the leading edge, where all else is the same both ways.
    PrintedMarks even(schemeOf(MarkShape::dot));
    even.sheet.work = {{31, 24}, {129, 86}};
    even.sheet.marks = marksAround(even.sheet.work, schemeOf(MarkShape::dot));
    LeadScheme arrow;
    arrow.hasArrow = true;
    even.sheet.lead = leadMarks(arrow, {even.sheet.work, 10, 100, {}, even.sheet.marks}, {}).marks;
    REQUIRE(even.sheet.lead.size() == 1);
    even.print();
    CHECK(even.registered({}).fault == RunFault::none);
    CHECK(even.registered(turned).fault == RunFault::wrongWayRound);
}

TEST_CASE("pairs of marks follow a roll that runs to the side, section by section") {
    MarkScheme scheme = schemeOf(MarkShape::square);
    scheme.interval = 150;
    PrintedMarks print(scheme, 900, 120);
    REQUIRE(print.sheet.marks.size() == 14);
    PrintError error;
    error.bow = 0.6;
    error.stretchAlong = 0.004;
    error.shift = {1, -2};
    const Registration registration = print.registered(error);
    CHECK(registration.model == MapModel::sections);
    CHECK(registration.found() == 14);
    CHECK(print.mostOff(registration) < 0.1);
    // Without one of them its neighbours say where it would be; a map without sections is off by the bow.
    const Point lost = (*print.map)(print.sheet.marks[5].centre);
    const Registration without = print.registered(error, {{lost, 5, Blemish::Kind::torn}});
    CHECK(without.found() == 13);
    CHECK(print.mostOff(without) < 0.15);
}

TEST_CASE("of many marks those that disagree are dropped and named, whichever they are") {
    std::mt19937 random(82);
    std::uniform_real_distribution<double> share(-1, 1);
    for (int round = 0; round < rounds(200, 40); ++round) {
        const PrintMap map(
            {{2 * share(random), share(random)}, share(random), 0.005 * share(random), 0.005 * share(random)},
            {{0, 0}, {300, 200}});
        std::vector<MarkReading> readings;
        for (int i = 0; i < 9; ++i) {
            const Point place{20 + 130.0 * (i % 3), 20 + 80.0 * (i / 3)};
            readings.push_back(
                {i + 1, place, map(place) + Point{0.02 * share(random), 0.02 * share(random)}});
        }
        const auto wrong = std::size_t(random() % 9);
        const double angle = 3.1416 * share(random);
        *readings[wrong].found = *readings[wrong].found + Point{std::cos(angle), std::sin(angle)} * 0.8;
        const Registration registration = registrationOf(readings);
        REQUIRE(registration.dropped() == std::vector<int>{int(wrong) + 1});
        REQUIRE(registration.fault == RunFault::none);
        REQUIRE(distance(registration.map({150, 100}), map({150, 100})) < 0.04);
    }
}

TEST_CASE("of four marks one that is wrong is dropped, or the sheet is refused") {
    std::mt19937 random(83);
    std::uniform_real_distribution<double> share(-1, 1);
    int dropped = 0, refused = 0;
    for (int round = 0; round < rounds(300, 60); ++round) {
        const PrintMap map(
            {{2 * share(random), share(random)}, share(random), 0.005 * share(random), 0.005 * share(random)},
            {{0, 0}, {300, 200}});
        std::vector<MarkReading> readings;
        for (const Point place : {Point{20, 20}, Point{20, 180}, Point{280, 20}, Point{280, 180}})
            readings.push_back({int(readings.size()) + 1, place, map(place)});
        const auto wrong = std::size_t(random() % 4);
        const double angle = 3.1416 * share(random);
        *readings[wrong].found = *readings[wrong].found +
                                 Point{std::cos(angle), std::sin(angle)} * (1 + 8 * std::abs(share(random)));
        const Registration registration = registrationOf(readings);
        if (registration.fault != RunFault::none) {
            ++refused;
        } else {
            REQUIRE(registration.dropped() == std::vector<int>{int(wrong) + 1});
            ++dropped;
        }
    }
    CHECK(dropped > 0);
    CHECK(refused > 0);
}

TEST_CASE("two marks give a similarity, one or none at least no map that misleads") {
    const PrintMap map({{1, 2}, 0.5}, {{0, 0}, {300, 200}});
    std::vector<MarkReading> two{{1, {20, 20}, map({20, 20})}, {2, {280, 20}, map({280, 20})}};
    const Registration similar = registrationOf(two);
    CHECK(similar.model == MapModel::similarity);
    CHECK(similar.fault == RunFault::none);
    CHECK(distance(similar.map({150, 150}), map({150, 150})) < 1e-6);
    two[1].found.reset();
    CHECK(registrationOf(two).fault == RunFault::tooFewMarks);
    CHECK(registrationOf({}).model == MapModel::none);
    CHECK(registrationOf({}).map({3, 4}) == Point{3, 4});
}

TEST_CASE("the code of a sheet is read from the print, however it lies") {
    PrintedMarks print(schemeOf(MarkShape::dot));
    LeadScheme lead;
    for (const CodeKind kind : {CodeKind::dataMatrix, CodeKind::code128}) {
        lead.code = kind;
        print.sheet.work = {{46, 24}, {124, 86}};
        print.sheet.marks = marksAround(print.sheet.work, schemeOf(MarkShape::dot));
        print.sheet.lead =
            leadMarks(lead, {print.sheet.work, 8, 102, {}, print.sheet.marks}, "honey/3").marks;
        REQUIRE(print.sheet.lead.size() == 1);
        print.print();
        const PrintMap map({{1, -2}, 0.8, 0.004}, print.medium);
        const PrintedSheet printed(print.picture, map, {}, {}, 5);
        const Sensor sensor = simulatedSensor(printed);
        const Registration registration = registerSheet(print.sheet, 110, sensor);
        REQUIRE(registration.fault == RunFault::none);
        CHECK(codeRead(print.sheet, registration, sensor) == "honey/3");
        // Another sheet's program expects the code elsewhere along the edge.
        Sheet other = print.sheet;
        other.lead.front().box = other.lead.front().box.movedBy({0.5, -31});
        CHECK_FALSE(codeRead(other, registration, sensor));
        CHECK(codeAlongEdge(other, 110, sensor) == "honey/3");
        other.lead.front().box = other.lead.front().box.movedBy({60, 0}); // far from the edge
        CHECK_FALSE(codeAlongEdge(other, 110, sensor));
    }
    print.sheet.lead.clear();
    const PrintedSheet printed(print.picture, {{}, print.medium}, {}, {}, 5);
    CHECK_FALSE(codeRead(print.sheet, {}, simulatedSensor(printed)));
}

TEST_CASE("a medium that ends before the last marks is said to be too short") {
    PrintedMarks print(schemeOf(MarkShape::dot));
    print.picture->pixels = print.picture->pixels.firstColumns(int(110 * print.picture->pixelsPerMillimetre));
    CHECK(print.registered({}).fault == RunFault::mediumShort);
}
