#include "geometry/affine.h"
#include "geometry/find_arcs.h"
#include "geometry/fit_curves.h"
#include "geometry/region_operations.h"
#include "geometry/scatter.h"
#include "support/shapes.h"

#include <catch2/catch.hpp>

#include <array>
#include <numbers>
#include <random>

using namespace hasami;

namespace {

constexpr double pi = std::numbers::pi;

/// Points along a circle's arc.
void addArc(Loop& loop, Point centre, double radius, double from, double to, int count) {
    for (int i = 0; i < count; ++i) {
        const double angle = from + (to - from) * i / count;
        loop.push_back(centre + Point{std::cos(angle), std::sin(angle)} * radius);
    }
}

void scatter(Loop& loop, double by, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> off(0, by);
    for (Point& p : loop)
        p = p + Point{off(random), off(random)};
}

double radiusOf(Point from, const CurveSegment& arc) {
    return distance(from, arc.end) / 2 * (1 + arc.bulge * arc.bulge) / (2 * std::abs(arc.bulge));
}

struct Jumps {
    double largestSmooth = 0; ///< degrees, where it is no corner
    int corners = 0;
};

/// How much the direction jumps at the curve's nodes.
Jumps jumpsOf(const Curve& curve) {
    Jumps jumps;
    const std::size_t n = curve.segments.size();
    for (std::size_t i = 0; i < n; ++i) {
        const CurveSegment &in = curve.segments[i], &out = curve.segments[(i + 1) % n];
        const Point before = in.end - in.control2, behind = out.control1 - in.end;
        const double jump = std::abs(std::atan2(cross(before, behind), dot(before, behind))) * 180 / pi;
        if (jump > 15)
            ++jumps.corners;
        else
            jumps.largestSmooth = std::max(jumps.largestSmooth, jump);
    }
    return jumps;
}

} // namespace

TEST_CASE("a circle is told by arcs of its radius, exact points or scattered ones") {
    const double scattered = GENERATE(0.0, 0.005, 0.02);
    Loop loop;
    addArc(loop, {300, 200}, 12, 0.3, 0.3 + 2 * pi, 240);
    scatter(loop, scattered, 4);
    const Curve curve = fitCurve(loop, {0.02, scattered, 0.1});
    REQUIRE(curve.points() == 6);
    Point from = curve.start;
    for (const CurveSegment& s : curve.segments) {
        CHECK(s.isArc());
        CHECK(radiusOf(from, s) == Approx(12).margin(0.005 + scattered));
        from = s.end;
    }
    CHECK(jumpsOf(curve).largestSmooth < 0.01);
    for (const Point p : flatten(curve, 0.0005))
        CHECK(std::abs(distance(p, {300, 200}) - 12) < 0.005 + scattered);
}

TEST_CASE("a slot has an arc at either end, and its sides run into them smoothly") {
    Loop loop;
    addArc(loop, {30, 0}, 5, -pi / 2, pi / 2, 60);
    for (int i = 0; i < 120; ++i)
        loop.push_back({30 - i * 0.25, 5});
    addArc(loop, {0, 0}, 5, pi / 2, 3 * pi / 2, 60);
    for (int i = 0; i < 120; ++i)
        loop.push_back({i * 0.25, -5});
    scatter(loop, 0.002, 8);
    const Curve curve = fitCurve(loop, {0.01, 0.002, 0.25});
    std::size_t arcs = 0;
    Point from = curve.start;
    for (const CurveSegment& s : curve.segments) {
        if (s.isArc()) {
            ++arcs;
            CHECK(radiusOf(from, s) == Approx(5).margin(0.02));
        }
        from = s.end;
    }
    CHECK(arcs >= 6);            // two half circles
    CHECK(curve.points() <= 10); // six of arcs, two sides
    CHECK(jumpsOf(curve).corners == 0);
    CHECK(jumpsOf(curve).largestSmooth < 0.5);
}

TEST_CASE("an offset's round corners are arcs of the offset's radius") {
    const Region moved = offset({{{{0, 0}, {40, 0}, {40, 30}, {0, 30}}}}, 4);
    const Curve curve = fitCurve(moved.loops.at(0), {0.01, 0, 0.02});
    std::size_t arcs = 0;
    Point from = curve.start;
    for (const CurveSegment& s : curve.segments) {
        if (s.isArc()) {
            ++arcs;
            CHECK(radiusOf(from, s) == Approx(4).margin(0.01));
        }
        from = s.end;
    }
    CHECK(arcs >= 4);
}

