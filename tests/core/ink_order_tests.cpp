#include "base/json_reader.h"
#include "job/white_place.h"
#include "profile/profile.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <algorithm>

using namespace hasami;

namespace {

using Passes = std::vector<InkOrder::Pass>;
constexpr InkOrder::Pass colours;
constexpr auto white = InkKind::white, gloss = InkKind::gloss, primer = InkKind::primer;

/// All orders there are: the colours once and twice.
std::vector<InkOrder> allOrders() {
    std::vector<InkOrder> orders;
    for (Passes passes :
         {Passes{colours, white, gloss, primer}, Passes{colours, colours, white, gloss, primer}}) {
        std::ranges::sort(passes);
        do
            if (InkOrder::isValid(passes))
                orders.emplace_back(passes);
        while (std::ranges::next_permutation(passes).found);
    }
    return orders;
}

Design printed(bool isMirrored, InkArea area = InkArea::silhouette) {
    Design design;
    design.recipe.isMirrored = isMirrored;
    design.recipe.inks = {{white, area}};
    return design;
}

Job jobOf(const std::vector<Design>& designs) {
    Job job;
    for (const Design& design : designs)
        job.designs.push_back(design);
    return job;
}

} // namespace

TEST_CASE("white lies under, over or between the colours") {
    CHECK(InkOrder().white() == WhitePlace::under);
    CHECK(InkOrder({primer, white, colours, gloss}) == InkOrder());
    CHECK(InkOrder({colours, white, gloss, primer}).white() == WhitePlace::over);
    CHECK(InkOrder({colours, gloss, white, primer}).white() == WhitePlace::over);
    CHECK(InkOrder({primer, colours, white, colours, gloss}).white() == WhitePlace::between);
    CHECK(InkOrder({white, colours, gloss, colours, primer}).white() == WhitePlace::under);
    CHECK(InkOrder().with(WhitePlace::over) == InkOrder({primer, colours, white, gloss}));
    CHECK(InkOrder().with(WhitePlace::between) == InkOrder({primer, colours, white, colours, gloss}));
    CHECK(InkOrder().inks() == std::vector{primer, white, gloss});
    CHECK(InkOrder().seen(true) == Passes{gloss, colours, white, primer});
}

TEST_CASE("from every order white goes to every place, and the other inks keep theirs") {
    const auto orders = allOrders();
    CHECK(orders.size() == 24 + 36);
    for (const InkOrder& order : orders)
        for (const WhitePlace place : whitePlaces) {
            const InkOrder moved = order.with(place);
            CHECK(InkOrder::isValid(moved.passes()));
            CHECK(moved.white() == place);
            CHECK(moved.printsColoursTwice() == (place == WhitePlace::between));
            auto before = order.inks(), after = moved.inks();
            std::erase(before, white);
            std::erase(after, white);
            CHECK(before == after);
            CHECK(moved.with(place) == moved);
        }
}

TEST_CASE("orders are kept in profiles, and those without colours are read as before") {
    for (const InkOrder& order : allOrders()) {
        Profile profile = startProfile();
        profile.printer.inkOrder = order;
        CHECK(profileFromJson({toJson(profile), "profile"}) == profile);
    }
    nlohmann::json json = toJson(startProfile());
    json["inkOrder"] = {"primer", "white", "gloss"};
    CHECK(profileFromJson({json, "profile"}).printer.inkOrder == InkOrder());
    json["inkOrder"] = {"gloss", "primer", "white"};
    CHECK(profileFromJson({json, "profile"}).printer.inkOrder == InkOrder({gloss, primer, white, colours}));
}

TEST_CASE("white moves to where it hides no design's colours") {
    CHECK_FALSE(whitePlaceFor(jobOf({})));
    CHECK_FALSE(whitePlaceFor(jobOf({printed(true, InkArea::colours)}))); // a colour of its own
    CHECK(whitePlaceFor(jobOf({printed(false)})) == WhitePlace::under);
    CHECK(whitePlaceFor(jobOf({printed(true), printed(true)})) == WhitePlace::over);
    CHECK(whitePlaceFor(jobOf({printed(true), printed(false)})) == WhitePlace::between);

    Job job = jobOf({printed(true)});
    suitInkOrder(job);
    CHECK(job.profile.printer.inkOrder.white() == WhitePlace::over);
    job = jobOf({printed(false)});
    const InkOrder between = InkOrder().with(WhitePlace::between);
    job.profile.printer.inkOrder = between; // suits all: it stays
    suitInkOrder(job);
    CHECK(job.profile.printer.inkOrder == between);
}
