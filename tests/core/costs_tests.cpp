#include "checks/costs.h"
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
