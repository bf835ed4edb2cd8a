#include "base/work_queue.h"

#include <catch2/catch.hpp>

#include <atomic>
#include <future>
#include <new>
#include <stdexcept>
#include <sys/resource.h>
#include <unistd.h>

using namespace hasami;

namespace {

/// The outcome of one piece of work on a queue of its own.
template <class Work>
auto outcomeOnQueue(Work work) {
    using Result = std::invoke_result_t<Work, const std::stop_token&>;
    std::promise<Outcome<Result>> promise;
    WorkQueue queue; // goes first: its thread may still be in the promise
    queue.run("bee.png can't be read", work,
              [&](Outcome<Result> outcome) { promise.set_value(std::move(outcome)); });
    return promise.get_future().get();
}

} // namespace

TEST_CASE("whatever work throws becomes a sentence, and the queue goes on") {
    const auto failure = [](auto thrown) {
        return outcomeOnQueue([thrown](const std::stop_token&) -> int { throw thrown; }).failure;
    };
    CHECK_THAT(failure(InputError("moth.png is cut short")), Catch::Equals("moth.png is cut short"));
    CHECK_THAT(failure(OutputError("the disk is full")), Catch::Equals("the disk is full"));
    CHECK_THAT(failure(std::bad_alloc()), Catch::Equals("bee.png can't be read: there is not enough memory"));
    CHECK_THAT(failure(std::runtime_error("odd")), Catch::Equals("bee.png can't be read: odd"));
    CHECK_THAT(failure(7), Catch::Equals("bee.png can't be read: an unknown error"));
    CHECK(outcomeOnQueue([](const std::stop_token&) { return 5; }).value == 5);
    CHECK(outcomeOnQueue([](const std::stop_token&) -> int { throw Stopped(); }).isStopped());
}

TEST_CASE("one thread does its work in the order in which it was added") {
    std::vector<int> order;
    {
        WorkQueue queue(1, WorkQueue::AtEnd::finish);
        for (int i = 0; i < 200; ++i)
            queue.run(
                "", [i](const std::stop_token&) { return i; },
                [&](const Outcome<int>& done) { order.push_back(done.value.value_or(-1)); });
    } // all is done to its end
    REQUIRE(order.size() == 200);
    CHECK(std::is_sorted(order.begin(), order.end()));
    CHECK(order.front() == 0);
}

TEST_CASE("work that is stopped before it begins is not begun; what is under way hears of it; each is told") {
    std::atomic<int> begun = 0, stopped = 0;
    std::promise<void> runs;
    {
        WorkQueue queue;
        const auto untilStopped = [&](const std::stop_token& stop) {
            if (++begun == 1)
                runs.set_value();
            while (!stop.stop_requested())
                std::this_thread::yield();
            throwIfStopped(stop);
            return 0;
        };
        const auto count = [&](const Outcome<int>& outcome) { stopped += outcome.isStopped(); };
        std::stop_source first = queue.run("", untilStopped, count);
        std::stop_source second = queue.run("", untilStopped, count);
        queue.run("", untilStopped, count); // ended with the queue
        runs.get_future().wait();
        second.request_stop();
        first.request_stop();
    }
    CHECK(begun <= 2);
    CHECK(stopped == 3);
}

TEST_CASE("several threads serve one queue at a time, as many as it was given") {
    std::promise<void> first, second;
    std::atomic<int> done = 0;
    // Each waits for the other: on one thread that would never end.
    const auto meet = [](std::promise<void>& mine, std::promise<void>& other) {
        return [&](const std::stop_token&) {
            mine.set_value();
            return other.get_future().wait_for(std::chrono::seconds(20)) == std::future_status::ready;
        };
    };
    std::promise<bool> result;
    WorkQueue queue(2, WorkQueue::AtEnd::finish);
    queue.run("", meet(first, second), [&](const Outcome<bool>& met) { done += met.value.value_or(false); });
    queue.run("", meet(second, first),
              [&](const Outcome<bool>& met) { result.set_value(met.value.value_or(false)); });
    CHECK(result.get_future().get());
}

TEST_CASE("work in the background leaves the processor to the window first") {
    const auto niceness = [] { return getpriority(PRIO_PROCESS, id_t(gettid())); };
    constexpr int most = 19;
    CHECK(outcomeOnQueue([&](const std::stop_token&) { return niceness(); }).value >=
          std::min(niceness() + 1, most));
}
