#include "base/error.h"
#include "nesting/nest.h"
#include "nesting/nest_json.h"
#include "support/nest_checker.h"
#include "support/nest_setting.h"
#include "support/rounds.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <numbers>
#include <random>
#include <thread>

using namespace hasami;
using namespace hasami::nesting;
using hasami::test::faultOf;
using hasami::test::partOf;
using hasami::test::starOf;
using hasami::test::withIdlePoints;

namespace {

constexpr double pi = std::numbers::pi;

constexpr int instances = test::rounds(250, 25);

Loop box(double width, double height, Point at = {}) {
    return {at, at + Point{width, 0}, at + Point{width, height}, at + Point{0, height}};
}

Loop round(double radius, std::size_t points, Point centre = {}) {
    Loop loop;
    for (std::size_t i = 0; i < points; ++i) {
        const double angle = 2 * pi * double(i) / double(points);
        loop.push_back(centre + Point{std::cos(angle), std::sin(angle)} * radius);
    }
    return loop;
}

/// Cut from side to side, again and again, the largest piece first.
std::vector<Part> piecesOf(const Loop& whole, int count, std::mt19937& random) {
    std::uniform_real_distribution<double> within(0.35, 0.65), anyTurn(0, pi);
    std::vector<Loop> pieces{whole};
    while (int(pieces.size()) < count) {
        auto largest = std::max_element(pieces.begin(), pieces.end(), [](const Loop& a, const Loop& b) {
            return signedArea(a) < signedArea(b);
        });
        const Box around = bounds(*largest);
        const Point at =
            around.least + Point{around.width() * within(random), around.height() * within(random)};
        const double turn = anyTurn(random);
        const Point normal{std::cos(turn), std::sin(turn)};
        Loop halves[2];
        for (std::size_t i = 0; i < largest->size(); ++i) {
            const Point a = (*largest)[i], b = (*largest)[(i + 1) % largest->size()];
            const double depthA = dot(a - at, normal), depthB = dot(b - at, normal);
            halves[depthA > 0].push_back(a);
            if ((depthA > 0) != (depthB > 0))
                for (Loop& half : halves)
                    half.push_back(a + (b - a) * (depthA / (depthA - depthB)));
        }
        *largest = halves[0];
        pieces.push_back(halves[1]);
    }
    std::vector<Part> parts;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        parts.push_back(partOf("piece " + std::to_string(i), pieces[i]));
    return parts;
}

Problem onRoll(double width, double gap, std::vector<Part> parts, double margin = 0) {
    return {{width, {}}, margin, gap, std::move(parts)};
}

Effort moves(std::uint64_t count, std::uint64_t seed = 1, int threads = 1) {
    return {0, count, seed, threads};
}

Nest checked(const Problem& problem, const Effort& effort) {
    std::string published;
    const Nest made = nest(problem, effort, {}, [&](const Nest& better) {
        if (const std::string fault = faultOf(problem, better); !fault.empty())
            published = fault;
    });
    CHECK(published == "");
    CHECK(faultOf(problem, made) == "");
    return made;
}

std::string refusal(const Problem& problem) {
    try {
        nest(problem, moves(10));
    } catch (const InputError& error) {
        return error.what();
    }
    return {};
}

std::string jsonRefusal(const std::string& text) {
    try {
        problemFromJson(text);
    } catch (const InputError& error) {
        return error.what();
    }
    return {};
}

/// Any outline that does not cross itself: about a middle, at random distances.
Loop randomOutline(std::mt19937& random, double size) {
    std::uniform_real_distribution<double> part(0.25, 1);
    std::uniform_int_distribution<int> count(3, 14);
    Loop loop;
    const int points = count(random);
    for (int i = 0; i < points; ++i) {
        const double angle = 2 * pi * (i + 0.8 * part(random)) / points;
        loop.push_back(Point{std::cos(angle), std::sin(angle)} * (size * part(random)));
    }
    if (random() % 2)
        std::reverse(loop.begin(), loop.end());
    return loop;
}

Problem randomProblem(std::mt19937& random) {
    std::uniform_real_distribution<double> unit(0, 1);
    Problem problem;
    problem.media.width = 60 + 200 * unit(random);
    if (random() % 3 == 0)
        problem.media.length = 60 + 200 * unit(random);
    problem.margin = random() % 2 ? 6 * unit(random) : 0;
    problem.gap = random() % 3 ? 4 * unit(random) : 0;
    const std::size_t kinds = 1 + random() % 5;
    for (std::size_t i = 0; i < kinds; ++i) {
        Part part = partOf("part " + std::to_string(i), randomOutline(random, 5 + 40 * unit(random)),
                           int(random() % 7));
        if (random() % 4 == 0)
            for (Point& p : part.outline)
                p = p + Point{20'000, -15'000};
        switch (random() % 4) {
        case 0:
            part.rotations = {{0.0}};
            break;
        case 1:
            part.rotations = {{0.0, pi / 2, pi, 3 * pi / 2}};
            break;
        default:
            break;
        }
        part.mayMirror = random() % 3 == 0;
        if (random() % 4 == 0) {
            const Point middle = bounds(part.outline).centre();
            const Loop hole = round(2, 12, middle);
            if (std::all_of(hole.begin(), hole.end(), [&](Point p) { return contains(part.outline, p); }) &&
                std::none_of(part.outline.begin(), part.outline.end(),
                             [&](Point p) { return distance(p, middle) < 2.5; }))
                part.openings.push_back(hole);
        }
        if (i % 3 == 1)
            part.outline = withIdlePoints(part.outline, random);
        problem.parts.push_back(std::move(part));
    }
    if (random() % 4 == 0)
        problem.blocked.push_back({0, box(20, 15, {30 * unit(random), 30 * unit(random)})});
    return problem;
}

} // namespace