TEST_CASE("between the points of an exact outline, too, the curve lies within the tolerance") {
    constexpr double tolerance = 0.015;
    for (const double side : {0.5, 0.7, 0.9, 1.0, 1.1, 1.4}) {
        CAPTURE(side);
        Loop loop{{-4, 0}};
        addArc(loop, {}, 2, -pi, -0.2, 24); // chords of a quarter of a millimetre, and then a longer side
        const Point end{2 * std::cos(-0.2), 2 * std::sin(-0.2)};
        loop.push_back(end);
        loop.push_back(end + Point{0.3 * side, side});
        loop.push_back({4, 3});
        const Curve curve = fitCurve(loop, {tolerance, 0, 2 * tolerance});
        CHECK(test::farthestFrom(flatten(curve, 1e-4), loop) < tolerance + flatteningTolerance);
    }
}

TEST_CASE("a corner between exact arcs stays where it is") {
    for (const double radius : {0.15, 0.3, 2.0}) {
        CAPTURE(radius);
        Loop loop; // two bows that meet in a notch at 0, 0
        addArc(loop, {-radius, 0}, radius, -pi, 0, 40);
        loop.push_back({0, 0});
        addArc(loop, {radius, 0}, radius, -pi, 0, 40);
        loop.push_back({2 * radius, 0});
        loop.push_back({2 * radius, 8});
        loop.push_back({-2 * radius, 8});
        const Curve curve = fitCurve(loop, {0.015, 0, 0.03});
        double nearest = 1;
        for (const CurveSegment& s : curve.segments)
            nearest = std::min(nearest, length(s.end));
        CHECK(nearest < 1e-9);
    }
}

TEST_CASE("a polygon of many sides is no circle") {
    Loop loop;
    addArc(loop, {}, 10, 0, 2 * pi, 16);
    const Curve curve = fitCurve(loop, {0.005, 0, 0.02});
    CHECK(test::farthestFrom(flatten(curve, 1e-4), loop) < 0.005 + flatteningTolerance);
    CHECK(curve.points() <= 32);
}

TEST_CASE("a free curve is no row of arcs") {
    Loop loop;
    for (int i = 0; i < 400; ++i) {
        const double t = 2 * pi * i / 400;
        loop.push_back({20 * std::cos(t), 11 * std::sin(t)});
    }
    const Curve curve = fitCurve(loop, {0.01, 0.001, 0.08});
    CHECK(curve.points() <= 12);
    CHECK(std::none_of(curve.segments.begin(), curve.segments.end(),
                       [](const CurveSegment& s) { return s.isArc(); }));
}

TEST_CASE("corners of straight sides are put where the sides meet, though what is near them is blunted") {
    Loop loop;
    const Point corners[] = {{0, 0}, {20, 3}, {17, 23}, {-3, 20}};
    for (int side = 0; side < 4; ++side)
        for (int i = 1; i < 200; ++i) // 0.08 mm, most of a pixel, is missing at each corner
            if (const Point p = between(corners[side], corners[(side + 1) % 4], i / 200.0);
                distance(p, corners[side]) > 0.08 && distance(p, corners[(side + 1) % 4]) > 0.08)
                loop.push_back(p);
    scatter(loop, 0.002, 2);
    const Curve curve = fitCurve(loop, {0.01, 0.002, 0.1});
    REQUIRE(curve.points() == 4);
    for (const CurveSegment& s : curve.segments) {
        CHECK(s.straight);
        double nearest = 100;
        for (const Point corner : corners)
            nearest = std::min(nearest, distance(corner, s.end));
        CHECK(nearest < 0.003);
    }
}

TEST_CASE("the direction does not jump where there is no corner") {
    std::mt19937 random(17);
    for (int round = 0; round < 40; ++round) {
        Loop blob = test::randomBlob(random, {50, 50}, 25);
        scatter(blob, 0.003, unsigned(round));
        const Curve curve = fitCurve(blob, {0.01, 0.003, 0.1});
        CHECK(jumpsOf(curve).largestSmooth < 0.5);
        const Curve moved = fitCurve(offset({{blob}}, 2).loops.at(0), {0.01, 0, 0.02});
        CHECK(jumpsOf(moved).largestSmooth < 0.5);
    }
}

TEST_CASE("an open path keeps its ends and its corners") {
    std::vector<Point> path;
    for (int i = 0; i <= 100; ++i)
        path.push_back({i * 0.1, 0});
    for (int i = 1; i <= 100; ++i)
        path.push_back({10, i * 0.1});
    const auto pieces = fitPath(path, {0.01, 0.001, 0.1});
    REQUIRE(pieces.size() == 2);
    CHECK(pieces[0].straight);
    CHECK(distance(pieces[0].end, {10, 0}) < 0.01);
    CHECK(pieces[1].end == Point{10, 10});
}

TEST_CASE("arcs stay arcs when a curve is turned, moved, mirrored or run backwards, and no other way") {
    const Curve circle{{5, 0}, circlePieces({5, 0}, {0, 0}, true)};
    CHECK(circle.segments[0].bulge == Approx(std::tan(pi / 12)));
    CHECK(signedArea(flatten(circle, 0.0001)) == Approx(pi * 25).epsilon(1e-4));
    CHECK(reversed(circle).segments[0].bulge == Approx(-std::tan(pi / 12)));
    CHECK(map(circle, Affine{0, 1, -1, 0, 3, 4}).segments[0].bulge == Approx(std::tan(pi / 12)));
    CHECK(map(circle, Affine{-1, 0, 0, 1, 0, 0}).segments[0].bulge == Approx(-std::tan(pi / 12)));
    CHECK_FALSE(map(circle, Affine::scaling(1, 2)).segments[0].isArc());
}

