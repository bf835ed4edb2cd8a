#include "base/error.h"
#include "support/shapes.h"
#include "workshop/cache_keys.h"
#include "workshop/workshop.h"

#include <catch2/catch.hpp>

#include <atomic>
#include <future>

using namespace hasami;
using namespace hasami::test;

namespace {

std::shared_ptr<const Asset> assetOf(char letter) {
    return std::make_shared<const Asset>(Asset{std::string(64, letter), std::string(1, letter) + ".png", {}});
}

/// 'a': the letter F in 60 x 80 pixels; 'b': nothing but faint pixels; else unreadable.
std::shared_ptr<const Picture> testPicture(const Asset& asset, const PictureWish&, const std::stop_token&) {
    if (asset.name == "a.png")
        return std::make_shared<const Picture>(
            pictureOf(drawn(60, 80, [](double x, double y) { return insideF(x - 10, y - 10); })));
    if (asset.name == "b.png")
        return std::make_shared<const Picture>(pictureOf(Grid<std::uint8_t>(60, 80, 40)));
    throw InputError(asset.name + " is a damaged PNG picture");
}

Job jobOf(std::initializer_list<char> letters) {
    Job job;
    for (const char letter : letters)
        addDesign(job, {assetOf(letter), 60, 80, 10}).count = 3;
    return job;
}

} // namespace

TEST_CASE("a kiss line lies at its offset around the artwork") {
    Cache cache;
    const Job job = jobOf({'a'});
    const Made made = makeAll(job, 7, testPicture, cache);
    CHECK(made.revision == 7);
    REQUIRE(made.designs.size() == 1);
    const Sticker& sticker = *made.designs[0].sticker;
    REQUIRE(sticker.lines.size() == 1);
    CHECK(sticker.lines[0].role == LineRole::outer);
    const Loop edge = flatten(sticker.edge[0], 0.0005), line = flatten(sticker.lines[0].curve, 0.0005);
    for (const Point p : line)
        REQUIRE(distanceToLoop(p, edge) == Approx(2).margin(0.03)); // two fits of 0.01 each, two flattenings
    CHECK(made.layout.pieces() == 3);
    CHECK(sticker.footprint.width() == Approx(4 + 4).margin(0.03)); // F of 4 mm, 2 mm on both sides
}

TEST_CASE("an offset of zero keeps the edge as it is, an inward one lies inside") {
    Cache cache;
    Job job = jobOf({'a'});
    job.designs[0].recipe.lines[0].offset = 0;
    const Made same = makeAll(job, 1, testPicture, cache);
    CHECK(same.designs[0].sticker->lines[0].curve == same.designs[0].sticker->edge[0]);
    job.designs[0].recipe.lines[0].offset = -0.3;
    job.designs[0].recipe.bleed.amount = 0;
    const Made inside = makeAll(job, 2, testPicture, cache);
    REQUIRE(inside.designs[0].sticker->lines.size() == 1);
    const Loop line = flatten(inside.designs[0].sticker->lines[0].curve, 0.001);
    CHECK(bounds(line).width() == Approx(4 - 0.6).margin(0.02));
    CHECK(inside.designs[0].sticker->footprint.width() == Approx(4 - 0.6).margin(0.03));
    // Where the print reaches past the line, the neighbours keep their distance from the print.
    job.designs[0].recipe.bleed.trims = false;
    CHECK(makeAll(job, 3, testPicture, cache).designs[0].sticker->footprint.width() >= 4);
}

TEST_CASE("a switch and a touch-up of the same numbers are not taken for each other") {
    EdgeOptions switched, touched;
    switched.switches.push_back({{0.1, 0.2}, 0.3, true, false, 0});
    touched.touchUps.push_back({{0.1, 0.2}, {0.3, 1}, {}, {}, 0});
    const auto keyOf = [](const EdgeOptions& options) {
        CacheKey key("edge");
        addChoice(key, options);
        addTouchUps(key, options);
        return key.text();
    };
    CHECK(keyOf(switched) != keyOf(touched));
}

TEST_CASE("a design whose lines are all left out says so") {
    Cache cache;
    Job job = jobOf({'a'});
    job.designs[0].recipe.lines[0].isCut = false;
    const Made made = makeAll(job, 1, testPicture, cache);
    CHECK(made.designs[0].trouble.find("is to be cut: tick one") != std::string::npos);
    CHECK(made.designs[0].sticker->leftOut.size() == 1);
}