TEST_CASE("random instances of every kind are laid soundly, also what is published on the way") {
    std::mt19937 random(7);
    int refused = 0;
    for (int i = 0; i < instances; ++i) {
        const Problem problem = randomProblem(random);
        INFO("instance " << i);
        try {
            std::string published;
            const Nest made = nest(problem, moves(48, std::uint64_t(i)), {}, [&](const Nest& better) {
                if (const std::string fault = faultOf(problem, better); !fault.empty())
                    published = fault;
            });
            REQUIRE(published == "");
            REQUIRE(faultOf(problem, made) == "");
        } catch (const InputError&) {
            ++refused; // an outline that crosses itself after all, or its opening
        }
    }
    CHECK(refused < instances / 5);
}

TEST_CASE("what fits exactly is laid, and longer only where it has to be") {
    const Nest four = checked({{100, 100.0}, 0, 0, {partOf("square", box(50, 50), 4)}}, moves(40));
    CHECK(four.sheets == 1);
    CHECK(four.density == Approx(1).margin(1e-3));
    const Nest five = checked(onRoll(508, 2, {partOf("square", box(100, 100), 10)}), moves(40));
    CHECK(five.usedLength == Approx(202).margin(0.01));
    const Nest margins = checked(onRoll(70, 2, {partOf("box", box(30, 60), 2)}, 5), moves(40));
    CHECK(margins.usedLength == Approx(5 + 62 + 5).margin(0.01));
    Part whole = partOf("whole", box(100, 200));
    whole.rotations = {{0.0}};
    CHECK(checked({{200, 100.0}, 0, 0, {whole}}, moves(10)).density == Approx(1).margin(1e-4));
}

TEST_CASE("a part that fits only askew is laid askew, one that fits nowhere is told, the others are laid") {
    const Problem askew{
        {300, 300.0},
        0,
        0,
        {partOf("bar", box(400, 10)), partOf("beam", box(500, 10)), partOf("bit", box(10, 10), 3)}};
    const Nest made = checked(askew, moves(200));
    REQUIRE(made.notPlaced.size() == 1);
    CHECK(askew.parts[made.notPlaced[0].part].id == "beam");
    CHECK(made.notPlaced[0].copies == 1);
    CHECK(made.notPlaced[0].reason.find("larger than the medium") != std::string::npos);
    CHECK(made.placements.size() == 4);
}

