#include "base/error.h"
#include "checks/sticker_costs.h"
#include "support/shapes.h"
#include "workshop/route_sheet.h"

#include <catch2/catch.hpp>

using namespace hasami;
using namespace hasami::test;

namespace {

/// A job of one design, the letter F of 8 by 12 mm with its line 2 mm around it.
struct Made1 {
    explicit Made1(int count) {
        auto asset = std::make_shared<Asset>();
        asset->sha256 = std::string(64, 'a');
        asset->name = "f.png";
        addDesign(job, {asset, 60, 80, 5}).count = count;
        job.plan.medium.width = 100;
    }
    Made make() {
        return makeAll(
            job, 1,
            [](const Asset&, const PictureWish&, const std::stop_token&) {
                return std::make_shared<const Picture>(
                    pictureOf(drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); })));
            },
            cache);
    }
    Job job;
    Cache cache;
};

} // namespace

TEST_CASE("what a layout takes: length, area, money, and what is saved against plain rows") {
    Made1 f(24);
    f.job.plan.medium.price = 8;
    const Made rows = f.make();
    const LayoutCosts plain = layoutCosts(f.job, rows, rows.layout);
    CHECK(plain.usedLength == Approx(rows.layout.usedLength()));
    CHECK(plain.area == Approx(100 * plain.usedLength));
    CHECK(plain.savedLength == Approx(0).margin(1e-9));
    CHECK(plain.money.value() == Approx(8 * plain.usedLength / 1000));
    CHECK(plain.savedMoney.value() == Approx(0).margin(1e-9));
    CHECK(plain.leftOver == 0);

    f.job.plan.rows.most = 2; // needlessly long
    const Made few = f.make();
    const LayoutCosts costs = layoutCosts(f.job, few, few.layout);
    CHECK(costs.plainLength == Approx(plain.usedLength));
    CHECK(costs.savedLength == Approx(plain.usedLength - few.layout.usedLength()));
    CHECK(costs.savedLength < 0);
    CHECK(costs.savedShare == Approx(costs.savedLength / plain.usedLength));
    CHECK(costs.density == Approx(plain.density * plain.usedLength / costs.usedLength));
}

TEST_CASE("sheets cost whole, and what is left of the last one is told") {
    Made1 f(60);
    f.job.plan.medium = sheetOf(100, 150);
    f.job.plan.medium.price = 0.5;
    const Made made = f.make();
    const std::size_t sheets = made.layout.sheets.size();
    REQUIRE(sheets > 1);
    const LayoutCosts costs = layoutCosts(f.job, made, made.layout);
    CHECK(costs.money.value() == Approx(0.5 * double(sheets)));
    CHECK(costs.leftOver == Approx(150 - made.layout.sheets.back().usedLength));
    CHECK(costs.usedLength == Approx(150.0 * double(sheets - 1) + made.layout.sheets.back().usedLength));
}

TEST_CASE("one more costs a row where the last is full, and nothing where there is room in it") {
    Made1 f(1);
    const Made one = f.make();
    const Box box = one.designs[0].sticker->footprint;
    const int inRow = int((100 - 2 * (one.layout.sheets[0].work.least.y) + 3) / (box.height() + 3));
    REQUIRE(inRow > 1);
    CHECK(oneMore(f.job, one, f.job.designs[0].id).value().length == Approx(0).margin(1e-9));
    f.job.designs[0].count = inRow;
    f.job.plan.medium.price = 10;
    const OneMore next = oneMore(f.job, f.make(), f.job.designs[0].id).value();
    CHECK(next.length == Approx(box.width() + 3));
    CHECK(next.money.value() == Approx(10 * next.length / 1000));
    CHECK_FALSE(oneMore(f.job, f.make(), "nobody"));
    f.job.designs[0].fills = true;
    CHECK_FALSE(oneMore(f.job, f.make(), f.job.designs[0].id));
}

TEST_CASE("time and lengths are those of the program: passes, overcuts and the return to the origin") {
    Made1 f(3);
    const auto costs = [&] {
        const Made made = f.make();
        return costsOf(f.job, made, 0, programOf(f.job, made, made.layout.sheets[0]));
    };
    const SheetCosts once = costs();
    CHECK(once.knifeLifts == 3);
    Tool& tool = f.job.profile.cutter.tools[std::size_t(LineKind::kiss)];
    tool.passes = 2;
    tool.overcut = 0.5;
    const SheetCosts twice = costs();
    CHECK(twice.knifeLifts == 6);
    CHECK(twice.cutLength.at(LineKind::kiss) == Approx(2 * once.cutLength.at(LineKind::kiss) + 6 * 0.5));
    const double seconds =
        (twice.cutLength.at(LineKind::kiss) + twice.travel) / tool.speed + 6 * secondsPerLift;
    CHECK(twice.minutes == Approx(seconds / 60));
    const Made made = f.make();
    const CutProgram program = programOf(f.job, made, made.layout.sheets[0]);
    double travel = 0;
    Point at;
    for (const CutStep& step : program)
        if (const auto* cut = std::get_if<Cut>(&step)) {
            travel += distance(at, cut->path.front());
            at = cut->path.back();
        }
    travel += length(at);
    CHECK(twice.travel == Approx(travel));
}

