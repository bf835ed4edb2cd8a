#include "edge/find_edge.h"
#include "geometry/curve_lengths.h"
#include "sticker/tabs.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <numeric>

using namespace hasami;
using namespace hasami::test;

namespace {

Curve circle(double radius) {
    return shapeAround({{-1, -1}, {1, 1}}, {PlainShapeKind::circle, 0, 0, 6, true, 2 * radius, 2 * radius});
}

Curve box(double width, double height) {
    return shapeAround({{0, 0}, {width, height}}, {PlainShapeKind::box, 0});
}

double lengthOf(const Subpath& run) {
    return hasami::lengthOf(run.start, run.segments);
}

TabRule byCount(int count, double length = 1) {
    TabRule rule;
    rule.count = count;
    rule.length = length;
    return rule;
}

const Box artwork{{0, 0}, {100, 100}};

/// A square whose sides are teeth.
Curve sawtooth(double side, double tooth) {
    Loop loop;
    for (int edge = 0; edge < 4; ++edge)
        for (int k = 0; k * tooth < side; ++k) {
            const double turn = edge * std::numbers::pi / 2, x = k * tooth - side / 2,
                         y = (k % 2 == 1 ? tooth : 0) - side / 2;
            loop.push_back(
                {x * std::cos(turn) - y * std::sin(turn), x * std::sin(turn) + y * std::cos(turn)});
        }
    return polygonOf(loop);
}

/// Whole periods all along the line, each tab within half a period of its place, apart from its neighbours.
void checkPattern(const std::vector<Tab>& tabs, double whole, const TabRule& rule) {
    CHECK(double(tabs.size()) == std::max(std::round(whole / (rule.cut + rule.length)), 3.0));
    const double period = whole / double(tabs.size());
    double before = -period;
    for (const Tab& tab : tabs) {
        CHECK(tab.from > before);
        CHECK(tab.from < before + 2 * period);
        CHECK(tab.to - tab.from == Approx(rule.length));
        before = tab.to;
    }
    CHECK(tabs.front().from >= -1e-9);
    CHECK(tabs.back().to <= whole + 1e-9);
}

} // namespace

TEST_CASE("lengths along a curve lead to its places and back") {
    const Curve round = circle(10);
    const CurveLengths lengths(round);
    CHECK(lengths.whole() == Approx(20 * std::numbers::pi).epsilon(1e-4));
    for (double s = 0; s < lengths.whole(); s += 1.7) {
        const CurvePlace place = lengths.placeAt(s);
        CHECK(lengths.lengthAt(place) == Approx(s).margin(1e-9));
        CHECK(length(pointAt(round, place)) == Approx(10).margin(1e-3));
    }
    CHECK(distance(pointAt(round, lengths.placeAt(-3)),
                   pointAt(round, lengths.placeAt(lengths.whole() - 3))) < 1e-9);
}

TEST_CASE("tabs by count lie evenly around a circle, as long as asked for, clear of its start") {
    const int count = GENERATE(3, 4, 5, 12);
    const std::vector<Curve> lines{circle(20)};
    const auto tabs = placeTabs(lines, byCount(count, 0.8), artwork);
    REQUIRE(tabs[0].size() == std::size_t(count));
    const double whole = CurveLengths(lines[0]).whole();
    const auto cuts = betweenTabs(lines[0], tabs[0]);
    REQUIRE(cuts.size() == std::size_t(count));
    double sum = 0;
    for (const Subpath& cut : cuts) {
        CHECK_FALSE(cut.isClosed);
        CHECK(lengthOf(cut) == Approx(whole / count - 0.8).margin(0.11)); // evenly, to a look's width
        sum += lengthOf(cut);
    }
    CHECK(sum == Approx(whole - count * 0.8).epsilon(1e-4));
    for (const Tab& tab : tabs[0]) {
        CHECK(tab.to - tab.from == Approx(0.8));
        CHECK(tab.from > 0.3);
        CHECK(tab.to < whole - 0.3);
    }
}

TEST_CASE("fewer than three tabs are never asked of a sticker") {
    const std::vector<Curve> lines{circle(20)};
    CHECK(placeTabs(lines, byCount(1), artwork)[0].size() == 3);
}

TEST_CASE("tabs keep off corners, whatever their count") {
    const int count = GENERATE(3, 4, 5, 7, 8, 16);
    const std::vector<Curve> lines{box(40, 24)};
    const auto tabs = placeTabs(lines, byCount(count), artwork);
    REQUIRE(tabs[0].size() == std::size_t(count));
    for (const Subpath& tab : tabStretches(lines[0], tabs[0])) {
        CHECK(tab.segments.size() == 1); // it bends round no corner
        for (const Point end : {tab.start, tab.segments.back().end})
            for (const Point corner : {Point{0, 0}, Point{40, 0}, Point{40, 24}, Point{0, 24}})
                CHECK(distance(end, corner) > 0.3);
    }
}

TEST_CASE("a pattern goes round in whole periods near to those asked for") {
    TabRule rule;
    rule.way = TabRule::Way::pattern;
    rule.cut = 6;
    rule.length = 0.5;
    const std::vector<Curve> lines{circle(15), reversed(circle(4))};
    const auto tabs = placeTabs(lines, rule, artwork);
    CHECK(tabs[0].size() == 14); // 94.2 / 6.5 = 14.5, to the nearest: 14 or 15
    for (const Subpath& cut : betweenTabs(lines[0], tabs[0]))
        CHECK(lengthOf(cut) == Approx(6).margin(0.4));
    CHECK(tabs[1].size() == 4); // 25.1 / 6.5 = 3.9
}