TEST_CASE("small parts lie in the openings and bays of large ones") {
    Part ring = partOf("ring", round(50, 60));
    ring.openings.push_back(round(40, 60));
    const Nest one = checked(onRoll(104, 2, {ring}, 1), moves(10));
    const Nest both = checked(onRoll(104, 2, {ring, partOf("disc", round(30, 40))}, 1), moves(400));
    CHECK(both.usedLength == Approx(one.usedLength).margin(0.2)); // it may be turned
}

TEST_CASE("what is blocked and what is pinned is kept clear of") {
    Problem problem{{200, 200.0}, 2, 3, {partOf("square", box(40, 40), 6), partOf("disc", round(15, 30), 4)}};
    problem.blocked.push_back({0, box(100, 200)});
    problem.blocked.push_back({1, round(30, 20, {100, 100})});
    problem.pinned.push_back({0, 0, {150, 60, 0.3, false}});
    const Nest made = checked(problem, moves(600));
    CHECK(made.placements.size() == 10);
    CHECK(made.placements.front().pose == problem.pinned[0].pose);
    CHECK(made.placements.front().copy == 0);

    problem.pinned.push_back({1, 0, {160, 70, 0, false}});
    CHECK(refusal(problem).find("pinned copy of disc comes too close") != std::string::npos);
    problem.pinned.back().pose.x = 195;
    CHECK(refusal(problem).find("disc reaches out") != std::string::npos);
    problem.pinned.assign(7, {0, 0, {}});
    CHECK(refusal(problem).find("square is pinned more often") != std::string::npos);
}

TEST_CASE("what is pinned stays as it lies, also where its part may not lie so") {
    Problem problem =
        onRoll(300, 5, {partOf("hook", {{0, 0}, {40, 0}, {40, 10}, {10, 10}, {10, 30}, {0, 30}}, 5)});
    problem.parts[0].rotations = {{0.0}};
    problem.pinned.push_back({0, 0, {60, 60, 0, false}});
    problem.pinned.push_back({0, 0, {160, 90, 0.7, true}});
    const Nest made = checked(problem, moves(200));
    REQUIRE(made.placements.size() == 5);
    CHECK(made.placements[0].pose == problem.pinned[0].pose);
    CHECK(made.placements[1].pose == problem.pinned[1].pose);
}

TEST_CASE("any pins and blocked areas are kept to, or refused with a sentence") {
    std::mt19937 random(19);
    std::uniform_real_distribution<double> at(-20, 220), size(5, 40), turn(-7, 7);
    const auto chance = [&] { return random() % 2 == 0; };
    int laid = 0;
    for (int i = 0; i < 4 * instances; ++i) {
        Problem problem{{200, chance() ? std::optional(200.0) : std::nullopt}, chance() ? 0.0 : 3.0, 2, {}};
        for (const char* name : {"star", "box"}) {
            problem.parts.push_back(partOf(
                name, name[0] == 's' ? starOf(size(random), 5, 0.4) : box(size(random), size(random)), 3));
            problem.parts.back().mayMirror = chance();
            if (chance())
                problem.parts.back().rotations = {{0.0, pi / 2}};
        }
        for (int k = int(random() % 4); k > 0; --k)
            problem.pinned.push_back({random() % 2, 0, {at(random), at(random), turn(random), chance()}});
        for (int k = int(random() % 3); k > 0; --k)
            problem.blocked.push_back({0, box(size(random), size(random), {at(random), at(random)})});
        try {
            const Nest made = nest(problem, moves(10, unsigned(i)));
            CHECK(faultOf(problem, made) == "");
            ++laid;
        } catch (const InputError& error) {
            CHECK(std::string(error.what()).find("pinned") != std::string::npos);
        }
    }
    CHECK(laid > instances);
}