TEST_CASE("designs that can't be made say why, the others are made") {
    Cache cache;
    Job job = jobOf({'a', 'b', 'c', 'a'});
    job.designs[3].recipe.lines[0].offset = -5;
    const Made made = makeAll(job, 1, testPicture, cache);
    CHECK(made.designs[0].trouble.empty());
    CHECK(made.designs[1].trouble.find("lower the level") != std::string::npos);
    CHECK(made.designs[2].trouble == "c.png is a damaged PNG picture");
    CHECK(made.designs[3].trouble.find("inward offset") != std::string::npos);
    CHECK(made.layout.pieces() == 3);
    job.designs[1].recipe.edge.level = 10;
    CHECK(makeAll(job, 2, testPicture, cache).designs[1].trouble.empty());
}

TEST_CASE("a picture of another size than the job says is told, not used") {
    Cache cache;
    Job job = jobOf({'a'});
    job.designs[0].artwork.items[0].pixelWidth = 61;
    CHECK(makeAll(job, 1, testPicture, cache).designs[0].trouble.find("another size") != std::string::npos);
}

TEST_CASE("only what follows a change is made anew") {
    Cache cache;
    int decoded = 0;
    const PictureSource counting = [&](const Asset& asset, const PictureWish& wish,
                                       const std::stop_token& stop) {
        ++decoded;
        return testPicture(asset, wish, stop);
    };
    Job job = jobOf({'a', 'a'});
    const Made first = makeAll(job, 1, counting, cache);
    CHECK(decoded == 1);
    job.plan.gap = 9;
    const Made second = makeAll(job, 2, counting, cache);
    CHECK(second.designs[0].sticker == first.designs[0].sticker);
    job.designs[0].recipe.lines[0].offset = 3;
    const Made third = makeAll(job, 3, counting, cache);
    CHECK(third.designs[0].sticker != first.designs[0].sticker);
    CHECK(third.designs[1].sticker == first.designs[1].sticker);
    CHECK(decoded == 1);
}

TEST_CASE("a full cache lets go of what was not used for longest") {
    Cache cache(100);
    int made = 0;
    const auto get = [&](const char* name, std::size_t bytes) {
        return *cache.findOrMake<int>(
            CacheKey(name), [&] { return ++made; }, [&](const int&) { return bytes; });
    };
    CHECK(get("a", 40) == 1);
    CHECK(get("b", 40) == 2);
    CHECK(get("a", 40) == 1);
    CHECK(get("c", 40) == 3); // b goes
    CHECK(get("a", 40) == 1);
    CHECK(get("b", 40) == 4);
}

TEST_CASE("keys of different parts never meet") {
    CHECK((CacheKey("k") << "ab"
                         << "c")
              .text() != (CacheKey("k") << "a"
                                        << "bc")
                             .text());
    CHECK((CacheKey("k") << 0.1).text() != (CacheKey("k") << std::nextafter(0.1, 1)).text());
}

TEST_CASE("of many revisions in a row the last is told, and older ones never after it") {
    std::mutex mutex;
    std::vector<std::uint64_t> told;
    std::promise<void> last;
    constexpr std::uint64_t revisions = 200;
    {
        const auto done = [&](const std::shared_ptr<const Made>& made) {
            const std::scoped_lock lock(mutex);
            told.push_back(made->revision);
            if (made->revision == revisions)
                last.set_value();
        };
        Workshop workshop(testPicture, {{}, done});
        Job job = jobOf({'a'});
        for (std::uint64_t r = 1; r <= revisions; ++r) {
            job.designs[0].recipe.edge.level = double(r % 90) + 5;
            workshop.submit(std::make_shared<const Job>(job), r);
        }
        REQUIRE(last.get_future().wait_for(std::chrono::seconds(30)) == std::future_status::ready);
    }
    CHECK(std::is_sorted(told.begin(), told.end()));
    CHECK(told.back() == revisions);
}

TEST_CASE("a workshop that closes stops what is under way") {
    std::atomic<int> told = 0;
    {
        Workshop workshop(testPicture, {{}, [&](const std::shared_ptr<const Made>&) { ++told; }});
        Job many = jobOf({'a'});
        for (int i = 0; i < 2000; ++i) {
            Design copy = many.designs[0];
            copy.id = "copy-" + std::to_string(i);
            copy.recipe.edge.level = 1 + i * 0.04;
            many.designs.push_back(copy);
        }
        workshop.submit(std::make_shared<const Job>(many), 1);
    }
    CHECK(told <= 1);
}

TEST_CASE("the design that one looks at is made first, each is told as it is there") {
    Cache cache;
    const Job job = jobOf({'a', 'b', 'a'});
    std::vector<std::string> order;
    const Made made = makeAll(job, 1, testPicture, cache, {},
                              {job.designs[2].id, [&](const MadeDesign& d) { order.push_back(d.design); }});
    CHECK(order == std::vector{job.designs[2].id, job.designs[0].id, job.designs[1].id});
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(made.designs[i].design == job.designs[i].id);
        CHECK(made.designs[i].recipe == job.designs[i].recipe);
    }
}

