#pragma once

#include "workshop/make_all.h"

#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

namespace hasami {

/// Works out jobs in the background. What is under way for an older revision is stopped as soon as a newer
/// one comes; only the newest is ever finished.
class Workshop {
public:
    /// Both are called from the workshop's thread: `designMade` as each design is there, also one that was
    /// just overtaken (so that the picture follows a slider that never rests), `done` once for each revision
    /// that was not.
    struct Tells {
        std::function<void(std::uint64_t revision, MadeDesign)> designMade;
        std::function<void(std::shared_ptr<const Made>)> done;
    };
    Workshop(PictureSource pictures, Tells tells);
    ~Workshop();
    Workshop(const Workshop&) = delete;
    Workshop& operator=(const Workshop&) = delete;

    /// `first` is made before the other designs.
    void submit(Job job, std::uint64_t revision, std::string first = {});

private:
    struct Order {
        Job job;
        std::uint64_t revision;
        std::string first;
        std::stop_source stop;
    };

    void work(const std::stop_token& closing);

    PictureSource pictures_;
    Tells tells_;
    Cache cache_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> next_;
    std::stop_source underWay_;
    std::jthread thread_; // last: starts when all else is there, ends before anything goes
};

} // namespace hasami