TEST_CASE("a pinned ring's opening is free") {
    Part ring = partOf("ring", round(50, 60));
    ring.openings.push_back(round(40, 60));
    Problem problem = onRoll(104, 2, {ring, partOf("disc", round(30, 40))}, 1);
    problem.pinned.push_back({0, 0, {52, 52, 0, false}});
    CHECK(checked(problem, moves(400)).usedLength == Approx(103).margin(0.2));
}

TEST_CASE("the same moves give the same layout with any number of threads, another seed another") {
    const Problem problem = onRoll(150, 1.5,
                                   {partOf("star", starOf(20, 5, 0.45), 7), partOf("box", box(30, 12), 5),
                                    partOf("disc", round(9, 24), 6)},
                                   2);
    const Nest one = checked(problem, moves(test::rounds(2000, 100), 3, 1));
    for (const int threads : {1, 2, 3, 8})
        CHECK(nest(problem, moves(test::rounds(2000, 100), 3, threads)).placements == one.placements);
    CHECK(nest(problem, moves(test::rounds(2000, 100), 4, 2)).placements != one.placements);
    const Nest rows = nest(problem, moves(1));
    CHECK(one.usedLength < rows.usedLength);
}

TEST_CASE("a search that is stopped gives its best, each one published was better than those before") {
    const Problem problem = onRoll(200, 2, {partOf("star", starOf(20, 5, 0.45), 30)});
    std::stop_source stop;
    double before = 1e300;
    bool isBetter = true;
    int published = 0;
    const Nest made = nest(problem, {600, {}, 1, 2}, stop.get_token(), [&](const Nest& better) {
        isBetter = isBetter && better.usedLength < before;
        before = better.usedLength;
        if (++published == 3)
            stop.request_stop();
    });
    CHECK(published >= 3);
    CHECK(isBetter);
    CHECK(made.usedLength == before);
    CHECK(faultOf(problem, made) == "");
    std::stop_source stopped;
    stopped.request_stop();
    CHECK(faultOf(problem, nest(problem, {600, {}, 1, 2}, stopped.get_token())) == "");
}

TEST_CASE("the pieces of a cut-up sheet are put together again, whatever way they are turned") {
    std::mt19937 random(11);
    for (int i = 0; i < test::rounds(12, 3); ++i) {
        const int kind = i % 3; // fixed, quarter turns, any
        std::vector<Part> parts = piecesOf(box(150, 100), 8 + i, random);
        for (Part& part : parts) {
            if (kind == 0)
                part.rotations = {0};
            if (kind == 1)
                part.rotations = {0, pi / 2, pi, -pi / 2};
            const double turn = kind == 0   ? 0
                                : kind == 1 ? double(random() % 4) * pi / 2
                                            : std::uniform_real_distribution<double>(-pi, pi)(random);
            const Affine map = Affine::rotation(turn);
            for (Point& p : part.outline)
                p = map(p);
        }
        INFO(i);
        const Nest made = checked(onRoll(100, 0, parts), moves(20000));
        CHECK(made.density > 0.9998);
        CHECK(made.usedLength < 150.01);
        // On a sheet that they fill.
        Problem sheet = onRoll(100, 0, parts);
        sheet.media.length = 150.0;
        CHECK(checked(sheet, moves(20000)).sheets == 1);
    }
}

TEST_CASE("pieces find together around what is pinned and what is blocked", "[long]") {
    std::mt19937 random(5);
    std::vector<Part> parts = piecesOf(box(150, 100), 14, random);
    for (Part& part : parts)
        part.rotations = {0};
    Problem problem = onRoll(100, 0, parts);
    problem.pinned = {{3, 0, {}}, {9, 0, {}}}; // where they were
    CHECK(checked(problem, moves(2000)).density > 0.9998);
    problem.pinned.clear();
    problem.blocked = {{0, parts[5].outline}};
    problem.parts.erase(problem.parts.begin() + 5);
    CHECK(checked(problem, moves(2000)).usedLength < 150.01);
}