TEST_CASE("tabs stay on lines that are corners all over, by pattern and by number") {
    for (const double tooth : {0.3, 0.5, 1.0})
        for (const auto& [cut, length] :
             {std::pair(3.0, 2.0), std::pair(0.5, 0.5), std::pair(0.3, 0.3), std::pair(8.0, 0.8)}) {
            INFO("teeth of " << tooth << ", cut " << cut << ", left " << length);
            TabRule rule = byCount(8, length);
            const std::vector<Curve> lines{sawtooth(15, tooth), box(15, 15)};
            const std::vector<double> whole{CurveLengths(lines[0]).whole(), CurveLengths(lines[1]).whole()};
            rule.way = TabRule::Way::pattern;
            rule.cut = cut;
            const auto tabs = placeTabs(lines, rule, artwork);
            checkPattern(tabs[0], whole[0], rule);
            checkPattern(tabs[1], whole[1], rule);
            rule.way = TabRule::Way::count;
            const auto byNumber = placeTabs(lines, rule, artwork);
            CHECK(byNumber[0].size() == 8);
            CHECK(whyLoose(byNumber, tabsAskedFor(lines, rule)).has_value() == (byNumber[1].size() < 8));
        }
}

TEST_CASE("each piece that comes loose has its tabs, and each opening as close ones, three at least") {
    const std::vector<Curve> lines{circle(20), circle(10), circle(2), reversed(circle(12)),
                                   reversed(circle(2))};
    const auto tabs = placeTabs(lines, byCount(10, 0.5), artwork);
    CHECK(tabs[0].size() == 10);
    CHECK(tabs[1].size() == 10);
    CHECK(tabs[2].size() == 6); // 12.6 mm, of which 3 are left
    CHECK(tabs[3].size() == 6);
    CHECK(tabs[4].size() == 3);
    for (const auto& on : placeTabs(lines, byCount(1, 0.5), artwork))
        CHECK(on.size() == 3);
    const std::vector<int> asked = tabsAskedFor(lines, byCount(10, 0.5));
    CHECK(asked == std::vector<int>{10, 10, 10, 6, 3});
    CHECK(whyLoose(tabs, asked)->find("room for 6 of its 10 tabs") != std::string::npos);
    CHECK_FALSE(whyLoose(std::span(tabs).first(2), asked));
    CHECK(whyLoose(std::vector{tabs[0], std::vector<Tab>(tabs[1].begin(), tabs[1].begin() + 2)}, asked)
              ->starts_with("Fewer than three"));
}

TEST_CASE("what is too short for its tabs has as many as it can hold") {
    const std::vector<Curve> lines{circle(1)}; // 6.28 long
    const auto tabs = placeTabs(lines, byCount(9, 1), artwork);
    CHECK(tabs[0].size() >= 3);
    CHECK(tabs[0].size() <= 4);
    CHECK(placeTabs(lines, byCount(3, 10), artwork)[0].empty());
    for (std::size_t i = 0; i + 1 < tabs[0].size(); ++i)
        CHECK(tabs[0][i].to < tabs[0][i + 1].from);
}

TEST_CASE("tabs put by hand stay on the line when it moves, and follow the artwork's size") {
    TabRule rule = byCount(4, 1);
    const std::vector<Curve> small{circle(20)}, large{circle(44)};
    const auto tabs = placeTabs(small, rule, {{-20, -20}, {20, 20}});
    rule = asByHand(small, tabs, rule, {{-20, -20}, {20, 20}});
    REQUIRE(rule.places.size() == 4);
    rule.places.erase(rule.places.begin());
    const auto again = placeTabs(small, rule, {{-20, -20}, {20, 20}});
    REQUIRE(again[0].size() == 3);
    CHECK(again[0][0].from == Approx(tabs[0][1].from).margin(1e-3));
    const auto scaled = placeTabs(large, rule, {{-40, -40}, {40, 40}}); // twice as large, 4 mm farther out
    REQUIRE(scaled[0].size() == 3);
    CHECK((scaled[0][0].from + scaled[0][0].to) / 2 / 44 ==
          Approx((again[0][0].from + again[0][0].to) / 2 / 20).margin(1e-3));
}

TEST_CASE("cuts and tabs of random outlines make up the whole line, and never overlap") {
    std::mt19937 random(7);
    for (int round = 0; round < 25; ++round) {
        const Loop blob = randomBlob(random, {50, 50}, 10 + round);
        Curve line{blob.front(), {}};
        for (std::size_t i = 0; i < blob.size(); ++i)
            line.segments.push_back(straightSegment(blob[i], blob[(i + 1) % blob.size()]));
        const std::vector<Curve> lines{line};
        const auto tabs = placeTabs(lines, byCount(3 + round), artwork);
        CHECK(tabs[0].size() == std::size_t(3 + round));
        double sum = 0;
        for (const auto& runs : {betweenTabs(line, tabs[0]), tabStretches(line, tabs[0])})
            for (const Subpath& run : runs)
                sum += lengthOf(run);
        CHECK(sum == Approx(perimeter(blob)).epsilon(1e-6));
        for (std::size_t i = 0; i + 1 < tabs[0].size(); ++i)
            CHECK(tabs[0][i].to < tabs[0][i + 1].from);
    }
}