TEST_CASE("a corner between curved sides is kept, a tight bend is none") {
    const auto fitted = [](const Loop& loop) {
        FitOptions options;
        options.tolerance = 0.1;
        options.detail = 1;
        options.scatter = 0.02;
        return jumpsOf(fitCurve(loop, options));
    };
    for (const double radius : {15.0, 40.0}) {
        Loop lens; // two arcs that meet under a right angle
        addArc(lens, {0, radius / std::sqrt(2)}, radius, -pi * 3 / 4, -pi / 4, int(radius * 3));
        addArc(lens, {0, -radius / std::sqrt(2)}, radius, pi / 4, pi * 3 / 4, int(radius * 3));
        INFO(radius);
        CHECK(fitted(lens).corners == 2);
    }
    Loop bar;
    addArc(bar, {0, 0}, 2.5, pi / 2, pi * 3 / 2, 16);
    for (double x = 0; x < 40; x += 0.5)
        bar.push_back({x, -2.5});
    addArc(bar, {40, 0}, 2.5, -pi / 2, pi / 2, 16);
    for (double x = 40; x > 0; x -= 0.5)
        bar.push_back({x, 2.5});
    CHECK(fitted(bar).corners == 0);
}

TEST_CASE("how far a loop scatters is told from itself: not by its bends, its corners or its flat runs") {
    const auto loopOf = [](double noise, auto&& at) {
        std::mt19937 random(4);
        std::normal_distribution<double> off(0, noise > 0 ? noise : 1);
        Loop loop;
        for (int i = 0; i < 600; ++i) {
            const Point p = at(i / 600.0);
            loop.push_back(noise > 0 ? p + Point{off(random), off(random)} : p);
        }
        return loop;
    };
    const auto onCircle = [](double t) {
        return Point{80 * std::cos(2 * std::numbers::pi * t), 80 * std::sin(2 * std::numbers::pi * t)};
    };
    const auto onSquare = [](double t) { // in 600 points of 1 each, turned
        const double s = 4 * t, along = 150 * (s - std::floor(s));
        const std::array<Point, 4> at{{{along, 0}, {150, along}, {150 - along, 150}, {0, 150 - along}}};
        return Affine::rotation(0.3)(at[std::size_t(s) % 4]);
    };
    CHECK(scatterOf(loopOf(0, onCircle), true, 1).value() < 0.01);
    CHECK(scatterOf(loopOf(0, onSquare), true, 1).value() < 0.01);
    for (const double noise : {0.05, 0.1, 0.2}) {
        CHECK(scatterOf(loopOf(noise, onCircle), true, 1).value() == Approx(noise).epsilon(0.25));
        CHECK(scatterOf(loopOf(noise, onSquare), true, 1).value() == Approx(noise).epsilon(0.25));
    }
    Loop partly = loopOf(0.1, onSquare); // seen on one side alone
    const Loop flat = loopOf(0, onSquare);
    std::copy(flat.begin() + 150, flat.end(), partly.begin() + 150);
    CHECK(scatterOf(partly, true, 1).value() == Approx(0.1).epsilon(0.3));
    // An open stretch of it as well, its ends no corner.
    const Loop noisy = loopOf(0.1, onSquare);
    CHECK(scatterOf(std::span(noisy).first(noisy.size() / 2), false, 1).value() == Approx(0.1).epsilon(0.3));
    CHECK(scatterOf(std::span(flat).first(flat.size() / 2), false, 1).value() < 0.01);
    CHECK_FALSE(scatterOf(
        loopOf(
            0,
            [](double t) {
                return Point{3 * std::cos(2 * std::numbers::pi * t), 3 * std::sin(2 * std::numbers::pi * t)};
            }),
        true, 1));
}

TEST_CASE("an arc that goes far round keeps its radius where its ends scatter") {
    std::mt19937 random(9);
    std::normal_distribution<double> off(0, 0.15);
    Loop loop;
    for (int i = 0; i < 100; ++i) {
        const double angle = 2 * std::numbers::pi * i / 100;
        loop.push_back({12.4 * std::cos(angle) + off(random), 12.4 * std::sin(angle) + off(random)});
    }
    std::size_t checked = 0;
    for (const Point p : flatten(fitCurve(loop, {0.1, 0.18, 1}), 0.01))
        if (p.x < 6) { // away from where it begins and ends
            CHECK(length(p) == Approx(12.4).margin(0.2));
            ++checked;
        }
    CHECK(checked > 50);
}