TEST_CASE("many copies of one shape lie in lattices: squares fill the roll, pentagons come near theirs",
          "[long]") {
    const Nest squares = checked(onRoll(200, 0, {partOf("square", box(20, 20), 100)}), moves(100));
    CHECK(squares.density == Approx(1).margin(0.002));
    // The densest packing of regular pentagons is 0.9213; ends and sides of the roll take their share.
    const Nest pentagons = checked(onRoll(400, 0, {partOf("pentagon", round(15, 5), 200)}), moves(100));
    CHECK(pentagons.density > 0.81);
    CHECK(pentagons.density < 0.9213);
    // Half turns alone: triangles leave nothing between them.
    Part triangle = partOf("triangle", {{0, 0}, {30, 0}, {15, 26}}, 120);
    triangle.rotations = {{0.0, pi}};
    CHECK(checked(onRoll(313, 0, {triangle}), moves(100)).density > 0.9);
}

TEST_CASE("several sheets are filled one after the other, the last one least") {
    const Problem problem{
        {200, 150.0}, 3, 2, {partOf("star", starOf(30, 6, 0.6), 14), partOf("disc", round(20, 40), 10)}};
    const Nest made = checked(problem, moves(test::rounds(4000, 800)));
    const Nest start = nest(problem, moves(1));
    CHECK(
        (made.sheets < start.sheets || (made.sheets == start.sheets && made.usedLength <= start.usedLength)));
    std::vector<int> on(std::size_t(made.sheets), 0);
    for (const Placement& placement : made.placements)
        ++on[std::size_t(placement.sheet)];
    CHECK(std::find(on.begin(), on.end(), 0) == on.end());
}

TEST_CASE("nasty outlines are laid soundly or refused by name") {
    Loop repeated;
    for (const Point p : starOf(20, 5, 0.5)) {
        repeated.push_back(p);
        repeated.push_back(p);
        repeated.push_back(p);
    }
    Loop collinear;
    for (int i = 0; i < 40; ++i)
        collinear.push_back({double(i), 0});
    collinear.push_back({40, 30});
    collinear.push_back({0, 30});
    Loop wavy;
    for (int i = 0; i < 5000; ++i) {
        const double angle = 2 * pi * i / 5000;
        wavy.push_back(Point{std::cos(angle), std::sin(angle)} * (30 + 2 * std::sin(60 * angle)));
    }
    Loop far = starOf(20, 7, 0.7);
    for (Point& p : far)
        p = p + Point{20'000, 20'000};
    const Loop keyhole{{0, 0},   {40, 0},  {40, 40}, {0, 40},  {0, 20},  {10, 20},
                       {10, 30}, {30, 30}, {30, 10}, {10, 10}, {10, 20}, {0, 20}};
    const Problem all =
        onRoll(180, 1,
               {partOf("repeated", repeated, 3), partOf("collinear", collinear, 3), partOf("wavy", wavy, 2),
                partOf("far", far, 3), partOf("sliver", {{0, 0}, {60, 0.002}, {60, 0}}, 2),
                partOf("none", box(5, 5), 0), partOf("keyhole", keyhole, 2)});
    CHECK(checked(all, moves(300)).placements.size() == 15);

    // An end that is the start again takes no corner away, wherever the outline starts.
    for (int from = 0; from < 4; ++from) {
        Loop closed = box(20, 30);
        std::rotate(closed.begin(), closed.begin() + from, closed.end());
        closed.push_back(closed.front());
        const Nest boxes = checked(onRoll(100, 0, {partOf("closed", closed, 10)}), moves(60));
        CHECK(boxes.usedLength == Approx(60).margin(0.02));
        CHECK(boxes.density == Approx(1).margin(1e-3));
    }

    CHECK(refusal(onRoll(100, 0, {partOf("bow", {{0, 0}, {20, 20}, {20, 0}, {0, 20}})}))
              .find("bow crosses itself") != std::string::npos);
    CHECK(refusal(onRoll(100, 0, {partOf("flat", {{0, 0}, {20, 0}, {10, 0}})})).find("flat has no area") !=
          std::string::npos);
    CHECK(refusal(onRoll(100, 0, {partOf("thorn", {{0, 0}, {20, 0}, {40, 0}, {20, 0}, {20, 20}})}))
              .find("thorn has a spike") != std::string::npos);
    Part holed = partOf("holed", box(20, 20));
    holed.openings.push_back(box(10, 10, {15, 5}));
    CHECK(refusal(onRoll(100, 0, {holed})).find("opening of holed") != std::string::npos);
    holed.openings = {box(10, 10, {5, 5}), box(4, 4, {7, 7})};
    CHECK(refusal(onRoll(100, 0, {holed})).find("opening of holed") != std::string::npos);
}

