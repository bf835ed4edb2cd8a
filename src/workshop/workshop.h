#pragma once

#include "base/work_queue.h"
#include "workshop/make_all.h"

#include <functional>

namespace hasami {

/// Makes jobs in the background. What is under way for an older revision is stopped as soon as a newer one
/// comes; only the newest is ever finished.
class Workshop {
public:
    /// Both are called from the workshop's thread: `designMade` as each design is there, also one that was
    /// just overtaken (so that the picture follows a slider that never rests), `done` once for each revision
    /// that was not; whatever went wrong, its trouble says so.
    struct Tells {
        std::function<void(std::uint64_t revision, MadeDesign)> designMade;
        std::function<void(std::shared_ptr<const Made>)> done;
    };
    Workshop(PictureSource pictures, Tells tells);
    ~Workshop();
    Workshop(const Workshop&) = delete;
    Workshop& operator=(const Workshop&) = delete;

    /// `first` is made before the other designs.
    void submit(std::shared_ptr<const Job> job, std::uint64_t revision, std::string first = {});

private:
    PictureSource pictures_;
    Tells tells_;
    Cache cache_;
    std::stop_source closing_, underWay_;
    WorkQueue queue_; // last: its thread ends before anything goes
};

} // namespace hasami