namespace {

std::vector<CutProgram> programsOf(const Job& job, const Made& made) {
    std::vector<CutProgram> programs;
    for (const Sheet& sheet : made.layout.sheets)
        programs.push_back(programOf(job, made, sheet));
    return programs;
}

} // namespace

TEST_CASE("what stickers cost: medium, ink, machine and weeding add up to what their sheets take") {
    Made1 f(24);
    f.job.designs.push_back(f.job.designs.front());
    f.job.designs.back().id = "second";
    f.job.designs.back().count = 10;
    f.job.designs.back().artwork = scaledToWidth(f.job.designs.back().artwork, 24);
    f.job.designs.back().recipe.bleed.amount = 0;
    f.job.designs.front().recipe.bleed.amount = 0;
    f.job.plan.medium.price = 8;
    f.job.prices = {12, 30, 18, 50, 6, 20};
    const Made made = f.make();
    const auto programs = programsOf(f.job, made);
    const std::vector<CostRow> rows = stickerCosts(f.job, made, programs);
    REQUIRE(rows.size() == 3);
    const CostRow& all = rows.back();
    CHECK(rows[0].count == 24);
    CHECK(rows[1].count == 10);
    CHECK(all.count == 34);
    const SheetCosts sheet = costsOf(f.job, made, 0, programs[0]);
    CHECK(all.costs.medium == Approx(sheet.money.value()));
    CHECK(all.minutes == Approx(sheet.minutes));
    CHECK(all.costs.machine == Approx(30 * sheet.minutes / 60));
    CHECK(rows[0].costs.total() + rows[1].costs.total() == Approx(all.costs.total()));
    CHECK(all.price == Approx(1.5 * all.costs.total()));
    // The F is drawn 40 by 60 within 60 by 80 pixels of 12 by 16 mm: 0.2 mm a pixel.
    const double printed = areaOfF * 0.04;
    CHECK(rows[0].printed == Approx(24 * printed).epsilon(0.01));
    CHECK(rows[0].costs.ink == Approx(12 * 24 * printed / 1e6).epsilon(0.01));
    CHECK(rows[1].printed == Approx(10 * 4 * printed).epsilon(0.01));
    CHECK(rows[0].weedMinutes == Approx((24 * 6 + 20 * rows[0].cutLength / 1000) / 60));
    CHECK(all.costs.weeding == Approx(18 * all.weedMinutes / 60));
    CHECK(rows[1].each() > rows[0].each()); // four times as large
    CHECK(rows[0].priceOfEach() == Approx(1.5 * rows[0].each()));
}

TEST_CASE("costs as CSV hold a line for each design and one for all, names quoted") {
    Made1 f(3);
    f.job.designs.front().name = "a \"good\", F";
    f.job.plan.medium.price = 10;
    const Made made = f.make();
    const std::string csv = costsCsv(f.job, stickerCosts(f.job, made, programsOf(f.job, made)));
    CHECK(std::count(csv.begin(), csv.end(), '\n') == 3);
    CHECK(csv.find("\"a \"\"good\"\", F\",3,") != std::string::npos);
    CHECK(csv.find("\"All\",3,") != std::string::npos);
}

TEST_CASE("counts that fill a row are good ones: one more sticker makes each dearer") {
    Made1 f(1);
    f.job.plan.medium.price = 8;
    const Made made = f.make();
    const auto costs = costsByCount(f.job, made, f.job.designs.front().id, 60);
    REQUIRE(costs.size() == 60);
    std::vector<int> good;
    for (const CountCost& cost : costs)
        if (cost.isGood)
            good.push_back(cost.count);
    REQUIRE(good.size() >= 3);
    for (std::size_t i = 1; i < good.size(); ++i)
        CHECK(good[i] - good[i - 1] == 3); // whole rows
    for (const CountCost& cost : costs)
        if (cost.count > good[0] && cost.count < good[1])
            CHECK(cost.medium * cost.count == Approx(costs[std::size_t(good[1]) - 1].medium * good[1]));
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(costsByCount(f.job, made, f.job.designs.front().id, 60, stop.get_token()), Stopped);
}