TEST_CASE("JSON is read and answered as docs/nest.md says, and refused by the place and the part") {
    const std::string good = R"({"units":"mm","media":{"width":100,"length":null},"margin":1,"gap":2,
        "parts":[{"id":"bee","copies":2,"rotations":[0,90],"mirror":true,"outline":[[0,0],[30,0],[30,20]],"holes":[]},
                 {"id":"ant","copies":1,"rotations":"any","mirror":false,"outline":[[0,0],[9,0],[9,9]],"holes":[[[5,2],[7,2],[7,4]]]}],
        "blocked":[{"sheet":0,"outline":[[0,0],[5,0],[5,5]]}],
        "pinned":[{"id":"ant","sheet":0,"x":50,"y":50,"rotation":45,"mirror":false}]})";
    const Problem problem = problemFromJson(good);
    REQUIRE(problem.parts.size() == 2);
    CHECK(problem.parts[0].rotations->at(1) == Approx(pi / 2));
    CHECK_FALSE(problem.parts[1].rotations.has_value());
    CHECK(problem.parts[1].openings.size() == 1);
    CHECK(problem.pinned.at(0).pose.rotation == Approx(pi / 4));
    const Nest made = checked(problem, moves(50));
    const auto answer = nlohmann::json::parse(nestToJson(problem, made, 1.5));
    CHECK(answer["placements"].size() == 3);
    CHECK(answer["seconds"] == 1.5);
    CHECK(answer["used_length"].get<double>() == Approx(made.usedLength).margin(1e-5));
    CHECK(answer["unplaced"].empty());

    const auto with = [&](const std::string& pointer, const nlohmann::json& value) {
        nlohmann::json changed = nlohmann::json::parse(good);
        changed[nlohmann::json::json_pointer(pointer)] = value;
        return jsonRefusal(changed.dump());
    };
    CHECK(with("/gap", -1).find("gap must be a number") != std::string::npos);
    CHECK(with("/margin", 50).find("margin") != std::string::npos);
    CHECK(with("/media/width", 0).find("media.width") != std::string::npos);
    CHECK(with("/parts/0/copies", -3).find("bee: parts[0].copies") != std::string::npos);
    CHECK(with("/parts/0/copies", 100'000).find("bee: ") != std::string::npos);
    CHECK(with("/parts/0/outline", nlohmann::json::array({{0, 0}, {1, 1}}))
              .find("bee: parts[0].outline has fewer") != std::string::npos);
    CHECK(with("/parts/0/outline/0/0", nullptr).find("bee: parts[0].outline[0][0]") != std::string::npos);
    CHECK(with("/parts/0/rotations", nlohmann::json::array()).find("bee: ") != std::string::npos);
    CHECK(with("/parts/0/rotations", "some").find("bee: ") != std::string::npos);
    CHECK(with("/parts/1/id", "bee").find("two parts are called \"bee\"") != std::string::npos);
    CHECK(with("/pinned/0/id", "wasp").find("wasp") != std::string::npos);
    CHECK(with("/pinned/0/sheet", 1).find("a roll has one sheet") != std::string::npos);
    CHECK(with("/units", "inch").find("\"mm\"") != std::string::npos);
    CHECK(jsonRefusal("{\"media\":{\"width\":NaN}}").find("byte") != std::string::npos);
}
