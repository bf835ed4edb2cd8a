#pragma once

#include "base/error.h"

#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <optional>
#include <string>
#include <thread>
#include <type_traits>
#include <utility>
#include <vector>

namespace hasami {

/// One sentence on why work failed, for a sticker maker: the text of an InputError or OutputError as it is;
/// for every other exception what failed and why, as "The sheet can't be laid out: there is not enough
/// memory". `what` names it, as "The sheet can't be laid out". REQUIRES: not null, and not Stopped.
std::string failureSentence(const std::exception_ptr& failure, const std::string& what);

/// What came of work in the background: its value, or a sentence on why there is none, or neither where it
/// was stopped.
template <class T>
struct Outcome {
    std::optional<T> value = {};
    std::string failure = {};

    bool isStopped() const { return !value && failure.empty(); }
};

/// Calls `work` and catches all that it throws.
template <class Work>
auto outcomeOf(const std::string& what, Work&& work) -> Outcome<std::invoke_result_t<Work>> {
    try {
        return {work(), {}};
    } catch (const Stopped&) {
        return {};
    } catch (...) {
        return {{}, failureSentence(std::current_exception(), what)};
    }
}

/// Work in the background, begun in the order in which it was added, on threads of the queue's own. All that
/// is not done on the interface's thread goes through such queues: one for each purpose, so that what is slow
/// in one holds up nothing in another. May be used from any thread.
class WorkQueue {
public:
    /// What becomes of the work that there still is when the queue goes: it is stopped, or done to its end.
    enum class AtEnd { stop, finish };
    explicit WorkQueue(int threads = 1, AtEnd atEnd = AtEnd::stop) : threads_(threads), atEnd_(atEnd) {}
    ~WorkQueue();
    WorkQueue(const WorkQueue&) = delete;
    WorkQueue& operator=(const WorkQueue&) = delete;

    /// Calls `work(stop token)`, then `done(Outcome)`, both in a thread of the queue. `what` names the work
    /// in a sentence on its failure. Work that was stopped before it began is not begun; `done` is called all
    /// the same. `done` must not throw.
    template <class Work, class Done>
    std::stop_source run(std::string what, Work work, Done done) {
        std::stop_source stop;
        add({[what = std::move(what), work = std::move(work),
              done = std::move(done)](const std::stop_token& token) {
                 done(outcomeOf(what, [&] {
                     throwIfStopped(token);
                     return work(token);
                 }));
             },
             stop});
        return stop;
    }

private:
    struct Order {
        std::function<void(const std::stop_token&)> work;
        std::stop_source stop;
    };

    void add(Order order);
    void serve(const std::stop_token& closing);

    int threads_;
    AtEnd atEnd_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::deque<Order> waiting_;
    std::vector<std::stop_source> underWay_;
    int idle_ = 0;
    std::vector<std::jthread> workers_; // started as they are needed
};

} // namespace hasami
