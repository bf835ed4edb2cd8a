#include "job/history.h"

#include <catch2/catch.hpp>

#include <string>

using namespace hasami;

TEST_CASE("copies share a value until one of them changes it") {
    Shared<std::string> one(std::string("bee"));
    const std::string* where = one.operator->();
    Shared<std::string> other = one;
    CHECK(other.isSameAs(one));
    other.edit() += " 2";
    CHECK(*one == "bee");
    CHECK(*other == "bee 2");
    CHECK(one.operator->() == where); // only who changes it gets a new one
    one.edit() += " 2";
    CHECK(one.operator->() == where); // and who is alone with it does not
    CHECK(one == other);
    CHECK_FALSE(one.isSameAs(other));
}

TEST_CASE("a list of shared elements is as good as a list of its own") {
    SharedElements<std::string> list{"a", "b", "c", "d"};
    const SharedElements<std::string> before = list;
    list[1] = "B";
    list.insert(2, "new");
    list.erase(0);
    list.move(0, 3);
    std::string all;
    for (const std::string& s : std::as_const(list))
        all += s;
    CHECK(all == "newcdB");
    std::string old;
    for (const std::string& s : before)
        old += s;
    CHECK(old == "abcd");
    CHECK(&std::as_const(list)[1] == &before[2]); // what was not changed is shared
    CHECK(std::as_const(list).end() - std::as_const(list).begin() == 4);
    list.clear();
    CHECK(list.empty());
}

TEST_CASE("changing one of many designs keeps all others, the assets and the laid pieces shared") {
    Job job;
    for (int i = 0; i < 100; ++i) {
        auto asset = std::make_shared<Asset>();
        asset->sha256 = std::to_string(1000 + i);
        asset->name = std::to_string(i) + ".png";
        addDesign(job, {asset, 60, 80, 5});
        job.plan.laid.edit().push_back({job.designs.back().id, 0, {double(i), 0}});
    }
    const Job before = job;
    Job& after = job;
    after.find(std::as_const(after).designs[40].id)->recipe.lines.front().offset = 3;
    int other = 0;
    for (std::size_t i = 0; i < 100; ++i)
        other += &std::as_const(after).designs[i] != &before.designs[i];
    CHECK(other == 1);
    CHECK(after.assets.isSameAs(before.assets));
    CHECK(after.plan.laid.isSameAs(before.plan.laid));
    CHECK_FALSE(after == before);
    // What one step of the history takes of a job of 5,000 designs, of which one was changed.
    CHECK(sizeof(Job) + 5000 * sizeof(Shared<Design>) + sizeof(Design) < 100'000);
}