TEST_CASE("a slider that never rests still sees designs made") {
    // Each revision overtakes the one before while its design is being made.
    std::atomic<int> told = 0, done = 0;
    std::promise<void> last;
    constexpr std::uint64_t revisions = 200;
    {
        Workshop workshop(testPicture, {[&](std::uint64_t, const MadeDesign& made) {
                                            told += made.sticker->lines.size() == 1;
                                        },
                                        [&](const std::shared_ptr<const Made>& made) {
                                            ++done;
                                            if (made->revision == revisions)
                                                last.set_value();
                                        }});
        Job job = jobOf({'a'});
        for (std::uint64_t r = 1; r <= revisions; ++r) {
            job.designs[0].recipe.lines[0].offset = 1 + 0.01 * double(r);
            workshop.submit(std::make_shared<const Job>(job), r);
            std::this_thread::sleep_for(std::chrono::microseconds(300));
        }
        REQUIRE(last.get_future().wait_for(std::chrono::seconds(30)) == std::future_status::ready);
    }
    CHECK(told >= done);
    CHECK(done >= 1);
}

TEST_CASE("what a picture's decoder throws, of whatever kind, is the trouble of its design alone") {
    Cache cache;
    const Job job = jobOf({'a', 'b'});
    const std::string broken = job.designs[1].artwork.items[0].file()->asset;
    for (const bool noMemory : {false, true}) {
        const PictureSource source = [&](const Asset& asset, const PictureWish& wish,
                                         const std::stop_token& stop) {
            if (asset.sha256 == broken && noMemory)
                throw std::bad_alloc();
            if (asset.sha256 == broken)
                throw std::runtime_error("a library's own error");
            return testPicture(asset, wish, stop);
        };
        const Made made = makeAll(job, 1, source, cache);
        CHECK(made.designs[0].trouble.empty());
        CHECK(made.designs[1].trouble ==
              job.designs[1].name + (noMemory ? " can't be made: there is not enough memory"
                                              : " can't be made: a library's own error"));
        CHECK(made.designs[1].sticker->isEmpty());
    }
}

TEST_CASE("a workshop whose work fails as a whole still gives the revision, with its trouble") {
    std::promise<std::shared_ptr<const Made>> done;
    Workshop workshop(
        [](const Asset&, const PictureWish&, const std::stop_token&) -> std::shared_ptr<const Picture> {
            throw std::logic_error("never asked");
        },
        {[](std::uint64_t, const MadeDesign&) { throw std::runtime_error("the listener fails"); },
         [&](const std::shared_ptr<const Made>& made) { done.set_value(made); }});
    workshop.submit(std::make_shared<const Job>(jobOf({'a'})), 7);
    const auto made = done.get_future().get();
    CHECK(made->revision == 7);
    CHECK(made->trouble == "The job can't be made: the listener fails");
}

TEST_CASE("of threads that want the same result at once, one makes it; where it fails, the next one does") {
    Cache cache;
    std::atomic<int> made = 0;
    const auto ask = [&](bool fails) {
        return cache.findOrMake<int>(
            CacheKey("slow"),
            [&, fails] {
                ++made;
                std::this_thread::sleep_for(std::chrono::milliseconds(50));
                if (fails)
                    throw std::runtime_error("no");
                return 5;
            },
            [](int) { return sizeof(int); });
    };
    std::atomic<int> right = 0;
    {
        std::vector<std::jthread> threads;
        for (int i = 0; i < 6; ++i)
            threads.emplace_back([&] { right += *ask(false) == 5; });
    }
    CHECK(made == 1);
    CHECK(right == 6);

    Cache other;
    std::atomic<int> failed = 0;
    const auto fail = [&] {
        try {
            other.findOrMake<int>(
                CacheKey("bad"), []() -> int { throw std::runtime_error("no"); },
                [](int) { return sizeof(int); });
        } catch (const std::runtime_error&) {
            ++failed;
        }
    };
    { std::jthread a(fail), b(fail); }
    CHECK(failed == 2);
}

TEST_CASE("who waits for another's result can be stopped") {
    Cache cache;
    std::promise<void> begun, end;
    std::jthread slow([&] {
        cache.findOrMake<int>(
            CacheKey("slow"),
            [&] {
                begun.set_value();
                end.get_future().wait();
                return 1;
            },
            [](int) { return sizeof(int); });
    });
    begun.get_future().wait();
    std::stop_source stop;
    std::jthread stopper([&] { stop.request_stop(); });
    CHECK_THROWS_AS(
        cache.findOrMake<int>(
            CacheKey("slow"), [] { return 2; }, [](int) { return sizeof(int); }, stop.get_token()),
        Stopped);
    end.set_value();
}
