#pragma once

#include "workshop/make_all.h"

#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

namespace hasami {

/// Works out jobs in the background. What is under way for an older revision is stopped as soon as a newer
/// one comes; only the newest is ever finished and told.
class Workshop {
public:
    /// `done` is called from the workshop's thread, once for each revision that was not overtaken.
    Workshop(PictureSource pictures, std::function<void(std::shared_ptr<const Made>)> done);
    ~Workshop();
    Workshop(const Workshop&) = delete;
    Workshop& operator=(const Workshop&) = delete;

    void submit(Job job, std::uint64_t revision);

private:
    struct Order {
        Job job;
        std::uint64_t revision;
        std::stop_source stop;
    };

    void work(const std::stop_token& closing);

    PictureSource pictures_;
    std::function<void(std::shared_ptr<const Made>)> done_;
    Cache cache_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> next_;
    std::stop_source underWay_;
    std::jthread thread_; // last: starts when all else is there, ends before anything goes
};

} // namespace hasami
